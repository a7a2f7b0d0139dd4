// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/motion/motion.h"

namespace jib::motion {

// What the hip does between the set and the moment the plates leave, by its own picture (Motion::hip_before_off_m).
struct HipsBeforeOff {
  double rise_m = 0;               // from the lowest to where it is when the plates leave; never less than zero
  double lowest_s = 0;             // when it was lowest, presentation time
  std::optional<double> begins_s;  // when it began to rise, of a rise worth the name
};

inline constexpr double kSet_s = 1.5;  // real time before lift-off in which the lifter is set

// nullopt where the hip was not watched, or not for long enough to say where it was lowest.
std::optional<HipsBeforeOff> hipsBeforeOff(const Motion& m, double liftoff_s);

// When somebody who comes down to a bar on the floor has it in the hands: from then on the shoulder is an arm's length
// from it. nullopt where they had it from the first frame, or the shoulder is not seen.
// Sigma   a third of a second: the body is looked at that often while the bar rests
std::optional<Event> handsOnBefore(const Motion& m, double from_s, double liftoff_s);

}  // namespace jib::motion
