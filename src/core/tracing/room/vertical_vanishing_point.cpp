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

constexpr double kShort = 0.06;  // of the picture's height: an edge that is looked at where there are no longer ones

std::vector<Upright> uprightsIn(const cv::Mat& gray, const LensBend& bend) {
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
    if (l < kShort * gray.rows || std::abs(degrees(angle)) > kMostLean_deg) continue;
    uprights.push_back({angle, l, (a.x + b.x) / 2, (a.y + b.y) / 2});
  }
  return uprights;
}

// Those long enough to count by themselves, and no steeper than that.
std::vector<Upright> longOnes(std::vector<Upright> uprights, int rows, double most_lean_deg) {
  std::erase_if(uprights, [&](const Upright& u) {
    return u.length < kLeastLength * rows || std::abs(degrees(u.angle_rad)) > most_lean_deg;
  });
  return uprights;
}

// What an upright at (x, y) leans by, for a roll and a convergence.
double leanOf(const Upright& u, double roll_rad, double per_px) {
  return roll_rad + std::atan2(-per_px * u.x, 1 - per_px * u.y);
}

// What a few short edges still tell of the roll, where too few agree for more: one post, the sides of a poster. Every
// pair of a roll and a pitch is weighed by how usual it is of a propped phone and by the edges it explains, one that
// nothing explains costing no more than a little. The pitch is left open: it is told better by other things.
// Source  a grid posterior with Cauchy's likelihood: Gelman and others, Bayesian Data Analysis, 3rd ed., chapters 3, 17
std::optional<Convergence> rollByFewEdges(std::vector<Upright> all, const cv::Size& picture) {
  constexpr double kWhole = 0.10;  // of the picture's height: an edge of full weight
  constexpr double kPropped_deg = 1.5, kPitched_deg = 6, kFits_deg = 0.7, kWeight = 0.6, kMostWeight = 2;
  constexpr double kRolls_deg = 6, kRollStep_deg = 0.1, kPitches_deg = 16, kPitchStep_deg = 0.5;
  constexpr double kUsualFocal = 0.8, kAnything_per_px = 1;
  if (all.empty()) return std::nullopt;
  std::sort(all.begin(), all.end(), [](const Upright& a, const Upright& b) { return a.length > b.length; });
  if (all.size() > kMostSegments) all.resize(kMostSegments);
  const double focal = kUsualFocal * std::max(picture.width, picture.height);
  struct Weighed {
    double roll_deg, log;
  };
  std::vector<Weighed> grid;
  double most = -1e9;
  for (double roll = -kRolls_deg; roll < kRolls_deg + kRollStep_deg / 2; roll += kRollStep_deg)
    for (double pitch = -kPitches_deg; pitch < kPitches_deg + kPitchStep_deg / 2; pitch += kPitchStep_deg) {
      const double per_px = std::tan(radians(pitch)) / focal;
      double log = -(std::pow(roll / kPropped_deg, 2) + std::pow(pitch / kPitched_deg, 2)) / 2;
      for (const Upright& u : all) {
        const double off_deg = degrees(u.angle_rad - leanOf(u, radians(roll), per_px));
        log -= kWeight * std::min(kMostWeight, u.length / (kWhole * picture.height)) *
               std::log1p(std::pow(off_deg / kFits_deg, 2));
      }
      grid.push_back({roll, log});
      most = std::max(most, log);
    }
  double sum = 0, mean = 0, square = 0;
  for (const auto& [roll, log] : grid) {
    const double p = std::exp(log - most);
    sum += p;
    mean += p * roll;
    square += p * roll * roll;
  }
  mean /= sum;
  return Convergence{0, kAnything_per_px, radians(mean), radians(std::sqrt(std::max(0.0, square / sum - mean * mean)))};
}

// What many edges tell, where they agree.
std::optional<Convergence> convergenceOfMany(std::vector<Upright> all, const cv::Size& picture) {
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
      if (std::abs(a.x - b.x) < 0.1 * picture.width) continue;
      const double k = -(std::tan(a.angle_rad) - std::tan(b.angle_rad)) / (a.x - b.x);
      const double r = a.angle_rad - std::atan2(-k * a.x, 1 - k * a.y);
      if (std::abs(degrees(r)) > kMostRoll_deg || std::abs(k) * std::max(picture.width, picture.height) > 0.6) continue;
      if (const double sum = agreeing(r, k); sum > best) {
        best = sum;
        roll = r;
        per_px = k;
      }
    }
  if (best < kLeastTotal * picture.height) return std::nullopt;
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

// What most of them lean by, where they agree.
std::optional<double> meanRoll(std::vector<Upright> uprights, int rows) {
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
  if (agreeing < kLeastTotal * rows || agreeing < 0.5 * total) return std::nullopt;
  return mean / agreeing;
}

}  // namespace

std::optional<Convergence> convergenceOfUprights(const cv::Mat& gray, const LensBend& bend) {
  const std::vector<Upright> all = uprightsIn(gray, bend);
  if (auto many = convergenceOfMany(longOnes(all, gray.rows, kMostLean_deg), gray.size())) return many;
  // Where many run down the picture side by side their mean tells the roll better.
  if (meanRoll(longOnes(all, gray.rows, kMostRoll_deg), gray.rows)) return std::nullopt;
  return rollByFewEdges(all, gray.size());
}

std::optional<double> rollFromUprights(const cv::Mat& gray, const LensBend& bend) {
  return meanRoll(longOnes(uprightsIn(gray, bend), gray.rows, kMostRoll_deg), gray.rows);
}

}  // namespace jib::tracing
