// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

enum class KeyMoment { Before, HalfWay, Turn, Sticking, Lockout };

struct KeyFrame {
  KeyMoment moment = KeyMoment::Before;
  double t_s = 0;
};

// The frames by which a coach knows a rep, in the order in which they come: the lifter ready, the bar half-way to its
// turn, the turn (lowest bar, or off the floor), the sticking region where there is one, lockout. Half-way is told by
// the bar's height; where the bar was not traced, by time. A pull, which starts at its turn, is half-way on the way up.
std::vector<KeyFrame> keyFramesOf(const Rep& rep, const Motion& motion, RepPattern pattern);

// Where in the other half of a rep the bar is as high as it is at `t_s`: of a moment in the descent one in the ascent,
// and the other way round. nullopt outside the rep, or where the bar is not known.
std::optional<double> sameHeight(const Rep& rep, const Motion& motion, double t_s);

}  // namespace jib::motion
