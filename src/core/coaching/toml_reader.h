// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <toml++/toml.h>
#include <filesystem>
#include <functional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"

namespace jib::coaching {

// A table of a TOML file of ours, read strictly: what is missing, of the wrong type or not known is an error that names
// file and line. Throws TomlTrouble; the loaders turn it into an Error.
struct TomlTrouble {
  std::string what;
};

class TomlTable {
 public:
  TomlTable(const toml::table& table, std::string file) : table_(table), file_(std::move(file)) {}

  std::string text(std::string_view key);
  std::string textOr(std::string_view key, std::string_view otherwise);  // when the key is not there
  double number(std::string_view key);
  double numberOr(std::string_view key, double otherwise);
  bool flagOr(std::string_view key, bool otherwise);
  std::vector<std::string> texts(std::string_view key);
  std::vector<std::string> textsOr(std::string_view key);  // empty when the key is not there
  // A list of tables; empty when the key is not there.
  std::vector<TomlTable> tables(std::string_view key);
  // Where it begins in its file: tables are handed out by name, and some files mean their order.
  int line() const { return static_cast<int>(table_.source().begin.line); }
  void refuseUnknown() const;
  [[noreturn]] void refuse(const std::string& what, const toml::node* at = nullptr) const;

 private:
  const toml::node& need(std::string_view key);

  const toml::table& table_;
  std::string file_;
  std::set<std::string, std::less<>> known_;
};

// Parses the file and hands its root to `read`, which may throw TomlTrouble.
Result<bool> readToml(const std::filesystem::path& file,
                      const std::function<void(const toml::table& root, const std::string& name)>& read);

}  // namespace jib::coaching
