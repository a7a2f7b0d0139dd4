// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/camera/yaw_from_rim.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::tracing {

// How far the camera has walked round the lifter from square-on to the side, by everything that tells: the bar's own
// direction, how much the plate's rim is narrowed, and how wide hips and shoulders stand against the feet. One place
// decides; what may be measured and how surely follows from it.
struct CameraTurn {
  double turned_deg = 0;
  double sigma_deg = 10;
  // The bar points where the rim says it cannot: its end was taken for something else.
  bool bar_disputed = false;
  // Bar and rim agree, or the body settles on which side of the rim's angle the camera stands: lengths and angles can
  // be brought into the lifter's plane.
  bool settled = false;
  // The far plate of the bar was followed, as the near one was not made out (which_plate.h).
  bool far_plate = false;
  // Where the bar does not tell: about the upright, as a camera has it (side_camera.h).
  std::optional<Turn> by_body;
};

// `camera`: as worked out from the bar alone. `view`: of viewFrom, nobody where no one was looked at.
CameraTurn cameraTurn(const BarTrace& bar, const SideCamera& camera, const ViewLook& view);

// How far the rim is narrowed across the picture says how far the sight to it is from along the bar, rad; 0 where the
// narrowing is from above, or none. `sight_rad` is how far beside the picture's middle the plate is seen.
// Source  an ellipse as the picture of a circle, to second order in its half axes
struct RimTurn {
  double turn_rad = 0, sight_rad = 0;
};
RimTurn rimTurn(const BarTrace& bar, const SideCamera& camera);

}  // namespace jib::tracing
