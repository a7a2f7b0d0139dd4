// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/cue.h"

#include <fmt/format.h>

#include <algorithm>
#include <sstream>

#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"
#include "core/lifts/side_words.h"

namespace jib::coaching {
namespace {

// "knee_slide_back_m > 0.03"
EvidenceRule readRule(const std::string& text, bool speaks_for, const TomlTable& table) {
  std::istringstream words(text);
  EvidenceRule rule;
  std::string sign, rest;
  if (!(words >> rule.measure >> sign >> rule.threshold) || (words >> rest) || (sign != ">" && sign != "<"))
    table.refuse(fmt::format("\"{}\" must read like \"descent_s < 1.0\"", text));
  if (!lifts::measureDefinition(rule.measure)) table.refuse(fmt::format("there is no measure \"{}\"", rule.measure));
  rule.above = sign == ">";
  rule.speaks_for = speaks_for;
  return rule;
}

CauseRule readCause(TomlTable table) {
  CauseRule c;
  c.cause = table.text("cause");
  c.test = table.text("test");
  c.cost = static_cast<int>(table.number("cost"));
  for (const auto& rule : table.texts("for")) c.evidence.push_back(readRule(rule, true, table));
  for (const auto& rule : table.texts("against")) c.evidence.push_back(readRule(rule, false, table));
  table.refuseUnknown();
  return c;
}

Stake stakeNamed(TomlTable& table, const std::string& name) {
  if (name == "safety") return Stake::Safety;
  if (name == "standard") return Stake::Standard;
  if (name == "set_up") return Stake::SetUp;
  if (name == "economy") return Stake::Economy;
  table.refuse("\"stake\" is \"safety\", \"standard\", \"set_up\" or \"economy\"");
}

// "stance -0.04" is by so much, "pause = 1" to so much, "grip = one finger wider" to those words.
ChangeIdea readIdea(const std::string& text, const TomlTable& table) {
  std::istringstream words(text);
  std::string name, what;
  words >> name >> what;
  const auto& all = changeDefinitions();
  const auto kind = std::find_if(all.begin(), all.end(), [&](const ChangeDefinition& d) { return d.name == name; });
  if (kind == all.end()) table.refuse(fmt::format("there is no change \"{}\"", name));
  ChangeIdea idea;
  idea.kind = kind->kind;
  const bool to = what == "=";
  if (to) std::getline(words >> std::ws, what);
  if (kind->unit == ChangeUnit::Words) {
    if (!to || what.empty()) table.refuse(fmt::format("\"{}\" must read like \"{} = …\"", text, name));
    idea.to_words = what;
    return idea;
  }
  std::istringstream digits(what);
  double number = 0;
  if (!(digits >> number)) table.refuse(fmt::format("\"{}\" must read like \"stance -0.04\" or \"pause = 1\"", text));
  (to ? idea.to : idea.by) = number;
  return idea;
}

CueVersion readVersion(TomlTable table) {
  CueVersion v;
  v.position = table.text("position");
  v.by_eye = table.flagOr("by_eye", true);
  v.causes = table.textsOr("causes");
  v.wordings = table.textsOr("wordings");
  v.drill = table.textOr("drill", "");
  v.side_effect = table.textOr("side_effect", "");
  v.second_day = table.textOr("second_day", "");
  v.third_day = table.textOr("third_day", "");
  table.refuseUnknown();
  return v;
}

CueEntry readEntry(const std::string& finding, TomlTable table) {
  CueEntry e;
  e.finding = finding;
  e.link = static_cast<int>(table.number("link"));
  e.stake = stakeNamed(table, table.textOr("stake", "economy"));
  e.price = table.textOr("price", "");
  e.title = table.text("title");
  e.look = table.textOr("look", "");
  e.keep = table.text("keep");
  e.causes = table.texts("causes");
  e.wordings = table.texts("wordings");
  e.drill = table.text("drill");
  e.load = table.text("load");
  e.weeks = static_cast<int>(table.number("weeks"));
  e.proof = table.text("proof");
  e.side_effect = table.text("side_effect");
  e.clears = table.texts("clears");
  e.asked = table.textsOr("asked");
  if (const std::string idea = table.textOr("change", ""); !idea.empty()) e.idea = readIdea(idea, table);
  e.brings = table.textsOr("brings");
  e.second_day = table.textOr("second_day", "");
  e.third_day = table.textOr("third_day", "");
  e.position = table.textOr("position", "");
  e.before_s = table.numberOr("before", 0);
  for (const TomlTable& version : table.tables("as")) e.versions.push_back(readVersion(version));
  for (const TomlTable& rival : table.tables("rival")) e.rivals.push_back(readCause(rival));
  table.refuseUnknown();
  if (e.wordings.empty()) table.refuse("\"wordings\" holds nothing to say");
  return e;
}

void fill(std::string& text, std::string_view mark, const std::string& with) {
  for (auto at = text.find(mark); at != std::string::npos; at = text.find(mark, at + with.size()))
    text.replace(at, mark.size(), with);
}

bool repeated(const Finding& f, std::size_t reps) {
  return f.reps.empty() || f.reps.size() >= 2 || reps < 2;
}

std::string joined(const std::vector<std::string>& all) {
  std::string text;
  for (const std::string& one : all) text += (text.empty() ? "" : ", ") + one;
  return text;
}

using Wanted = std::vector<std::pair<const Finding*, const CueEntry*>>;

// The rules that put a finding in its place, in words.
std::string whyFirst(const Finding& f, const CueEntry& e, std::size_t reps, std::size_t place, const Wanted& wanted) {
  const std::string seen = f.by_eye                ? "Seen by you"
                           : f.reps.empty()        ? "Over the set"
                           : reps < 2              ? "In the one rep"
                           : f.reps.size() == reps ? (reps == 2 ? "Both reps" : "Every rep")
                                                   : fmt::format("{} of {} reps", f.reps.size(), reps);
  std::string why = fmt::format("{}, {}.", seen, f.severity >= 3 ? "a lot" : f.severity == 2 ? "clear" : "slight");
  if (!repeated(f, reps)) why += " One rep only: mention it lightly, or wait for a second.";
  if (e.stake == Stake::Safety) why += " Safety comes first.";
  if (e.stake == Stake::Standard) why += " It decides whether the rep counts.";
  if (e.stake == Stake::SetUp) why += " It starts in the setup, and later faults often come from there.";
  if (e.stake == Stake::Economy) why += place == 0 ? " First thing to fix." : " Next priority.";
  std::vector<std::string> cleared;
  for (const auto& [other, entry] : wanted)
    if (std::find(e.clears.begin(), e.clears.end(), other->id) != e.clears.end()) cleared.push_back(entry->title);
  if (!cleared.empty()) why += fmt::format(" Usually fixes as well: {}.", joined(cleared));
  return why;
}

// One fault shows in several numbers: one usually goes when the other goes, or both when a third one goes.
bool sameFault(const CueEntry& a, const CueEntry& b, const Wanted& wanted) {
  const auto clears = [](const CueEntry& by, const std::string& finding) {
    return std::find(by.clears.begin(), by.clears.end(), finding) != by.clears.end();
  };
  if (clears(a, b.finding) || clears(b, a.finding)) return true;
  return std::any_of(wanted.begin(), wanted.end(),
                     [&](const auto& w) { return clears(a, w.first->id) && clears(b, w.first->id); });
}

// What a coach would praise: what makes the rep count first, each thing once, and nothing that belongs to a fault that
// is there ("hips and shoulders rise together" to somebody whose chest falls).
std::vector<std::string> praiseOf(std::vector<const CueEntry*> good, const Wanted& wanted) {
  std::stable_sort(good.begin(), good.end(), [](const CueEntry* a, const CueEntry* b) {
    return (a->stake == Stake::Standard) > (b->stake == Stake::Standard);
  });
  std::vector<const CueEntry*> said;
  for (const CueEntry* e : good) {
    const bool faulty =
        std::any_of(wanted.begin(), wanted.end(), [&](const auto& w) { return sameFault(*e, *w.second, wanted); });
    const bool again = std::any_of(said.begin(), said.end(), [&](const CueEntry* other) {
      return other->keep == e->keep || sameFault(*e, *other, {});
    });
    if (!faulty && !again) said.push_back(e);
  }
  std::vector<std::string> keep;
  for (const CueEntry* e : said) keep.push_back(e->keep);
  return keep;
}

// How firmly any of it may be said, and what to look at before.
std::vector<std::string> remarksOn(const std::vector<Finding>& findings, const SetContext& set,
                                   const Proposal& proposal, const CueBook& book) {
  constexpr double kNearBest = 0.85, kAskedFor = 0.75;
  constexpr int kGoingUp = 4;
  std::vector<std::string> remarks;
  std::vector<std::string> close;
  for (const Finding& f : findings)
    if (f.verdict == Verdict::TooClose && book.entry(f.id)) close.push_back(book.entry(f.id)->title);
  if (!set.no_praise.empty()) remarks.push_back(set.no_praise);
  if (proposal.change_nothing)
    remarks.push_back(set.not_seen.empty() ? "Nothing to fix in this set. Say so and stop: advice on a good lift can "
                                             "make it worse."
                                           : "Nothing to fix in what this clip shows.");
  if (!set.not_seen.empty()) remarks.push_back(fmt::format("Can't tell from this clip: {}.", joined(set.not_seen)));
  if (set.reps == 1) remarks.push_back("One rep can show a fault but not consistency.");
  if (set.share_of_best && *set.share_of_best >= kNearBest)
    remarks.push_back(fmt::format("At about {:.0f} % of max this may just be strength. A lighter triple would tell.",
                                  100 * *set.share_of_best));
  else if (set.share_of_best && *set.share_of_best < kAskedFor && proposal.change_nothing)
    remarks.push_back(fmt::format("At about {:.0f} % of max a fault may not show yet.", 100 * *set.share_of_best));
  if (!close.empty() && !proposal.change_nothing)
    remarks.push_back(fmt::format("Too close to call: {}. Ask rather than tell.", joined(close)));
  // A fault in the bottom may be made at the top.
  const auto late = std::find_if(proposal.cues.begin(), proposal.cues.end(), [&](const Cue& c) {
    const CueEntry* e = book.entry(c.finding);
    return e && e->stake != Stake::SetUp && e->link >= kGoingUp;
  });
  std::vector<std::string> unlooked;
  for (const CueEntry* e : book.byEye(set.lift))
    if (e->stake == Stake::SetUp &&
        std::none_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.id == e->finding; }))
      unlooked.push_back(e->title);
  if (late != proposal.cues.end() && !unlooked.empty())
    remarks.push_back(fmt::format("“{}” may start at the top. Not checked yet: {}.", late->title, joined(unlooked)));
  return remarks;
}

}  // namespace

