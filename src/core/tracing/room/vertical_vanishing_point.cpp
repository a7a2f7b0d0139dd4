// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/vertical_vanishing_point.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kMostRoll_deg = 7;
constexpr double kMostLean_deg = 20;       // of an upright far from the middle, under a camera that looks down steeply
constexpr std::size_t kMostSegments = 80;  // the longest
constexpr double kFewestAgreeing = 5;
constexpr double kEdge_deg = 0.35;     // 1 σ of one edge's direction
constexpr double kLeastLength = 0.08;  // of the picture's height
constexpr double kLeastTotal = 0.8;    // all agreeing uprights together, in picture heights
constexpr double kAgree_deg = 0.8;

// An edge that runs down the picture.
struct Upright {
  double angle_rad;  // from straight down, towards the right
  double length;
  double x, y;  // of its middle, from the picture's
};

std::vector<Upright> uprightsIn(const cv::Mat& gray, double most_lean_deg, const LensBend& bend) {
  std::vector<cv::Vec4f> segments;
  cv::createLineSegmentDetector(cv::LSD_REFINE_STD)->detect(gray, segments);
  std::vector<Upright> uprights;
  const PixelPoint middle{gray.cols / 2.0, gray.rows / 2.0};
  for (const auto& s : segments) {
    const PixelPoint a = bend.straightened(PixelPoint{s[0], s[1]} - middle);
    const PixelPoint b = bend.straightened(PixelPoint{s[2], s[3]} - middle);
    double dx = b.x - a.x, dy = b.y - a.y;
    if (dy < 0) {
      dx = -dx;
      dy = -dy;
    }
    const double l = std::hypot(dx, dy);
    const double angle = std::atan2(dx, dy);
    if (l < kLeastLength * gray.rows || std::abs(degrees(angle)) > most_lean_deg) continue;
    uprights.push_back({angle, l, (a.x + b.x) / 2, (a.y + b.y) / 2});
  }
  return uprights;
}

// What an upright at (x, y) leans by, for a roll and a convergence.
double leanOf(const Upright& u, double roll_rad, double per_px) {
  return roll_rad + std::atan2(-per_px * u.x, 1 - per_px * u.y);
}

}  // namespace

std::optional<Convergence> convergenceOfUprights(const cv::Mat& gray, const LensBend& bend) {
  std::vector<Upright> all = uprightsIn(gray, kMostLean_deg, bend);
  std::sort(all.begin(), all.end(), [](const Upright& a, const Upright& b) { return a.length > b.length; });
  if (all.size() > kMostSegments) all.resize(kMostSegments);
  double best = 0, roll = 0, per_px = 0;
  const auto agreeing = [&](double r, double k) {
    double sum = 0;
    for (const Upright& u : all)
      if (std::abs(degrees(u.angle_rad - leanOf(u, r, k))) < kAgree_deg) sum += u.length;
    return sum;
  };
  for (std::size_t i = 0; i < all.size(); ++i)
    for (std::size_t j = 0; j < i; ++j) {
      const Upright &a = all[i], &b = all[j];
      if (std::abs(a.x - b.x) < 0.1 * gray.cols) continue;
      const double k = -(std::tan(a.angle_rad) - std::tan(b.angle_rad)) / (a.x - b.x);
      const double r = a.angle_rad - std::atan2(-k * a.x, 1 - k * a.y);
      if (std::abs(degrees(r)) > kMostRoll_deg || std::abs(k) * std::max(gray.cols, gray.rows) > 0.6) continue;
      if (const double sum = agreeing(r, k); sum > best) {
        best = sum;
        roll = r;
        per_px = k;
      }
    }
  if (best < kLeastTotal * gray.rows) return std::nullopt;
  // All that agree, by least squares: angle = roll - x / (1 - k y) k.
  double n = 0, sx = 0, sxx = 0;
  for (int round = 0; round < 4; ++round) {
    double sa = 0, sxa = 0;
    n = sx = sxx = 0;
    for (const Upright& u : all) {
      if (std::abs(degrees(u.angle_rad - leanOf(u, roll, per_px))) >= kAgree_deg) continue;
      const double x = -u.x / (1 - per_px * u.y);
      n += 1;
      sx += x;
      sxx += x * x;
      sa += std::tan(u.angle_rad - roll);
      sxa += x * std::tan(u.angle_rad - roll);
    }
    const double det = n * sxx - sx * sx;
    if (n < kFewestAgreeing || det <= 0) return std::nullopt;
    per_px = (n * sxa - sx * sa) / det;
    roll += (sa * sxx - sx * sxa) / det;
  }
  // Edges come in pairs, the two sides of one post: half of them tell something new.
  const double spread = sxx - sx * sx / n, edge = radians(kEdge_deg) * std::sqrt(2.0);
  return Convergence{per_px, edge / std::sqrt(spread), roll, edge * std::sqrt(sxx / (n * spread))};
}

std::optional<double> rollFromUprights(const cv::Mat& gray, const LensBend& bend) {
  std::vector<Upright> uprights = uprightsIn(gray, kMostRoll_deg, bend);
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
