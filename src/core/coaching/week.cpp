// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/week.h"

#include <fmt/format.h>

#include "core/coaching/change_book.h"
#include "core/coaching/strain.h"

namespace jib::coaching {
namespace {

// What must not change along with it, or nobody can say what did it.
std::string staysAsItIs(const std::vector<Cue>& cues, const lifts::LiftDefinition& lift) {
  std::vector<std::pair<ChangeKind, std::string>> kept;
  if (!lift.body.lying) kept.emplace_back(ChangeKind::Stance, "stance");
  kept.emplace_back(ChangeKind::Grip, "grip");
  if (!lift.body.lying) kept.emplace_back(ChangeKind::HeelRaise, "shoes");
  kept.emplace_back(ChangeKind::Bar, "bar");
  std::string all;
  for (const auto& [kind, name] : kept) {
    bool changes = false;
    for (const Cue& cue : cues) changes = changes || (cue.change && cue.change->kind == kind);
    if (!changes) all += (all.empty() ? "" : ", ") + name;
  }
  if (const auto last = all.rfind(", "); last != std::string::npos) all.replace(last, 2, " and ");
  return all;
}

}  // namespace

std::vector<std::string> weekOf(const std::vector<Cue>& cues, const CueBook& book, const lifts::LiftDefinition& lift,
                                const std::string& variant, bool gentle) {
  if (cues.empty()) return {};
  const Cue& main = cues.front();
  OtherDays days = ChangeBook::shipped().daysOf(lift, variant);
  if (const CueEntry* entry = book.entry(main.finding)) {
    if (!entry->second_day.empty()) days.second = entry->second_day;
    if (!entry->third_day.empty()) days.third = entry->third_day;
  }
  // Nothing paused, deeper or heavier is offered to the young.
  if (gentle && !strainsIn(days.second).empty()) days.second = "the same lift, lighter, same cue";
  if (gentle && !strainsIn(days.third).empty()) days.third = "the same lift, lighter still, same cue";
  const std::string load = gentle ? "at a weight that feels easy" : main.load;
  std::vector<std::string> lines;
  lines.push_back(fmt::format("Day 1: {} with the cue{}.", lift.name, load.empty() ? "" : ", " + load));
  lines.push_back("Day 2: " + days.second + ".");
  lines.push_back("Day 3: " + days.third + ".");
  lines.push_back(fmt::format("Keep {} the same, so we can see what this change does.", staysAsItIs(cues, lift)));
  lines.push_back(
      "Give it at least two sessions before you judge it. It may feel odd at first, and the numbers won't move right "
      "away.");
  return lines;
}

}  // namespace jib::coaching