Result<CueBook> CueBook::load(const std::filesystem::path& file) {
  CueBook book;
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    for (const auto& [lift, node] : root) {
      const toml::table* table = node.as_table();
      if (!table) TomlTable(root, name).refuse("\"" + std::string(lift.str()) + "\" is not known here", &node);
      for (const auto& [finding, body] : *table) {
        const toml::table* entry = body.as_table();
        if (!entry) TomlTable(*table, name).refuse("\"" + std::string(finding.str()) + "\" must be a table", &body);
        const std::string id = std::string(lift.str()) + "." + std::string(finding.str());
        book.entries_.emplace(id, readEntry(id, TomlTable(*entry, name)));
      }
    }
  });
  if (!read) return fail(read.error());
  return book;
}

Result<CueBook> CueBook::shipped() {
  CueBook all;
  for (const lifts::LiftDefinition& lift : lifts::allLifts()) {
    auto book = load(resource(lift.cueBook()));
    if (!book) return book;
    all.entries_.merge(book->entries_);
  }
  return all;
}

CueBook CueBook::as(const lifts::LiftDefinition& lift, std::string_view variant) const {
  const std::string ours = std::string(lift.name) + ".", position = lifts::variantOf(lift, variant).position;
  CueBook book = *this;
  for (auto& [id, e] : book.entries_) {
    if (!id.starts_with(ours)) continue;
    if (!e.position.empty() && e.position != position) e.look.clear();
    for (const CueVersion& v : e.versions) {
      if (v.position != position) continue;
      e.versioned = true;
      if (!v.by_eye) e.look.clear();
      const auto instead = [](auto& of, const auto& with) {
        if (!with.empty()) of = with;
      };
      instead(e.causes, v.causes);
      instead(e.wordings, v.wordings);
      instead(e.drill, v.drill);
      instead(e.side_effect, v.side_effect);
      instead(e.second_day, v.second_day);
      instead(e.third_day, v.third_day);
    }
  }
  return book;
}

