// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// Finds the reps of a lift by the way its bar goes.
std::vector<Rep> findReps(const Motion& motion, RepPattern pattern);

// Reps that were begun and not brought to lockout, in the order of their times.
std::vector<Rep> findMisses(const Motion& motion, RepPattern pattern);

}  // namespace jib::motion
