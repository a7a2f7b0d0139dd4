// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// The reps of a lift that goes up first (deadlift): from where the bar rests to lockout and back. A bar that sinks on
// the way and is pulled on, a hitch, is still one rep. The set-down may be missing, where the film ends first.
// Lift-off is when the plates leave the floor. Under constant acceleration the height grows with the square of time, so
// that the moment lies as long before 5 mm as 20 mm lie after it.
std::vector<Rep> pulledReps(const Motion& motion, RepPattern pattern = RepPattern::UpFirst);

// Pulls that were put down again before lockout. Rolling the bar and a jack under it stay below what counts.
std::vector<Rep> missedPulls(const Motion& motion);

}  // namespace jib::motion
