// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/rule_book.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/base/ascii.h"
#include "core/base/files.h"
#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"

namespace jib::coaching {
namespace {

RuleCheck readCheck(TomlTable table) {
  RuleCheck check;
  check.lift = table.text("lift");
  check.title = table.text("title");
  check.asks = table.text("asks");
  check.limit.measure = table.text("measure");
  check.limit.limit = table.number("limit");
  const auto* lift = lifts::liftNamed(check.lift);
  if (!lift) table.refuse("there is no lift \"" + check.lift + "\"");
  const auto* kind = lifts::measureDefinition(*lift, check.limit.measure);
  if (!kind) table.refuse("there is no measure \"" + check.limit.measure + "\"");
  check.limit.unit = kind->unit;
  const std::string side = table.text("not_when");
  if (side != "above" && side != "below") table.refuse("\"not_when\" is \"above\" or \"below\"");
  check.limit.side = side == "above" ? Side::Above : Side::Below;
  table.refuseUnknown();
  return check;
}

RuleSet readSet(TomlTable table) {
  RuleSet set;
  set.id = table.text("id");
  set.title = table.text("title");
  set.version = table.text("version");
  set.edited_on = table.textOr("edited_on", "");
  set.kit = table.text("kit");
  for (const auto& lift : lifts::contestedLifts())
    set.calls[std::string(lift.name)] = table.textsOr(std::string(lift.name) + "_calls");
  for (TomlTable check : table.tables("checks")) set.checks.push_back(readCheck(std::move(check)));
  table.refuseUnknown();
  return set;
}

Outcome outcomeOf(const lifts::NamedMeasure* measure, const Limit& limit) {
  if (!measure || !measure->measured()) return Outcome::CannotTell;
  switch (verdictOf(*measure->measured(), limit)) {
    case Verdict::No:
      return Outcome::Likely;
    case Verdict::Yes:
      return Outcome::NotLikely;
    case Verdict::TooClose:
      return Outcome::TooClose;
  }
  return Outcome::CannotTell;
}

const char* wordsOf(Outcome outcome) {
  switch (outcome) {
    case Outcome::Likely:
      return "likely good";
    case Outcome::NotLikely:
      return "not likely";
    case Outcome::TooClose:
      return "too close to call";
    case Outcome::CannotTell:
      return "this clip can't tell";
  }
  return "";
}

// "reps 1 and 3"
std::string repsText(const std::vector<int>& reps) {
  std::string text = reps.size() == 1 ? "rep " : "reps ";
  for (std::size_t i = 0; i < reps.size(); ++i)
    text += (i == 0 ? "" : i + 1 == reps.size() ? " and " : ", ") + std::to_string(reps[i]);
  return text;
}

std::string inWords(const std::vector<Outcome>& reps) {
  std::string text;
  for (const Outcome outcome : {Outcome::NotLikely, Outcome::TooClose, Outcome::Likely, Outcome::CannotTell}) {
    std::vector<int> those;
    for (std::size_t i = 0; i < reps.size(); ++i)
      if (reps[i] == outcome) those.push_back(static_cast<int>(i) + 1);
    if (those.empty()) continue;
    if (!text.empty()) text += "; ";
    text += wordsOf(outcome);
    if (those.size() < reps.size()) text += " in " + repsText(those);
  }
  if (text.empty()) return text;
  if (isAsciiLetter(text.front()) && !isAsciiUpper(text.front()))
    text.front() = static_cast<char>(text.front() - 'a' + 'A');
  return text + ".";
}

}  // namespace

Result<RuleBook> RuleBook::load(const std::filesystem::path& file) {
  RuleBook book;
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    TomlTable table(root, name);
    for (TomlTable set : table.tables("sets")) book.sets_.push_back(readSet(std::move(set)));
    if (book.sets_.empty()) table.refuse("there is no rule set");
    table.refuseUnknown();
  });
  if (!read) return fail(read.error());
  return book;
}

const RuleBook& RuleBook::shipped() {
  static const RuleBook kBook = [] {
    auto book = load(resource("rules.toml"));
    if (book) return std::move(*book);
    RuleBook none;
    none.sets_.emplace_back().title = "No rules";
    return none;
  }();
  return kBook;
}

