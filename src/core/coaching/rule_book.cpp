// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/rule_book.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/ascii.h"
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
  set.kit = table.text("kit");
  for (const auto& lift : lifts::allLifts())
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
