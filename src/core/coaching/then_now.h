// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/coaching/analysis.h"

namespace jib::coaching {

// What one posture has over another of the same lifter: a lean, a joint, the place of the bar.
struct MomentDifference {
  std::string title;            // "Torso"
  double value = 0;             // now minus then, in degrees or metres
  double sigma = 0;             // both films' own; nothing is taken off that they might have in common
  bool angle = true;            // else a length
  std::string_view more, less;  // "more leaned", "more upright"

  bool sure() const;         // beyond its ±
  std::string text() const;  // "Torso 6 ± 2° more upright", "Torso same (± 3°)"
};

// Between two moments of two side views, where the view of both carries it. `widening` as lifts::Likeness has it. Empty
// where one of them shows no body from the side.
std::vector<MomentDifference> differencesAt(const Analysis& now, double now_t, const Analysis& then, double then_t,
                                            double widening = 1);

}  // namespace jib::coaching