namespace {

std::filesystem::path ownFile(const std::filesystem::path& folder) {
  return folder / "rules.toml";
}

Result<std::vector<RuleSet>> ownSets(const std::filesystem::path& folder) {
  std::error_code ignored;
  if (!std::filesystem::exists(ownFile(folder), ignored)) return std::vector<RuleSet>{};
  auto book = RuleBook::load(ownFile(folder));
  if (!book) return fail(book.error());
  return book->sets();
}

std::string written(const std::vector<RuleSet>& sets) {
  toml::array all;
  for (const RuleSet& set : sets) {
    toml::table t{{"id", set.id}, {"title", set.title}, {"version", set.version}, {"kit", set.kit}};
    if (!set.edited_on.empty()) t.insert("edited_on", set.edited_on);
    for (const auto& [lift, calls] : set.calls) {
      toml::array said;
      for (const std::string& call : calls) said.push_back(call);
      if (!said.empty()) t.insert(lift + "_calls", std::move(said));
    }
    toml::array checks;
    for (const RuleCheck& c : set.checks)
      checks.push_back(toml::table{{"lift", c.lift},
                                   {"title", c.title},
                                   {"measure", c.limit.measure},
                                   {"not_when", c.limit.side == Side::Above ? "above" : "below"},
                                   {"limit", c.limit.limit},
                                   {"asks", c.asks}});
    t.insert("checks", std::move(checks));
    all.push_back(std::move(t));
  }
  std::ostringstream text;
  text << "# Rule sets as this coach changed them. A set of a shipped id replaces it.\n"
       << toml::table{{"sets", std::move(all)}} << "\n";
  return text.str();
}

// The file as it was stays beside it, once a day, so that a verdict of that time can be looked up.
Result<bool> replaceOwn(const std::filesystem::path& folder, const std::vector<RuleSet>& sets,
                        const std::string& today_iso) {
  std::error_code error;
  const auto file = ownFile(folder), before = folder / ("rules.before-" + today_iso + ".toml");
  if (std::filesystem::exists(file, error) && !std::filesystem::exists(before, error))
    if (auto kept = FileSystem::real().copy(file, before); !kept) return kept;
  if (sets.empty()) {
    std::filesystem::remove(file, error);
    if (error)
      return fail(ErrorCode::CannotWrite, "Cannot remove " + file.string() + ".", "Check the library's folder.");
    return true;
  }
  return writeWhole(FileSystem::real(), file, written(sets));
}

}  // namespace

RuleBook RuleBook::forLibrary(const std::filesystem::path& folder) {
  RuleBook book = shipped();
  auto own = ownSets(folder);
  if (!own) {
    book.trouble_ = own.error().sentence();
    return book;
  }
  for (RuleSet& set : *own) {
    const auto same = std::find_if(book.sets_.begin(), book.sets_.end(), [&](const auto& s) { return s.id == set.id; });
    if (same == book.sets_.end())
      book.sets_.push_back(std::move(set));
    else
      *same = std::move(set);
  }
  return book;
}

Result<bool> RuleBook::keep(const std::filesystem::path& folder, RuleSet set, const std::string& today_iso) {
  auto own = ownSets(folder);
  if (!own) return fail(own.error());
  set.edited_on = today_iso;
  std::erase_if(*own, [&](const RuleSet& s) { return s.id == set.id; });
  own->push_back(std::move(set));
  return replaceOwn(folder, *own, today_iso);
}

Result<bool> RuleBook::giveBack(const std::filesystem::path& folder, const std::string& id,
                                const std::string& today_iso) {
  auto own = ownSets(folder);
  if (!own) return fail(own.error());
  std::erase_if(*own, [&](const RuleSet& s) { return s.id == id; });
  return replaceOwn(folder, *own, today_iso);
}

const RuleSet& RuleBook::setOf(std::string_view id) const {
  const auto at = std::find_if(sets_.begin(), sets_.end(), [&](const RuleSet& s) { return s.id == id; });
  return at == sets_.end() ? sets_.front() : *at;
}

std::vector<RuleJudgement> judgedUnder(const Analysis& a, const RuleSet& rules) {
  std::vector<RuleJudgement> all;
  const std::string_view lift = lifts::definition(a.request.lift).name;
  for (const RuleCheck& check : rules.checks) {
    if (check.lift != lift) continue;
    RuleJudgement judgement;
    judgement.check = check;
    const double sign = check.limit.side == Side::Above ? 1 : -1;
    for (const lifts::MeasureList& rep : a.measures.reps) {
      const lifts::NamedMeasure* m = lifts::find(rep, check.limit.measure);
      judgement.reps.push_back(outcomeOf(m, check.limit));
      if (judgement.reps.back() == Outcome::CannotTell) continue;
      const bool worse = !judgement.worst || sign * (m->measured()->value - judgement.worst->measured()->value) > 0;
      if (worse) judgement.worst = *m;
    }
    judgement.words = inWords(judgement.reps);
    all.push_back(std::move(judgement));
  }
  return all;
}

std::vector<std::string> differencesBetween(const Analysis& a, const RuleSet& one, const RuleSet& other) {
  std::vector<std::string> lines;
  const auto here = judgedUnder(a, one), there = judgedUnder(a, other);
  for (const RuleJudgement& j : here)
    for (const RuleJudgement& k : there) {
      if (j.check.limit.measure != k.check.limit.measure) continue;
      for (std::size_t rep = 0; rep < j.reps.size(); ++rep) {
        if (j.reps[rep] == k.reps[rep]) continue;
        lines.push_back(fmt::format("{} of rep {}: {} under {}, {} under {}.", j.check.title, rep + 1,
                                    wordsOf(j.reps[rep]), one.title, wordsOf(k.reps[rep]), other.title));
      }
    }
  return lines;
}

}  // namespace jib::coaching
