// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/lift_offs.h"

#include <algorithm>

namespace jib::tracing {

std::vector<std::size_t> liftOffFrames(const BarTrace& bar) {
  // Of the rim's radius: down again, in a pull, leaving the floor.
  constexpr double kDown = 0.03, kUp = 0.8, kLeaves = 0.02;
  std::vector<std::size_t> found;
  const double radius = bar.rim.radius_px;
  bool lies = false;
  std::size_t last_down = 0;
  double floor_y = -1e9;  // where it lies; from set to set a little higher or lower
  for (std::size_t i = 0; i < bar.plate.size(); ++i) {
    if (!bar.plate[i]) continue;
    const double y = bar.plate[i]->place.y;
    if (!lies && y > floor_y - kDown * radius) {
      lies = true;
      floor_y = y;
    }
    if (!lies) continue;
    if (y > floor_y - kLeaves * radius) {
      last_down = i;
      floor_y = std::max(y, floor_y);
    } else if (y < floor_y - kUp * radius) {
      found.push_back(last_down);
      lies = false;
    }
  }
  return found;
}

}  // namespace jib::tracing
