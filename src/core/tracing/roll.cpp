// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/roll.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kMostRoll_deg = 7;
constexpr double kLeastLength = 0.08;  // of the picture's height
constexpr double kLeastTotal = 0.8;    // all agreeing uprights together, in picture heights
constexpr double kAgree_deg = 0.8;

}  // namespace

std::optional<double> rollFromUprights(const cv::Mat& gray) {
  std::vector<cv::Vec4f> segments;
  cv::createLineSegmentDetector(cv::LSD_REFINE_STD)->detect(gray, segments);
  struct Upright {
    double angle_rad, length;
  };
  std::vector<Upright> uprights;
  for (const auto& s : segments) {
    double dx = s[2] - s[0], dy = s[3] - s[1];
    if (dy < 0) {
      dx = -dx;
      dy = -dy;
    }
    const double l = std::hypot(dx, dy);
    const double angle = std::atan2(dx, dy);  // from straight down, towards the right
    if (l < kLeastLength * gray.rows || std::abs(degrees(angle)) > kMostRoll_deg) continue;
    uprights.push_back({angle, l});
  }
  std::sort(uprights.begin(), uprights.end(), [](auto a, auto b) { return a.angle_rad < b.angle_rad; });
  double total = 0;
  for (const auto& u : uprights) total += u.length;
  double sum = 0, median = 0;
  for (const auto& u : uprights) {
    sum += u.length;
    median = u.angle_rad;
    if (sum >= total / 2) break;
  }
  double agreeing = 0, mean = 0;
  for (const auto& u : uprights)
    if (std::abs(degrees(u.angle_rad - median)) < kAgree_deg) {
      agreeing += u.length;
      mean += u.length * u.angle_rad;
    }
  if (agreeing < kLeastTotal * gray.rows || agreeing < 0.5 * total) return std::nullopt;
  return mean / agreeing;
}

}  // namespace jib::tracing
