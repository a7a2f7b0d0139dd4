// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/sightings/pose_sightings.h"

namespace jib::tracing {

struct Turn {
  double yaw_rad = 0;
  double sigma_rad = 0.05;
};

// How far the camera is turned about the upright, where the end of the bar was not made out. The rim's flatness gives
// the angle but not the side. To one of the two sides the bar would hang in the air before or behind the feet, where
// nobody can stand with it; the other is right. Only the side is taken from the feet: how far bar and mid-foot are
// apart stays measured. `square`: the camera as it is known without the turn. `around`: a frame on which the lifter
// stands. nullopt when the rim looks nearly round or is flattened from above only, when the feet are not seen, and when
// both sides are possible.
std::optional<Turn> turnFromRim(const BarTrace& bar, const std::vector<Sighting>& sightings, const SideCamera& square,
                                std::size_t around);

}  // namespace jib::tracing
