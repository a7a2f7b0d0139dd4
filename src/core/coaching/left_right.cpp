// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/left_right.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/lifts/side_words.h"

namespace jib::coaching {
namespace {

constexpr std::size_t kReps = 3;
constexpr int kSetsBefore = 1;

// Of the reps that show it, those that go to the side of the worst one.
std::size_t sameSide(const Finding& f, const lifts::SetMeasures& measures) {
  return static_cast<std::size_t>(std::count_if(f.reps.begin(), f.reps.end(), [&](int rep) {
    const auto* named = lifts::find(measures.reps[static_cast<std::size_t>(rep - 1)], f.kind->id);
    const lifts::Measured* m = named ? named->measured() : nullptr;
    return m && (m->value > 0) == (f.worst.value > 0);
  }));
}

}  // namespace

std::map<std::string, std::string, std::less<>> leftRightThatWaits(const std::vector<Finding>& findings,
                                                                   const lifts::SetMeasures& measures,
                                                                   const SidesSeen& before, const Style& style) {
  std::map<std::string, std::string, std::less<>> waits;
  if (style.left_right_at_once) return waits;
  for (const Finding& f : findings) {
    if (f.verdict != Verdict::Yes || f.by_eye || !f.kind || !lifts::isSided(f.kind->id)) continue;
    // What is told of the set alone, as where the hands are, has no reps to count.
    const std::size_t wanted = f.reps.empty() ? 0 : std::min(kReps, measures.reps.size()),
                      shown = sameSide(f, measures);
    const auto sets = before.find(f.id);
    if (shown < wanted)
      waits[f.id] = fmt::format("The same side shows in {} of {} reps: wait and see whether more do.", shown,
                                measures.reps.size());
    else if (sets == before.end() || sets->second[f.worst.value > 0 ? 1 : 0] < kSetsBefore)
      waits[f.id] = "Left and right differ in this set only: worth a cue once it comes back in another.";
  }
  return waits;
}

}  // namespace jib::coaching
