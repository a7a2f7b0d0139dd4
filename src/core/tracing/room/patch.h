// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/imgproc.hpp>

#include "core/base/geometry.h"

namespace jib::tracing {

// A piece of a picture about a place, to a fraction of a pixel.
inline cv::Mat patch(const cv::Mat& grey, PixelPoint middle, int width, int height) {
  cv::Mat out;
  cv::getRectSubPix(grey, {width, height}, {static_cast<float>(middle.x - 0.5), static_cast<float>(middle.y - 0.5)},
                    out);
  return out;
}

// The peak of a score map about its largest value, by a parabola each way. Source  Lewis 1995
PixelPoint peakNear(const cv::Mat& score, cv::Point largest);

}  // namespace jib::tracing
