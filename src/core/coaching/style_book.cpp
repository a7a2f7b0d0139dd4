// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/style_book.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/files.h"
#include "core/base/resources.h"

namespace jib::coaching {
namespace {

// By name, so that the order does not depend on the disk.
std::vector<std::filesystem::path> tomlFilesIn(const std::filesystem::path& folder) {
  std::error_code ignored;
  std::vector<std::filesystem::path> files;
  for (std::filesystem::directory_iterator at(folder, ignored), end; !ignored && at != end; at.increment(ignored))
    if (at->path().extension() == ".toml") files.push_back(at->path());
  std::sort(files.begin(), files.end());
  return files;
}

using OwnLimits = std::map<std::string, std::map<std::string, double>, std::less<>>;

// What cannot be read is a trouble, not an end: every limit is then where the style has it.
Result<OwnLimits> ownLimitsIn(const std::filesystem::path& file) {
  OwnLimits own;
  std::error_code ignored;
  if (!std::filesystem::exists(file, ignored)) return own;
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  const auto j = nlohmann::json::parse(*bytes, nullptr, false);
  const auto wrong = fail(ErrorCode::BadData, file.string() + " can't be read.",
                          R"(Write it as {"balanced": {"a finding": 8}}, or delete it.)");
  if (!j.is_object()) return wrong;
  for (const auto& [style, limits] : j.items()) {
    if (!limits.is_object()) return wrong;
    for (const auto& [finding, limit] : limits.items()) {
      if (!limit.is_number() || !std::isfinite(limit.get<double>())) return wrong;
      own[style][finding] = limit.get<double>();
    }
  }
  return own;
}

}  // namespace

Result<StyleBook> StyleBook::shipped() {
  StyleBook book;
  auto topics = Topics::shipped();
  if (!topics) return fail(topics.error());
  book.topics_ = std::move(*topics);
  for (const auto& file : tomlFilesIn(resource("styles"))) {
    auto style = loadStyle(file);
    if (!style) return fail(style.error());
    book.styles_.push_back(std::move(*style));
  }
  return book;
}

Result<StyleBook> StyleBook::forLibrary(const std::filesystem::path& folder) {
  auto book = shipped();
  if (!book) return book;
  std::error_code ignored;
  for (const auto& file : tomlFilesIn(folder / "styles")) {
    auto style = loadStyle(file);
    if (!style) {
      book->troubles_.push_back(style.error().sentence());
      continue;
    }
    const auto same =
        std::find_if(book->styles_.begin(), book->styles_.end(), [&](const Style& s) { return s.id == style->id; });
    if (same == book->styles_.end())
      book->styles_.push_back(std::move(*style));
    else
      *same = std::move(*style);
  }
  if (const auto file = folder / "topics.toml"; std::filesystem::exists(file, ignored)) {
    auto topics = Topics::load(file);
    if (topics)
      book->topics_ = std::move(*topics);
    else
      book->troubles_.push_back(topics.error().sentence());
  }
  auto own = ownLimitsIn(folder / "limits.json");
  if (own)
    book->own_limits_ = std::move(*own);
  else
    book->troubles_.push_back(own.error().sentence());
  return book;
}

Result<bool> StyleBook::moveLimit(const std::filesystem::path& folder, const std::string& style,
                                  const std::string& finding, std::optional<double> to) {
  auto own = ownLimitsIn(folder / "limits.json");
  if (!own) return fail(own.error());
  if (to)
    (*own)[style][finding] = *to;
  else
    (*own)[style].erase(finding);
  nlohmann::json j = nlohmann::json::object();
  for (const auto& [name, limits] : *own)
    if (!limits.empty()) j[name] = limits;
  return writeWhole(FileSystem::real(), folder / "limits.json", j.dump(2) + "\n");
}

Result<Style> StyleBook::style(std::string_view id, const Switches& chosen) const {
  std::string known;
  for (const Style& s : styles_) {
    if (s.id == id) {
      Style applied = topics_.applied(s, chosen);
      if (const auto own = own_limits_.find(id); own != own_limits_.end())
        for (Limit& limit : applied.limits)
          if (const auto moved = own->second.find(limit.finding); moved != own->second.end()) {
            limit.moved_from = limit.limit;
            limit.limit = moved->second;
          }
      return applied;
    }
    known += (known.empty() ? "" : ", ") + s.id;
  }
  return fail(ErrorCode::WrongUse, "There is no coaching style \"" + std::string(id) + "\".",
              "Choose one of " + known + ".");
}

}  // namespace jib::coaching
