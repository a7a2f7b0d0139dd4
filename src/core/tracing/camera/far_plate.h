// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/tracing/bar/bar_tracer.h"

namespace jib::tracing {

// How much smaller the far plate of the bar looks than the near one. Both are as large, and how far apart they stand is
// known: so it tells the distance of the camera, and with the near plate's size the lens.
struct FarPlate {
  double share = 0;  // of the near plate's radius
  double sigma = 0;  // 1 σ
};

// Looks for the far plate's rim where it peeps out beside the near one. The bar's vanishing point leaves one number
// open: every share has its own circle on the line from the near plate towards it; the right one lies on an edge in
// picture after picture. As that point is known to a few degrees only, lines a little beside it are tried too.
// Frame   displayed pixels
// Thread  one thread at a time
// Source  a circle by votes of its edge: Duda and Hart 1972
class FarPlateFinder {
 public:
  explicit FarPlateFinder(const BarTrace& bar);

  // Square on the far plate is hidden, and without the bar's direction nobody knows where to look.
  bool worthLooking() const { return bar_.vanishing.has_value(); }
  void look(std::size_t frame, const cv::Mat& colour);
  // nullopt when too little of a rim was seen, or no share stands out from the others.
  std::optional<FarPlate> found() const;

 private:
  const BarTrace& bar_;
  std::vector<double> votes_, asked_;  // one a line and share
};

// Focal length in px that shows both plates so large, `plate_m` either side of the middle, and its relative 1 σ.
struct FocalFromPlates {
  double focal_px, sigma_rel;
};
FocalFromPlates focalFrom(const FarPlate& far, const Rim& rim, double rim_m, double plate_m);

}  // namespace jib::tracing
