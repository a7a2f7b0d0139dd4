// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/cue.h"
#include "core/coaching/style.h"
#include "core/lifts/measure_set.h"

namespace jib::coaching {

// The findings a message speaks of, in the athlete's words: "my hips shoot up outta the hole", "do my knees cave?".
// The cue book holds what people say for each. Along the chain of the lift.
std::vector<std::string> askedAbout(std::string_view message, lifts::LiftId lift, const CueBook& book);

// A check of the style that could not be made in this clip: its measure is known of no rep.
struct NotSeen {
  std::string finding;
  std::string why;     // a sentence
  double t_s = 0;      // where to look by eye
  bool asked = false;  // by the athlete
};
std::vector<NotSeen> notSeen(const lifts::SetMeasures& measures, const std::vector<motion::Rep>& reps,
                             const Style& style, const lifts::LiftDefinition& lift, std::string_view variant,
                             const std::vector<std::string>& asked);

}  // namespace jib::coaching
