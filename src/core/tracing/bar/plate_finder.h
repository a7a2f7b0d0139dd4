// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/base/geometry.h"

namespace jib::tracing {

// Something round in one picture that may be a plate; filmed at an angle it is narrower than tall.
struct RoundThing {
  PixelPoint centre;
  double radius_px = 0;  // the mean of its half width and half height
  double coverage = 0;   // share of the circle's directions in which an edge was found
  double aspect = 1;     // width over height
};

// Of the smaller radius: circles about one middle that differ by more are two, and not one's own blur.
inline constexpr double kAnotherCircle = 1.1;

// Looks for round things the size of plates in a grey picture, most complete first. Rough: within a few pixels.
// A plate seen from up to some 45 degrees off is found in the picture made wider by as much as it is narrowed.
// `near` limits the search to circles whose centre is within their radius of it.
// Source  Hough transform with edge directions: Kimme, Ballard and Sklansky 1975
std::vector<RoundThing> findRoundThings(const cv::Mat& gray, std::optional<PixelPoint> near = std::nullopt);

}  // namespace jib::tracing
