// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/tracing/front/apart.h"

namespace jib::tracing {

// What of the bar's line moves with the hands, outwards from them, on one side (way: -1 to the picture's left). The
// line through two wrists leans by a degree or two for nothing, so each side is looked for by itself.
// Frame   displayed pixels; places along the bar in metres from its middle
class BarSearch {
 public:
  // Grey pictures that show the bar high and low.
  BarSearch(const cv::Mat& high, const cv::Mat& low, const Apart& apart, double metre_px, double way);

  // How far below the hands' line the bar runs, and how much lower it really came: where most of the line moves. False
  // where too little does.
  bool settle();
  // How surely the bar's line at `out_m` moves as the hands did, -1 to 1.
  double moves(double out_m) const { return moves(out_m, off_, more_); }
  PixelPoint placeAt(double out_m) const;  // where the bar is high
  PixelPoint went() const { return apart_.went + PixelPoint{0, more_}; }
  // The outermost place where the line still moves.
  std::optional<double> end() const;

 private:
  double moves(double out_m, double off, double more) const;

  cv::Mat moved_;
  Apart apart_;
  double metre_px_, way_, off_ = 0, more_ = 0;
};

}  // namespace jib::tracing
