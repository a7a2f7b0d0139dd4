// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/body_outline.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/median.h"
#include "core/base/result.h"

namespace jib::tracing {
namespace {

constexpr int kFiner = 2;          // the mask is looked at this much finer than it comes
constexpr double kStray_px = 0.5;  // of the finer mask: corners less than this off the line are left out

// Where the outline crosses the line through a place in a direction (of length 1): how far along, in no order.
std::vector<double> crossings(const Outline& outline, PixelPoint from, PixelPoint direction) {
  std::vector<double> along;
  const PixelPoint across{-direction.y, direction.x};
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const PixelPoint a = outline[i] - from, b = outline[(i + 1) % outline.size()] - from;
    const double ha = a.x * across.x + a.y * across.y, hb = b.x * across.x + b.y * across.y;
    if ((ha < 0) == (hb < 0)) continue;
    const PixelPoint p = a + (b - a) * (ha / (ha - hb));
    along.push_back(p.x * direction.x + p.y * direction.y);
  }
  return along;
}

// How far a place within is from where the outline is left that way; nullopt when it is not.
std::optional<double> leavesAt(const Outline& outline, PixelPoint from, PixelPoint direction) {
  std::optional<double> first;
  for (double along : crossings(outline, from, direction))
    if (along > 0 && (!first || along < *first)) first = along;
  return first;
}

}  // namespace

Outline outlineFrom(std::span<const float> logits, int side, const PoseRegion& region) {
  JIB_ASSERT(logits.size() == static_cast<std::size_t>(side) * static_cast<std::size_t>(side));
  const cv::Mat mask(side, side, CV_32F, const_cast<float*>(logits.data()));  // only read
  cv::Mat finer, inside;
  cv::resize(mask, finer, {}, kFiner, kFiner, cv::INTER_LINEAR);
  cv::compare(finer, 0, inside, cv::CMP_GT);
  std::vector<std::vector<cv::Point>> lines;
  cv::findContours(inside, lines, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_NONE);
  const auto area = [](const std::vector<cv::Point>& l) { return cv::contourArea(l); };
  const auto largest =
      std::max_element(lines.begin(), lines.end(), [&](const auto& a, const auto& b) { return area(a) < area(b); });
  if (largest == lines.end()) return {};
  std::vector<cv::Point> corners;
  cv::approxPolyDP(*largest, corners, kStray_px, true);
  if (corners.size() < 8) return {};
  Outline outline;
  const double whole = kFiner * side;
  // Whole tenths of a pixel, as they are kept with the clip.
  const auto kept = [](double v) { return std::round(10 * v) / 10; };
  for (const cv::Point& p : corners) {
    const PixelPoint place = region.toPicture({(p.x + 0.5) / whole, (p.y + 0.5) / whole});
    outline.push_back({kept(place.x), kept(place.y)});
  }
  return outline;
}

std::optional<ShoeEnds> shoeOn(const Outline& outline, const ShoeEnds& about, PixelPoint ankle, double metre_px,
                               double forward) {
  constexpr double kStep_m = 0.005, kBent_m = 0.012, kMostTilt = 0.35;
  constexpr double kShortest_m = 0.18, kLongest_m = 0.36, kBelowAnkle_m = 0.20;
  // The network's toe lies within the shoe, its heel near the end.
  constexpr double kHeelAway_m = 0.08, kToeAway_m = 0.14;
  if (outline.empty() || (about.toe.x - about.heel.x) * forward < kShortest_m / 2 * metre_px) return std::nullopt;
  // The sole: the lowest line of the body between the ends, where it runs straight.
  const double length_px = std::abs(about.toe.x - about.heel.x);
  std::vector<PixelPoint> sole;
  for (double along = 0.2 * length_px; along < 0.75 * length_px; along += kStep_m * metre_px) {
    const double x = about.heel.x + forward * along;
    const auto below = crossings(outline, {x, ankle.y}, {0, 1});
    const double lowest = below.empty() ? -1 : *std::max_element(below.begin(), below.end());
    if (lowest < 0 || lowest > kBelowAnkle_m * metre_px) return std::nullopt;
    sole.push_back({x, ankle.y + lowest});
  }
  // Theil's line: the median of the slopes between all pairs.
  std::vector<double> slopes, heights;
  for (std::size_t i = 0; i < sole.size(); ++i)
    for (std::size_t k = i + 3; k < sole.size(); ++k)
      slopes.push_back((sole[k].y - sole[i].y) / (sole[k].x - sole[i].x));
  if (slopes.empty()) return std::nullopt;
  const double slope = median(slopes);
  if (std::abs(slope) > kMostTilt) return std::nullopt;
  for (const PixelPoint& p : sole) heights.push_back(p.y - slope * (p.x - ankle.x));
  const double height = median(heights);
  if (medianOff(heights, height) > kBent_m / 2 * metre_px) return std::nullopt;
  const auto soleAt = [&](double x) { return PixelPoint{x, height + slope * (x - ankle.x)}; };
  // Both ends, a finger's breadth above the sole, where shoes are longest.
  const double tilt = std::atan(slope);
  const PixelPoint middle = soleAt((about.heel.x + about.toe.x) / 2);
  const auto end = [&](double way) -> std::optional<PixelPoint> {
    const PixelPoint direction = rotated({way, 0}, tilt), up = rotated({0, -1}, tilt);
    std::vector<double> reach;
    for (double above_m : {0.008, 0.013, 0.018, 0.023, 0.028})
      if (const auto leaves = leavesAt(outline, middle + up * (above_m * metre_px), direction))
        reach.push_back(*leaves);
    if (reach.size() < 4) return std::nullopt;
    std::sort(reach.begin(), reach.end());
    return soleAt((middle + direction * reach[reach.size() - 2]).x);
  };
  const auto heel = end(-forward), toe = end(forward);
  if (!heel || !toe) return std::nullopt;
  const double shoe_m = length(*toe - *heel) / metre_px;
  if (shoe_m < kShortest_m || shoe_m > kLongest_m) return std::nullopt;
  if (length(*heel - about.heel) > kHeelAway_m * metre_px || length(*toe - about.toe) > kToeAway_m * metre_px)
    return std::nullopt;
  return ShoeEnds{*heel, *toe};
}

std::optional<PixelPoint> farthestOn(const Outline& outline, PixelPoint about, double reach_px, PixelPoint direction) {
  // Corners lie far apart where the line is straight; what lies between is looked at too.
  constexpr int kBetween = 4;
  std::optional<PixelPoint> best;
  double most = -1e9;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const PixelPoint a = outline[i], b = outline[(i + 1) % outline.size()];
    for (int k = 0; k < kBetween; ++k) {
      const PixelPoint p = a + (b - a) * (k / static_cast<double>(kBetween)), d = p - about;
      if (length(d) > reach_px) continue;
      const double along = d.x * direction.x + d.y * direction.y;
      if (along <= most) continue;
      most = along;
      best = p;
    }
  }
  // At the rim of the reach the outline goes on: nothing ends there.
  if (best && length(*best - about) > 0.95 * reach_px) return std::nullopt;
  return best;
}

}  // namespace jib::tracing
