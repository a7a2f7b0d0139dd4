// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/change_book.h"

#include <algorithm>
#include <sstream>

#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"

namespace jib::coaching {
namespace {

ChangeKind kindNamed(const std::string& name, const TomlTable& table) {
  const auto all = changeDefinitions();
  const auto kind = std::find_if(all.begin(), all.end(), [&](const ChangeDefinition& d) { return d.name == name; });
  if (kind == all.end()) table.refuse("there is no change \"" + name + "\"");
  return kind->kind;
}

bool fits(const std::string& way, const Change& change) {
  if (way.empty()) return true;
  if (way == "more") return change.direction() > 0;
  if (way == "less") return change.direction() < 0;
  return change.to_words.find(way) != std::string::npos;
}

}  // namespace

Result<ChangeBook> ChangeBook::load(const std::filesystem::path& file) {
  ChangeBook book;
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    for (const auto& [key, node] : root) {
      const auto* lift = node.as_table();
      if (!lift || !lifts::liftNamed(key.str()))
        throw TomlTrouble{name + ": there is no lift \"" + std::string(key.str()) + "\""};
      TomlTable table(*lift, name);
      OfLift& of = book.lifts_[std::string(key.str())];
      for (const std::string& offered : table.texts("offered")) of.offered.push_back(kindNamed(offered, table));
      for (TomlTable one : table.tables("brings")) {
        std::istringstream when(one.text("when"));
        std::string kind, way;
        when >> kind >> way;
        of.brings.push_back({kindNamed(kind, one), way, {one.texts("watch"), one.text("say")}});
        one.refuseUnknown();
      }
      for (TomlTable one : table.tables("weeks")) {
        of.weeks.push_back({one.text("variant"), one.text("second"), one.text("third")});
        one.refuseUnknown();
      }
      table.refuseUnknown();
    }
  });
  if (!read) return fail(read.error());
  return book;
}

const ChangeBook& ChangeBook::shipped() {
  static const ChangeBook kBook = load(resource("changes.toml")).value_or(ChangeBook{});
  return kBook;
}

std::vector<ChangeKind> ChangeBook::offered(const lifts::LiftDefinition& lift) const {
  const auto of = lifts_.find(lift.name);
  return of == lifts_.end() ? std::vector<ChangeKind>{} : of->second.offered;
}

SideEffect ChangeBook::bringsOf(const Change& change, const lifts::LiftDefinition& lift) const {
  const auto of = lifts_.find(lift.name);
  if (of == lifts_.end()) return {};
  for (const Brings& b : of->second.brings)
    if (b.kind == change.kind && fits(b.way, change)) return b.effect;
  return {};
}

OtherDays ChangeBook::daysOf(const lifts::LiftDefinition& lift, const std::string& variant) const {
  const auto of = lifts_.find(lift.name);
  if (of == lifts_.end()) return {};
  for (const OtherDays& days : of->second.weeks)
    if (days.variant.empty() || days.variant == variant) return days;
  return {};
}

}  // namespace jib::coaching
