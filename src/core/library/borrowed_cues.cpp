// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/borrowed_cues.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/base/files.h"

namespace jib::library {
namespace {

std::filesystem::path fileIn(const std::filesystem::path& folder) {
  return folder / "borrowed-cues.json";
}

}  // namespace

std::vector<BorrowedCue> borrowedCues(const std::filesystem::path& folder) {
  std::vector<BorrowedCue> all;
  std::error_code error;
  if (!std::filesystem::exists(fileIn(folder), error)) return all;
  const auto text = FileSystem::real().read(fileIn(folder));
  const auto j = nlohmann::json::parse(text ? *text : std::string(), nullptr, false);
  if (!j.is_array()) return all;
  for (const auto& one : j) {
    const auto string = [&](const char* key) {
      const auto it = one.find(key);
      return it != one.end() && it->is_string() ? it->get<std::string>() : std::string();
    };
    if (!one.is_object() || string("wording").empty()) continue;
    all.push_back({string("finding"), string("title"), string("wording"), string("drill"), string("from")});
  }
  return all;
}

Result<bool> borrowCues(const std::filesystem::path& folder, const std::vector<BorrowedCue>& cues) {
  auto all = borrowedCues(folder);
  for (const BorrowedCue& c : cues)
    if (std::none_of(all.begin(), all.end(),
                     [&](const BorrowedCue& b) { return b.finding == c.finding && b.wording == c.wording; }))
      all.push_back(c);
  auto j = nlohmann::json::array();
  for (const BorrowedCue& c : all)
    j.push_back(
        {{"finding", c.finding}, {"title", c.title}, {"wording", c.wording}, {"drill", c.drill}, {"from", c.from}});
  return writeWhole(FileSystem::real(), fileIn(folder),
                    j.dump(1, ' ', false, nlohmann::json::error_handler_t::replace) + "\n");
}

}  // namespace jib::library
