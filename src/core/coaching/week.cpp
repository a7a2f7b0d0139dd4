// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/week.h"

#include <fmt/format.h>

namespace jib::coaching {
namespace {

using lifts::LiftId;

struct Days {
  std::string second, third;
};

// Forms of a lift that keep its positions, lighter by themselves.
Days usualDays(const lifts::LiftDefinition& lift, const std::string& variant) {
  switch (lift.id) {
    case LiftId::Squat:
      return {"pause squat, 3 x 3, two-count in the hole, light enough to hold the position",
              variant == "low-bar" ? "high-bar squat, 3 x 5, same cue" : "front squat, 3 x 3, same cue"};
    case LiftId::Bench:
      return {"close-grip bench, 3 x 5, same cue", "bench with a two-count pause, 3 x 3, light"};
    case LiftId::Deadlift:
      return {variant == "sumo" ? "pause sumo pull, 3 x 2, paused just off the floor, light"
                                : "pause deadlift, 3 x 2, paused just below the knee, light",
              "no pulling: back extensions, and the setup with an empty bar"};
  }
  return {};
}

// What must not change along with it, or nobody can say what did it.
std::string staysAsItIs(const std::vector<Cue>& cues, const lifts::LiftDefinition& lift) {
  std::vector<std::pair<ChangeKind, std::string>> kept;
  if (lift.id != LiftId::Bench) kept.emplace_back(ChangeKind::Stance, "stance");
  kept.emplace_back(ChangeKind::Grip, "grip");
  if (lift.id != LiftId::Bench) kept.emplace_back(ChangeKind::HeelRaise, "shoes");
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
  Days days = usualDays(lift, variant);
  if (const CueEntry* entry = book.entry(main.finding)) {
    if (!entry->second_day.empty()) days.second = entry->second_day;
    if (!entry->third_day.empty()) days.third = entry->third_day;
  }
  const std::string load = gentle ? "at a weight that feels easy" : main.load;
  std::vector<std::string> lines;
  lines.push_back(fmt::format("Day 1: {} with the cue{}.", lift.name, load.empty() ? "" : ", " + load));
  lines.push_back("Day 2: " + days.second + ".");
  lines.push_back("Day 3: " + days.third + ".");
  lines.push_back(fmt::format("Keep {} the same, so we can see what this change does.", staysAsItIs(cues, lift)));
  lines.push_back(
      "Give it at least two sessions before you judge it. It may feel odd at first, and it won't add weight "
      "right away.");
  return lines;
}

}  // namespace jib::coaching
