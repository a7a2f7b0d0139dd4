// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar_end.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/core.hpp>

#include "core/base/angle.h"
#include "core/base/result.h"

namespace jib::tracing {
namespace {

// A sleeve is 50 mm thick and the rim 450 mm, so the end's radius is 0.111 rims, a little more as it is nearer.
constexpr double kSleeveOverRim = 50.0 / 450.0;
// The sleeve stands out of the outermost plate by a hand's breadth at least: less is a mark on the plate itself.
constexpr double kLeastLead = 0.03, kMostLead = 0.30;
constexpr double kMostTurned = 0.45;  // tangent of the camera's turn away from the bar: beyond this it is no side view
constexpr double kUsualFocal = 0.83;  // over the picture's longer side
constexpr std::size_t kMostFrames = 160;
constexpr std::size_t kFewest = 12;

struct Spot {
  PixelPoint offset;  // px in the clip, from the rim's centre
  PixelPoint plate;   // the rim's centre relative to the middle of the picture
  double weight;
};

constexpr int kRingRays = 20;

// Places just inside and outside a ring of one size, as steps from a pixel's centre with their bilinear weights: the
// same for every pixel, so worked out once.
struct Ring {
  struct Tap {
    int offset;  // bytes from the pixel, in a hub picture
    float weight[4];
  };
  std::array<Tap, kRingRays> inner, outer;

