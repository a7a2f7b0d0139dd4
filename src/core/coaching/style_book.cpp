// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/style_book.h"

#include <algorithm>

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
  return book;
}

Result<Style> StyleBook::style(std::string_view id, const Switches& chosen) const {
  std::string known;
  for (const Style& s : styles_) {
    if (s.id == id) return topics_.applied(s, chosen);
    known += (known.empty() ? "" : ", ") + s.id;
  }
  return fail(ErrorCode::WrongUse, "There is no coaching style \"" + std::string(id) + "\".",
              "Choose one of " + known + ".");
}

}  // namespace jib::coaching
