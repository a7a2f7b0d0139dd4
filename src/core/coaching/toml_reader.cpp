// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/toml_reader.h"

#include <fmt/format.h>

#include "core/base/files.h"
#include "core/base/spelling.h"

namespace jib::coaching {

void TomlTable::refuse(const std::string& what, const toml::node* at) const {
  const auto line = (at ? at->source() : table_.source()).begin.line;
  throw TomlTrouble{fmt::format("{}, line {}: {}", file_, line, what)};
}

const toml::node& TomlTable::need(std::string_view key) {
  known_.insert(std::string(key));
  const toml::node* node = table_.get(key);
  if (!node) refuse(fmt::format("\"{}\" is missing", key));
  return *node;
}

std::string TomlTable::text(std::string_view key) {
  const toml::node& node = need(key);
  const auto value = node.value<std::string>();
  if (!node.is_string() || !value) refuse(fmt::format("\"{}\" must be text", key), &node);
  return spelled(*value);
}

std::string TomlTable::textOr(std::string_view key, std::string_view otherwise) {
  known_.insert(std::string(key));
  return table_.get(key) ? text(key) : std::string(otherwise);
}

double TomlTable::numberOr(std::string_view key, double otherwise) {
  known_.insert(std::string(key));
  return table_.get(key) ? number(key) : otherwise;
}

bool TomlTable::flagOr(std::string_view key, bool otherwise) {
  known_.insert(std::string(key));
  const toml::node* node = table_.get(key);
  if (!node) return otherwise;
  const auto value = node->value<bool>();
  if (!node->is_boolean() || !value) refuse(fmt::format("\"{}\" must be true or false", key), node);
  return *value;
}

double TomlTable::number(std::string_view key) {
  const toml::node& node = need(key);
  const auto value = node.value<double>();
  if (!node.is_number() || !value) refuse(fmt::format("\"{}\" must be a number", key), &node);
  return *value;
}

std::vector<std::string> TomlTable::texts(std::string_view key) {
  const toml::node& node = need(key);
  const toml::array* array = node.as_array();
  if (!array) refuse(fmt::format("\"{}\" must be a list of texts", key), &node);
  std::vector<std::string> all;
  for (const auto& item : *array) {
    const auto value = item.value<std::string>();
    if (!value) refuse(fmt::format("\"{}\" must hold only texts", key), &item);
    all.push_back(spelled(*value));
  }
  return all;
}

std::vector<std::string> TomlTable::textsOr(std::string_view key) {
  known_.insert(std::string(key));
  return table_.get(key) ? texts(key) : std::vector<std::string>{};
}

std::vector<TomlTable> TomlTable::tables(std::string_view key) {
  known_.insert(std::string(key));
  const toml::node* node = table_.get(key);
  if (!node) return {};
  const toml::array* array = node->as_array();
  if (!array) refuse(fmt::format("\"{}\" must be a list of tables", key), node);
  std::vector<TomlTable> all;
  for (const auto& item : *array) {
    const toml::table* table = item.as_table();
    if (!table) refuse(fmt::format("\"{}\" must hold only tables", key), &item);
    all.emplace_back(*table, file_);
  }
  return all;
}

void TomlTable::refuseUnknown() const {
  for (const auto& [key, node] : table_)
    if (!known_.count(key.str())) refuse(fmt::format("\"{}\" is not known here", key.str()), &node);
}

Result<bool> readToml(const std::filesystem::path& file,
                      const std::function<void(const toml::table&, const std::string&)>& read) {
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  try {
    const toml::table root = toml::parse(*bytes);
    read(root, file.filename().string());
  } catch (const TomlTrouble& trouble) {
    return fail(ErrorCode::BadData, trouble.what + ".", "Correct the file and start again.");
  } catch (const toml::parse_error& e) {
    return fail(ErrorCode::BadData,
                fmt::format("{}, line {}: {}.", file.filename().string(), e.source().begin.line, e.description()),
                "Correct the file and start again.");
  }
  return true;
}

}  // namespace jib::coaching
