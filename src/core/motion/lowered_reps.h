// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// The reps of a lift that goes down first (squat, bench press). Unrack, walk-out and re-rack move the bar by
// centimetres, not by a stroke, and are passed over; a descent that never comes back up is not a rep.
std::vector<Rep> loweredReps(const Motion& motion);

// Descents as deep as a rep's that never come back: the bar rises a part of the way and goes down again, or stays down
// while the film goes on. One that the end of the clip cuts off is not called a miss.
std::vector<Rep> missedAscents(const Motion& motion);

}  // namespace jib::motion
