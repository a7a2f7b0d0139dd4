// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>

#include "core/base/geometry.h"

namespace jib::tracing {

// Bilinear value at a place of a one-channel picture; the edge is repeated outside. First pixel's centre (0.5, 0.5).
template <class Pixel>
inline float sample(const cv::Mat& picture, PixelPoint p) {
  const float x = static_cast<float>(p.x) - 0.5f, y = static_cast<float>(p.y) - 0.5f;
  const int last_x = picture.cols - 1, last_y = picture.rows - 1;
  const float cx = x < 0 ? 0 : (x > static_cast<float>(last_x) ? static_cast<float>(last_x) : x);
  const float cy = y < 0 ? 0 : (y > static_cast<float>(last_y) ? static_cast<float>(last_y) : y);
  const int ix = static_cast<int>(cx), iy = static_cast<int>(cy);
  const int jx = ix < last_x ? ix + 1 : ix, jy = iy < last_y ? iy + 1 : iy;
  const float tx = cx - static_cast<float>(ix), ty = cy - static_cast<float>(iy);
  const Pixel* row = picture.ptr<Pixel>(iy);
  const Pixel* below = picture.ptr<Pixel>(jy);
  return (static_cast<float>(row[ix]) * (1 - tx) + static_cast<float>(row[jx]) * tx) * (1 - ty) +
         (static_cast<float>(below[ix]) * (1 - tx) + static_cast<float>(below[jx]) * tx) * ty;
}

}  // namespace jib::tracing
