// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/base/geometry.h"

namespace jib::tracing {

// A nearly round outline: distance from the centre in direction θ (from x towards y) is
//   radius + oval_cos * cos 2θ + oval_sin * sin 2θ,
// which is an ellipse to first order in its flatness; at 30° of yaw the neglected part is under 0.5 % of the radius.
// Frame   displayed pixels
struct RimShape {
  double radius_px = 0;
  double oval_cos_px = 0;
  double oval_sin_px = 0;

  double at(double angle_rad) const;
};

struct RimFit {
  PixelPoint centre;
  RimShape shape;
  double sigma_px = 1;  // 1 σ of the centre, from the spread of the edges round the fit
  double inliers = 0;   // share of directions whose edge agrees
};

struct RimSearch {
  double window_rel = 0.14;  // how far from the expected outline edges are looked for, in radii
  bool shape_free = false;   // fit the outline too, not only the centre and a little of the size
  int rays = 72;
};

// Finds where a rim of about this shape lies about here: one edge a ray, then a robust fit that lets arms, legs and
// uprights crossing the rim go unheard. nullopt when fewer than a third of the rays agree.
// Source  iteratively reweighted least squares with Tukey's weight: Huber and Ronchetti, Robust Statistics, 2nd ed.
std::optional<RimFit> fitRim(const cv::Mat& gray, PixelPoint about, const RimShape& shape, const RimSearch& search);

// Mean strength of edges across the outline: a quick score for looking around.
double rimScore(const cv::Mat& gray, PixelPoint centre, const RimShape& shape);

}  // namespace jib::tracing