const CueEntry* CueBook::entry(std::string_view finding) const& {
  const auto it = entries_.find(finding);
  return it == entries_.end() ? nullptr : &it->second;
}

std::string CueBook::titleOf(std::string_view finding) const {
  const CueEntry* e = entry(finding);
  return e ? e->title : std::string(finding);
}

std::vector<const CueEntry*> CueBook::all(lifts::LiftId lift) const& {
  const std::string ours = std::string(lifts::definition(lift).name) + ".";
  std::vector<const CueEntry*> all;
  for (const auto& [id, entry] : entries_)
    if (id.starts_with(ours) && (entry.position.empty() || !entry.look.empty())) all.push_back(&entry);
  std::stable_sort(all.begin(), all.end(), [](const auto* a, const auto* b) { return a->link < b->link; });
  return all;
}

std::vector<const CueEntry*> CueBook::byEye(lifts::LiftId lift) const& {
  auto looked_at = all(lift);
  std::erase_if(looked_at, [](const CueEntry* e) { return e->look.empty(); });
  return looked_at;
}

Basis basisOf(const Finding& f) {
  if (f.by_eye) return Basis::Seen;
  return f.verdict == Verdict::Yes ? Basis::Measured : Basis::TooClose;
}

std::string proofText(const CueEntry& e, const lifts::MeasureDefinition& kind, double limit, double value) {
  std::string proof = e.proof;
  fill(proof, "{limit}", lifts::text(kind, {limit, 0, 0}));
  fill(proof, "{then}", lifts::text(kind, {value, 0, 0}));
  return proof;
}

