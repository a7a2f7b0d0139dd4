// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/geometry.h"

namespace jib {

inline constexpr double kPi = std::numbers::pi;

inline constexpr double degrees(double angle_rad) {
  return angle_rad * 180.0 / kPi;
}
inline constexpr double radians(double angle_deg) {
  return angle_deg * kPi / 180.0;
}

// Lean from the vertical of the segment from its lower to its upper end: positive when the upper end is further
// forward; 0 upright, 90 level.
inline double lean_deg(MetrePoint lower, MetrePoint upper) {
  return degrees(std::atan2(upper.x - lower.x, upper.z - lower.z));
}

// The angle at `joint` between the directions to a and to b; 180 is straight.
inline double included_deg(MetrePoint a, MetrePoint joint, MetrePoint b) {
  const MetrePoint u = a - joint, v = b - joint;
  const double scale = length(u) * length(v);
  if (scale <= 0) return 180.0;
  return degrees(std::acos(std::clamp((u.x * v.x + u.z * v.z) / scale, -1.0, 1.0)));
}

}  // namespace jib
