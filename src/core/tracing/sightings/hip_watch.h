// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/base/geometry.h"
#include "core/tracing/pose/body_outline.h"

namespace jib::tracing {

// Watches the hip of somebody bent to a bar by its own picture: the cloth about it and the line of the buttock against
// whatever stands behind. Hips that come up before the plates leave do so by 2 to 8 cm; the pose network, shown a body
// folded behind a plate, errs by as much and alike from look to look. Every frame is held against one, so that nothing
// adds up.
// Frame   displayed pixels of whole 8-bit grey pictures of a camera that stands still
// Sigma   about half a pixel, and a fifth of the way: a patch turns with the thigh while its joint rises
// Source  masked normalised cross-correlation with a parabola through the peak: Lewis 1995
class HipWatch {
 public:
  // What is known of the frame the others are held against.
  struct Begin {
    PixelPoint hip;       // of the near side
    double forward = 1;   // +1: the lifter faces the picture's right edge
    double metre_px = 0;  // how large a metre looks at the hip
    PixelPoint plate;
    double rim_px = 0;
    const Outline* outline = nullptr;  // of the body, at about that time; null: all of the patch counts
  };
  // nullopt where the plate leaves too little of the hip, or there is nothing to hold on to.
  static std::optional<HipWatch> begin(const cv::Mat& grey, const Begin& known);

  // How far the hip stands on another frame from where it stands on that one. Looked for about `near`, where it stood
  // on a neighbour; nullopt where nothing there is alike.
  std::optional<PixelPoint> moved(const cv::Mat& grey, PixelPoint near) const;

 private:
  cv::Mat patch_, mask_;
  cv::Rect at_;
  int reach_ = 0;
};

}  // namespace jib::tracing
