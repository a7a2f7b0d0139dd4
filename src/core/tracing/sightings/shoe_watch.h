// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/base/geometry.h"

namespace jib::tracing {

// How far the two ends of the near shoe have come up since the frame the watch began on, in pixels; up is positive.
struct ShoeLift {
  double heel_px = 0, toe_px = 0;
  friend bool operator==(const ShoeLift&, const ShoeLift&) = default;
};

// Watches whether a shoe that stands tips up, by its own picture: a heel lifts about the ball of the foot, a toe about
// the heel. The rear and the front half, as they looked on the first frame, are turned about those and held against
// every later frame, always the first picture, so that nothing adds up. What is guessed of joints errs by a centimetre
// and more; a turned picture fits to a fraction of a pixel.
// Frame   displayed pixels of whole 8-bit grey pictures
// Sigma   about a third of a pixel; nullopt where the shoe no longer looks like itself: hidden, or put elsewhere
// Source  normalised cross-correlation with a parabola through the peak: Lewis 1995
class ShoeWatch {
 public:
  // nullopt where the shoe is too small in the picture, at its edge, or as plain as the floor.
  static std::optional<ShoeWatch> begin(const cv::Mat& grey, PixelPoint heel, PixelPoint toe, double metre_px);

  std::optional<ShoeLift> look(const cv::Mat& grey) const;

 private:
  struct Half {
    PixelPoint pivot;
    double lever_px = 0;  // from the pivot to the end that lifts
    double turns = 1;     // +1: clockwise in the picture lifts that end
    std::vector<PixelPoint> places;
    std::vector<float> greys;
  };
  static std::optional<Half> halfOf(const cv::Mat& grey, PixelPoint end, PixelPoint pivot, double metre_px);
  std::optional<double> riseOf(const Half& half, const cv::Mat& grey) const;

  Half heel_, toe_;
  double metre_px_ = 0;
};

}  // namespace jib::tracing
