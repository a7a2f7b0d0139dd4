// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/tracing/room/radial_distortion.h"

namespace jib::tracing {

// How upright edges of the room run together in the picture: a camera that looks down sees them meet below it, one that
// looks up above. Convergence is the tangent of the camera's pitch over its focal length, per pixel; positive for
// looking down. 1 σ by how well the edges agree and how far apart they stand.
struct Convergence {
  double per_px = 0;
  double sigma_per_px = 0;
  // The camera's roll from the same edges. Under a camera that looks down, edges on one side of the picture only would
  // pass for a roll; here their convergence is taken off. nullopt in tracings stored before it was kept.
  std::optional<double> roll_rad = {};
  double roll_sigma_rad = 0;
};

// nullopt when too few long edges, or none far enough apart, agree.
// Source  vanishing point of parallel lines: Hartley and Zisserman, Multiple View Geometry, 2nd ed., chapter 8; edges
//         that agree by random samples, Fischler and Bolles 1981 (here: all pairs)
// `bend` is the lens's, taken off first.
std::optional<Convergence> convergenceOfUprights(const cv::Mat& gray, const LensBend& bend = {});

// The camera's roll from upright edges of the room (rack, door frames, wall corners): positive when the picture must be
// turned counter-clockwise to stand upright. nullopt when too few long uprights agree.
// Source  line segments: von Gioi and others 2012, as in OpenCV
std::optional<double> rollFromUprights(const cv::Mat& gray, const LensBend& bend = {});

}  // namespace jib::tracing
