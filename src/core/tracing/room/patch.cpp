// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/patch.h"

#include <algorithm>

namespace jib::tracing {

PixelPoint peakNear(const cv::Mat& score, cv::Point at) {
  const auto value = [&](int y, int x) { return static_cast<double>(score.at<float>(y, x)); };
  const auto peak = [&](double before, double after) {
    const double bend = before - 2 * value(at.y, at.x) + after;
    return bend < -1e-9 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0.0;
  };
  PixelPoint place{static_cast<double>(at.x), static_cast<double>(at.y)};
  if (at.x > 0 && at.x + 1 < score.cols) place.x += peak(value(at.y, at.x - 1), value(at.y, at.x + 1));
  if (at.y > 0 && at.y + 1 < score.rows) place.y += peak(value(at.y - 1, at.x), value(at.y + 1, at.x));
  return place;
}

}  // namespace jib::tracing