  explicit Ring(double radius) {
    for (std::size_t i = 0; i < kRingRays; ++i) {
      const double a = 2 * kPi * static_cast<double>(i) / kRingRays;
      inner[i] = tap((radius - 1.2) * std::cos(a), (radius - 1.2) * std::sin(a));
      outer[i] = tap((radius + 1.2) * std::cos(a), (radius + 1.2) * std::sin(a));
    }
  }
  static Tap tap(double x, double y) {
    const double fx = std::floor(x), fy = std::floor(y);
    const auto tx = static_cast<float>(x - fx), ty = static_cast<float>(y - fy);
    return {static_cast<int>(fy) * RimTrack::kHubSide + static_cast<int>(fx),
            {(1 - tx) * (1 - ty), tx * (1 - ty), (1 - tx) * ty, tx * ty}};
  }
  static float value(const unsigned char* at, const Tap& tap) {
    const unsigned char* p = at + tap.offset;
    constexpr int kRow = RimTrack::kHubSide;
    return p[0] * tap.weight[0] + p[1] * tap.weight[1] + p[kRow] * tap.weight[2] + p[kRow + 1] * tap.weight[3];
  }
  // Mean inward slope of brightness: strong when a disc of that size, darker or brighter than its surroundings, sits
  // there. One-signed rings only: a straight edge through the place has both signs and cancels.
  float score(const unsigned char* at) const {
    float sum = 0;
    for (std::size_t i = 0; i < kRingRays; ++i)
      sum += std::clamp(value(at, inner[i]) - value(at, outer[i]), -40.0f, 40.0f);
    return std::abs(sum) / kRingRays;
  }
};

// The best few places in one hub picture.
void spotsOf(const RimTrack::Seen& seen, PixelPoint middle, std::vector<Spot>& spots) {
  const double step = seen.fit.shape.radius_px / RimTrack::kHubRadius;
  const double radius = kSleeveOverRim * RimTrack::kHubRadius * 1.1;
  const int side = RimTrack::kHubSide;
  const int margin = static_cast<int>(radius) + 4;
  static const Ring smaller(radius * 0.92), larger(radius * 1.08);
  JIB_ASSERT(seen.hub.isContinuous() && seen.hub.cols == side && seen.hub.rows == side);
  cv::Mat_<float> score(side, side, 0.0f);
  for (int y = margin; y < side - margin; ++y)
    for (int x = margin; x < side - margin; ++x) {
      const unsigned char* at = seen.hub.ptr<unsigned char>(y) + x;
      score(y, x) = std::max(smaller.score(at), larger.score(at));
    }
  for (int k = 0; k < 3; ++k) {
    double most = 0;
    cv::Point at;
    cv::minMaxLoc(score, nullptr, &most, nullptr, &at);
    if (most < 5) return;
    // Sub-pixel: centroid of the score's square around its peak.
    double sx = 0, sy = 0, sum = 0;
    for (int dy = -2; dy <= 2; ++dy)
      for (int dx = -2; dx <= 2; ++dx) {
        const double w = std::pow(std::max(0.0, score(at.y + dy, at.x + dx) - 0.6 * most), 2);
        sx += w * (at.x + dx + 0.5);
        sy += w * (at.y + dy + 0.5);
        sum += w;
      }
    const PixelPoint place{sx / sum, sy / sum};
    spots.push_back({{(place.x - side / 2.0) * step, (place.y - side / 2.0) * step}, seen.fit.centre - middle, most});
    for (int dy = -3; dy <= 3; ++dy)
      for (int dx = -3; dx <= 3; ++dx)
        if (at.y + dy >= 0 && at.y + dy < side && at.x + dx >= 0 && at.x + dx < side) score(at.y + dy, at.x + dx) = 0;
  }
}

BarEndOffset fitted(const std::vector<Spot>& spots, const BarEndOffset& start, double reach_px) {
  BarEndOffset fit = start;
  for (int pass = 0; pass < 6; ++pass) {
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    double squares = 0;
    fit.frames = 0;
    for (const Spot& s : spots) {
      const PixelPoint miss = s.offset - fit.constant - s.plate * fit.ratio;
      if (length(miss) > reach_px) continue;
      ++fit.frames;
      squares += dot(miss, miss) / 2;
      const double w = s.weight;
      const Eigen::Vector3d jx(s.plate.x, 1, 0), jy(s.plate.y, 0, 1);
      normal += w * (jx * jx.transpose() + jy * jy.transpose());
      right += w * (jx * s.offset.x + jy * s.offset.y);
    }
    if (fit.frames < 4) return fit;
    const Eigen::Vector3d x = normal.ldlt().solve(right);
    fit.ratio = x(0);
    fit.constant = {x(1), x(2)};
    fit.sigma_px = std::sqrt(squares / fit.frames) / std::sqrt(fit.frames / 4.0) + 0.15;
  }
  return fit;
}

}  // namespace

std::optional<BarEndOffset> findBarEnd(const std::vector<RimTrack::Seen>& seen, PixelPoint middle) {
  if (seen.size() < kFewest) return std::nullopt;
  std::vector<Spot> spots;
  const std::size_t every = std::max<std::size_t>(1, seen.size() / kMostFrames);
  std::size_t used = 0;
  for (std::size_t i = 0; i < seen.size(); i += every, ++used) spotsOf(seen[i], middle, spots);
  const double radius = seen.front().fit.shape.radius_px;
  const double reach = std::max(1.0, 0.03 * radius);

  const double farthest = kMostTurned * kUsualFocal * 2 * std::max(middle.x, middle.y);  // px to the vanishing point

  // Every pair of spots far enough apart proposes a ratio and a constant; the one most frames agree with wins.
  std::vector<std::size_t> order;
  for (std::size_t i = 0; i < spots.size(); i += std::max<std::size_t>(1, spots.size() / 60)) order.push_back(i);
  BarEndOffset best;
  double most = 0;
  for (std::size_t a : order)
    for (std::size_t b : order) {
      const double apart = spots[b].plate.y - spots[a].plate.y;
      if (apart < 0.8 * radius) continue;
      BarEndOffset tried;
      tried.ratio = (spots[b].offset.y - spots[a].offset.y) / apart;
      if (tried.ratio < kLeastLead || tried.ratio > kMostLead) continue;
      tried.constant = spots[a].offset - spots[a].plate * tried.ratio;
      if (length(tried.constant) > tried.ratio * farthest) continue;
      double votes = 0;
      for (const Spot& s : spots)
        if (length(s.offset - tried.constant - s.plate * tried.ratio) < reach) votes += s.weight;
      if (votes > most) {
        most = votes;
        best = tried;
      }
    }
  if (most <= 0) return std::nullopt;
  best = fitted(spots, best, reach);
  if (best.frames < static_cast<int>(0.4 * static_cast<double>(used)) || best.ratio < kLeastLead ||
      best.ratio > kMostLead || length(best.constant) > best.ratio * farthest)
    return std::nullopt;
  return best;
}

}  // namespace jib::tracing
