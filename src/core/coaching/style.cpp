// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/style.h"

#include <algorithm>

#include "core/base/resources.h"
#include "core/coaching/limit_reader.h"
#include "core/lifts/squat.h"

namespace jib::coaching {
namespace {

Side sideNamed(TomlTable& table, const std::string& name) {
  if (name == "above") return Side::Above;
  if (name == "below") return Side::Below;
  if (name == "beyond") return Side::Beyond;
  table.refuse("\"side\" is \"above\", \"below\" or \"beyond\"");
}

}  // namespace

Limit readLimit(const std::string& finding, TomlTable& table) {
  Limit limit;
  limit.finding = finding;
  limit.measure = table.text("measure");
  limit.unit = table.text("unit");
  limit.side = sideNamed(table, table.text("side"));
  limit.limit = table.number("limit");
  limit.strong = table.number("strong");
  limit.variant = table.textOr("variant", "");
  limit.why = table.text("why");
  limit.settle = table.text("settle");
  table.refuseUnknown();
  const lifts::MeasureKind* kind = lifts::squatKind(limit.measure);
  if (!kind) table.refuse("no measure is called \"" + limit.measure + "\"");
  if (kind->unit != limit.unit)
    table.refuse("the unit of " + limit.measure + " is \"" + std::string(kind->unit) + "\"");
  return limit;
}

std::string Style::fullTitle() const {
  std::string text = title;
  for (const std::string& side : sides) text += (&side == &sides.front() ? "; " : ", ") + side;
  return text;
}

const Limit* Style::limit(std::string_view finding) const& {
  for (const Limit& l : limits)
    if (l.finding == finding) return &l;
  return nullptr;
}

Result<Style> loadStyle(const std::filesystem::path& file) {
  Style style;
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    for (const auto& [key, node] : root) {
      const toml::table* table = node.as_table();
      if (!table) TomlTable(root, name).refuse("\"" + std::string(key.str()) + "\" is not known here", &node);
      if (key.str() == "style") {
        TomlTable head(*table, name);
        style.id = head.text("id");
        style.title = head.text("title");
        style.why = head.text("why");
        style.cue_limit = static_cast<int>(head.number("cue_limit"));
        head.refuseUnknown();
        continue;
      }
      if (key.str() == "switches") {
        TomlTable sides(*table, name);
        for (const auto& [topic, choice] : *table) style.switches[std::string(topic.str())] = sides.text(topic.str());
        continue;
      }
      for (const auto& [finding, entry] : *table) {
        const toml::table* limit = entry.as_table();
        if (!limit) TomlTable(*table, name).refuse("\"" + std::string(finding.str()) + "\" must be a table", &entry);
        TomlTable body(*limit, name);
        style.limits.push_back(readLimit(std::string(key.str()) + "." + std::string(finding.str()), body));
      }
    }
    if (style.id.empty()) TomlTable(root, name).refuse("the table [style] is missing");
  });
  if (!read) return fail(read.error());
  return style;
}

Result<Style> shippedStyle(std::string_view id) {
  return loadStyle(resource("styles/" + std::string(id) + ".toml"));
}

}  // namespace jib::coaching
