// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/base/geometry.h"

namespace jib::tracing {

// What the coach says of a clip before anything is measured in it.

// The lifter, pointed at among others: a place on them, or on the plates they hold, in displayed pixels.
struct PointedAt {
  double t_s = 0;  // presentation time of the frame that was shown
  PixelPoint at;
  friend bool operator==(const PointedAt& a, const PointedAt& b) {
    return a.t_s == b.t_s && a.at.x == b.at.x && a.at.y == b.at.y;
  }
};

// A part of the clip in which nothing is to be measured: somebody walks past, the bar is loaded. Presentation times,
// both ends belong to it.
struct LeftOut {
  double from_s = 0, to_s = 0;
  bool holds(double t_s) const { return t_s >= from_s && t_s <= to_s; }
  friend bool operator==(const LeftOut&, const LeftOut&) = default;
};
using LeftOuts = std::vector<LeftOut>;  // rising, apart from each other

// With one more: those it meets become one with it.
LeftOuts with(const LeftOuts& parts, LeftOut more);
// Without the one that holds a moment.
LeftOuts without(const LeftOuts& parts, double t_s);

}  // namespace jib::tracing
