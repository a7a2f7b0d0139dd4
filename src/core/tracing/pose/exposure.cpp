// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/exposure.h"

#include <algorithm>
#include <array>
#include <cstdint>

namespace jib::tracing {

double brightening(const cv::Mat& picture) {
  CV_Assert(picture.type() == CV_8UC3);
  constexpr double kLight = 0.98;       // of the pixels are darker than what counts as light
  constexpr double kWellExposed = 190;  // grey levels that light things have then
  constexpr double kMost = 3;           // beyond it noise and compression are what is brightened
  constexpr int kBlack = 4;
  std::array<int, 256> counts{};
  int all = 0;
  for (int y = 0; y < picture.rows; ++y) {
    const auto* row = picture.ptr<cv::Vec3b>(y);
    for (int x = 0; x < picture.cols; ++x) {
      const int level = (row[x][0] + 2 * row[x][1] + row[x][2]) / 4;
      if (level < kBlack) continue;
      ++counts[static_cast<std::size_t>(level)];
      ++all;
    }
  }
  if (all == 0) return 1;
  int light = 0;
  for (int darker = 0; light < 255; ++light) {
    darker += counts[static_cast<std::size_t>(light)];
    if (darker >= kLight * all) break;
  }
  return std::clamp(kWellExposed / std::max(1, light), 1.0, kMost);
}

}  // namespace jib::tracing
