// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/reps.h"

#include "core/motion/lowered_reps.h"
#include "core/motion/pulled_reps.h"

namespace jib::motion {

std::vector<Rep> findReps(const Motion& motion, RepPattern pattern) {
  return pattern == RepPattern::DownFirst ? loweredReps(motion) : pulledReps(motion, pattern);
}

std::vector<Rep> findMisses(const Motion& motion, RepPattern pattern) {
  return pattern == RepPattern::DownFirst ? missedAscents(motion) : missedPulls(motion);
}

}  // namespace jib::motion
