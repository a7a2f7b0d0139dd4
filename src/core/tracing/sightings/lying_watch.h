// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/base/geometry.h"
#include "core/tracing/model/trace.h"

namespace jib::tracing {

// What the picture itself shows of somebody who lies under a bar, against a frame on which the arms were straight.
struct LyingSeen {
  std::optional<PixelPoint> hip_moved;  // since that frame, in pixels; nullopt where a plate is before it
  std::optional<PixelPoint> elbow;      // the near joint, where it stands out below the plate
};

// Watches hip and elbow of a lifter on a bench by their own picture. The pose network guesses an elbow that a plate
// covers, sure of itself and by a forearm's length; but the forearm is longer than a plate's radius, so that the elbow
// stands out below the rim nearly all the way, and what is there is new since the arms were straight. The hip's patch
// is always held against the first picture, so that nothing adds up. Frame   displayed pixels of whole 8-bit grey
// pictures of a camera that stands still Sigma   hip about half a pixel where cloth does not slide; elbow about 2 cm
// Source  normalised cross-correlation with a parabola through the peak: Lewis 1995
class LyingWatch {
 public:
  // What is known of the frame with straight arms.
  struct Begin {
    PixelPoint plate;
    double rim_px = 0;
    PixelPoint hip;           // of the near side
    double forward = 1;       // +1: the feet are towards the picture's right edge
    double metre_px = 0;      // how large a metre looks at the hip
    double far_elbow_px = 0;  // how far to the right of the near elbow the far one is seen
  };
  LyingWatch(const cv::Mat& straight, const Begin& begin);

  LyingSeen look(const cv::Mat& grey, PixelPoint plate) const;

 private:
  std::optional<PixelPoint> hipMoved(const cv::Mat& grey, PixelPoint plate) const;
  std::optional<PixelPoint> elbowBelow(const cv::Mat& grey, PixelPoint plate) const;

  PixelPoint tipOf(const cv::Mat& arm) const;

  cv::Mat straight_, patch_;
  cv::Rect patch_at_;
  Begin begin_;
  double noise_;
};

}  // namespace jib::tracing
