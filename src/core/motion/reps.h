// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// One rep's events, presentation times in s. They rise: start < bottom <= ascent < lockout <= end.
// start     the bar has gone 1 cm down from rest
// bottom    lowest bar; of a pause: where it comes to rest
// ascent    first motion up
// lockout   the bar is within 1 cm of its final height and the joints have stopped extending
// sticking  slowest moment of the ascent between two faster ones; nullopt when it never slows
struct Rep {
  double start_t = 0, bottom_t = 0, ascent_t = 0, lockout_t = 0, end_t = 0;
  std::optional<double> sticking_t;
  double lockout_sigma_s = 0;  // by what the joints leave undecided, beyond half a frame
  double stroke_m = 0;
};

// A descent that was not brought back up. Presentation times in s.
struct Miss {
  double start_t = 0, bottom_t = 0;
  double highest_t = 0;  // where the bar got furthest before it went down again, or stopped
  double risen = 0;      // share of the stroke it had come back up by then
  double stroke_m = 0;
};

// Descents as deep as a rep's that never come back: the bar rises a part of the way and goes down again, or stays down
// while the film goes on. One that the end of the clip cuts off is not called a miss.
std::vector<Miss> findMisses(const Motion& motion);

// Finds the reps of a lift that goes down first (squat, bench). Unrack, walk-out and re-rack move the bar by
// centimetres, not by a stroke, and are passed over; a descent that never comes back up is not a rep.
std::vector<Rep> findReps(const Motion& motion);

}  // namespace jib::motion
