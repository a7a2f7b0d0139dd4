// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/style.h"

#include <algorithm>
#include <functional>

#include "core/base/resources.h"
#include "core/coaching/limit_reader.h"
#include "core/lifts/lift.h"

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
  const lifts::MeasureDefinition* kind = lifts::measureDefinition(limit.measure);
  if (!kind) table.refuse("no measure is called \"" + limit.measure + "\"");
  if (kind->unit != limit.unit)
    table.refuse("the unit of " + limit.measure + " is \"" + std::string(kind->unit) + "\"");
  return limit;
}

bool TakenSide::concerns(lifts::LiftId lift) const {
  return lifts.empty() || std::find(lifts.begin(), lifts.end(), lift) != lifts.end();
}

std::size_t Style::lookedAt(std::string_view finding) const {
  std::size_t at = 0;
  while (at < looking_order.size() && finding.find(looking_order[at]) == std::string_view::npos) ++at;
  return at;
}

const Limit* Style::limit(std::string_view finding) const& {
  for (const Limit& l : limits)
    if (l.finding == finding) return &l;
  return nullptr;
}

namespace {

// Calls `each` with "lift.finding" and its table, for all tables of tables in a file but those `others` takes.
void eachFinding(const toml::table& root, const std::string& name,
                 const std::function<bool(std::string_view key, const toml::table& table)>& others,
                 const std::function<void(const std::string& finding, TomlTable table)>& each) {
  for (const auto& [key, node] : root) {
    const toml::table* table = node.as_table();
    if (!table) TomlTable(root, name).refuse("\"" + std::string(key.str()) + "\" is not known here", &node);
    if (others && others(key.str(), *table)) continue;
    if (!lifts::liftNamed(key.str()))
      TomlTable(root, name).refuse("no lift is called \"" + std::string(key.str()) + "\"");
    for (const auto& [finding, entry] : *table) {
      const toml::table* limit = entry.as_table();
      if (!limit) TomlTable(*table, name).refuse("\"" + std::string(finding.str()) + "\" must be a table", &entry);
      each(std::string(key.str()) + "." + std::string(finding.str()), TomlTable(*limit, name));
    }
  }
}

// A whole limit of the style's own, or what it changes of one that is known.
void apply(Style& style, const std::string& finding, TomlTable& table) {
  const auto known =
      std::find_if(style.limits.begin(), style.limits.end(), [&](const Limit& l) { return l.finding == finding; });
  if (!table.textOr("measure", "").empty()) {
    Limit own = readLimit(finding, table);
    if (known == style.limits.end())
      style.limits.push_back(std::move(own));
    else
      *known = std::move(own);
    return;
  }
  if (known == style.limits.end()) table.refuse("\"" + finding + "\" is no finding of ours: give it a \"measure\"");
  const bool leave_out = table.flagOr("leave_out", false);
  if (table.textOr("unit", known->unit) != known->unit)
    table.refuse("the unit of " + known->measure + " is \"" + known->unit + "\"");
  known->limit = table.numberOr("limit", known->limit);
  known->strong = table.numberOr("strong", known->strong);
  known->why = table.textOr("why", known->why);
  table.refuseUnknown();
  if (leave_out) style.limits.erase(known);
}

}  // namespace

Result<std::vector<Limit>> shippedLimits() {
  std::vector<Limit> limits;
  for (const lifts::LiftDefinition& lift : lifts::allLifts()) {
    std::map<int, Limit> in_order;  // by line of the file
    auto read = readToml(resource("findings/" + std::string(lift.name) + ".toml"),
                         [&](const toml::table& root, const std::string& name) {
                           eachFinding(root, name, {}, [&](const std::string& finding, TomlTable table) {
                             in_order.emplace(table.line(), readLimit(finding, table));
                           });
                         });
    if (!read) return fail(read.error());
    for (auto& [line, limit] : in_order) limits.push_back(std::move(limit));
  }
  return limits;
}

Result<Style> loadStyle(const std::filesystem::path& file) {
  auto limits = shippedLimits();
  if (!limits) return fail(limits.error());
  Style style;
  style.limits = std::move(*limits);
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    const auto head = [&](std::string_view key, const toml::table& table) {
      TomlTable entry(table, name);
      if (key == "style") {
        style.id = entry.text("id");
        style.title = entry.text("title");
        style.why = entry.text("why");
        style.cue_limit = static_cast<int>(entry.number("cue_limit"));
        entry.refuseUnknown();
      } else if (key == "switches") {
        for (const auto& [topic, choice] : table) style.switches[std::string(topic.str())] = entry.text(topic.str());
      } else {
        return false;
      }
      return true;
    };
    eachFinding(root, name, head, [&](const std::string& finding, TomlTable table) { apply(style, finding, table); });
    if (style.id.empty()) TomlTable(root, name).refuse("the table [style] is missing");
  });
  if (!read) return fail(read.error());
  return style;
}

Result<Style> shippedStyle(std::string_view id) {
  return loadStyle(resource("styles/" + std::string(id) + ".toml"));
}

}  // namespace jib::coaching
