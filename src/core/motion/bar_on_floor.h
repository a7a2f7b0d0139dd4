// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/motion/bar_height.h"

namespace jib::motion {

// How much a bar that lies on the floor seems to go up and down: it cannot, so this is what a hand that shakes, a room
// with nothing to hold on to, and the trace make of a still bar. Whatever they do then they do during the lift.
struct BarOnFloor {
  double height_m = 0;   // 1 σ of its height about the middle one
  double speed_mps = 0;  // and of its speed up and down
};

// From the stretches between the reps, before the first and after the last. nullopt where there is no rep that starts
// from the floor, or too little of the bar lying there.
std::optional<BarOnFloor> barOnFloor(const Motion& motion, const std::vector<Rep>& reps);

// Makes every place of the bar less sure by that, and keeps the speed for the measures.
void holdAgainstFloor(Motion& motion, const std::vector<Rep>& reps);

// How far heights of a bar that lies lie about their middle, 1 σ; 0 where there are too few.
double scatter(std::vector<double> heights_m);

}  // namespace jib::motion
