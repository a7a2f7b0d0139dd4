// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <opencv2/core/mat.hpp>

#include "core/base/angle.h"
#include "core/base/geometry.h"

namespace jib::tracing {

// The square of a picture in which a person is looked at; it may be turned and reach beyond the edge.
struct PoseRegion {
  PixelPoint centre;
  double size_px = 0;
  double turn_rad = 0;  // of the person, clockwise in the picture; 0 upright

  // From the middle of the hips and the point above (or below) it that tells size and direction.
  static PoseRegion around(PixelPoint mid_hip, PixelPoint scale_point) {
    const PixelPoint d = scale_point - mid_hip;
    return {mid_hip, 2 * 1.25 * length(d), std::remainder(kPi / 2 - std::atan2(-d.y, d.x), 2 * kPi)};
  }
  // A place in the region, 0..1 along each side, to the picture.
  PixelPoint toPicture(PixelPoint share) const {
    return centre + rotated({(share.x - 0.5) * size_px, (share.y - 0.5) * size_px}, turn_rad);
  }
};

}  // namespace jib::tracing