Cue cueFor(const Finding& f, const CueEntry& e, const Style& style) {
  Cue cue;
  cue.finding = f.id;
  cue.title = e.title;
  const auto side = style.say.find(f.id);
  // What a style says of a position it does not know would be wrong there.
  cue.wording = side == style.say.end() || e.versioned ? e.wordings.front() : side->second;
  cue.drill = e.drill;
  cue.load = e.load;
  cue.weeks = e.weeks;
  cue.proof = e.proof;
  cue.side_effect = e.side_effect;
  cue.before_s = e.before_s;
  cue.price = e.price;
  cue.watch = e.brings;
  if (f.kind) {
    cue.measure = std::string(f.kind->id);
    cue.known = true;
    cue.limit = f.limit;
    cue.proof = proofText(e, *f.kind, f.limit, f.worst.value);
  }
  cue.value = f.worst.value;
  cue.sigma = f.worst.sigma;
  cue.t_s = f.worst.t_s;
  cue.basis = basisOf(f);
  return cue;
}

Cue ownCue(double t_s) {
  Cue cue;
  cue.own = true;
  cue.basis = Basis::Seen;
  cue.t_s = t_s;
  return cue;
}

std::string titleWithBasis(const Cue& cue) {
  if (cue.own) return cue.title;
  switch (cue.basis) {
    case Basis::Measured: {
      const std::string_view side = lifts::sideWords(cue.measure, cue.value);
      return side.empty() ? cue.title : fmt::format("{}, {}", cue.title, side);
    }
    case Basis::TooClose:
      return cue.title + " (too close to call)";
    case Basis::Seen:
      return cue.title;
  }
  return cue.title;
}

std::vector<std::string> praiseToSay(const Proposal& proposal) {
  constexpr std::size_t kMost = 3;
  std::vector<std::string> said = proposal.keep;
  if (said.size() > kMost) said.resize(kMost);
  return said;
}

Proposal propose(const std::vector<Finding>& findings, const SetContext& set, const CueBook& book, const Style& style) {
  Proposal proposal;
  Wanted wanted;
  std::vector<const CueEntry*> good;
  bool undecided = false;
  for (const Finding& f : findings) {
    const CueEntry* e = book.entry(f.id);
    if (!e) continue;
    if (f.verdict == Verdict::No && !e->keep.empty()) good.push_back(e);
    if (f.verdict == Verdict::TooClose) undecided = true;
    if (f.verdict == Verdict::Yes) wanted.emplace_back(&f, e);
  }
  proposal.keep = praiseOf(std::move(good), wanted);
  const auto asked = [&](const Finding& f) {
    return std::find(set.asked.begin(), set.asked.end(), f.id) != set.asked.end();
  };
  std::stable_sort(wanted.begin(), wanted.end(), [&](const auto& a, const auto& b) {
    if (asked(*a.first) != asked(*b.first)) return asked(*a.first);
    const bool ra = repeated(*a.first, set.reps), rb = repeated(*b.first, set.reps);
    if (ra != rb) return ra;
    if (a.second->stake != b.second->stake) return a.second->stake < b.second->stake;
    if (a.second->link != b.second->link) return a.second->link < b.second->link;
    return a.first->severity > b.first->severity;
  });
  for (const auto& [f, e] : wanted) {
    if (const auto waits = set.wait.find(f->id); waits != set.wait.end()) {
      proposal.parked.push_back({f->id, waits->second});
      continue;
    }
    const auto lead = std::find_if(proposal.cues.begin(), proposal.cues.end(), [&](const Cue& chosen) {
      return sameFault(*book.entry(chosen.finding), *e, wanted);
    });
    if (lead != proposal.cues.end()) {
      proposal.parked.push_back({f->id, fmt::format("Part of “{}”.", lead->title), lead->finding});
      continue;
    }
    if (proposal.cues.size() >= static_cast<std::size_t>(style.cue_limit)) {
      proposal.parked.push_back({f->id, style.cue_limit == 1
                                            ? std::string("For later: one thing at a time.")
                                            : fmt::format("For later: {} things at a time.", style.cue_limit)});
      continue;
    }
    Cue cue = cueFor(*f, *e, style);
    cue.why_first = whyFirst(*f, *e, set.reps, proposal.cues.size(), wanted);
    if (asked(*f)) cue.why_first = "The athlete asked about this. " + cue.why_first;
    proposal.cues.push_back(std::move(cue));
  }
  proposal.change_nothing = wanted.empty() && !undecided && !findings.empty() && set.no_praise.empty();
  proposal.no_praise = set.no_praise;
  if (!set.no_praise.empty()) proposal.keep.clear();
  proposal.remarks = remarksOn(findings, set, proposal, book);
  return proposal;
}

}  // namespace jib::coaching
