// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/camera/far_plate.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"
#include "core/base/median.h"

namespace jib::tracing {
namespace {

// From a camera at arm's length of the bar to one at a dozen metres.
constexpr double kLeast = 0.45, kMost = 0.92, kStep = 0.003;
constexpr std::size_t kShares = static_cast<std::size_t>((kMost - kLeast) / kStep) + 1;
constexpr std::size_t kLines = 9;
constexpr double kBeside_rad = 0.04;  // from line to line
constexpr std::size_t kRays = 90;
constexpr double kHidden = 1.04;              // of the near rim: within it everything is the near plate
constexpr float kMostEdge = 25;               // grey levels across the rim; more is no surer
constexpr double kEnoughRays = 150;           // over all pictures
constexpr double kStandsOut = 5.0;            // spreads of the votes' own noise
constexpr double kLeastEdge = 1.5;            // grey levels beyond what lies about it
constexpr std::size_t kAbout = 24, kOwn = 7;  // shares either way that lie about a peak, and that may be its own
constexpr double kReach = 2;                  // px either side of the rim

double shareAt(std::size_t k) {
  return kLeast + kStep * static_cast<double>(k);
}

float valueAt(const cv::Mat_<float>& m, PixelPoint p) {
  const double x = p.x - 0.5, y = p.y - 0.5;
  const int ix = static_cast<int>(std::floor(x)), iy = static_cast<int>(std::floor(y));
  if (ix < 0 || iy < 0 || ix + 1 >= m.cols || iy + 1 >= m.rows) return -1;
  const auto fx = static_cast<float>(x - ix), fy = static_cast<float>(y - iy);
  return (m(iy, ix) * (1 - fx) + m(iy, ix + 1) * fx) * (1 - fy) +
         (m(iy + 1, ix) * (1 - fx) + m(iy + 1, ix + 1) * fx) * fy;
}

}  // namespace

FarPlateFinder::FarPlateFinder(const BarTrace& bar)
    : bar_(bar), votes_(kLines * kShares, 0.0), asked_(kLines * kShares, 0.0) {}

void FarPlateFinder::look(std::size_t frame, const cv::Mat& colour) {
  if (!worthLooking() || !bar_.plate[frame]) return;
  const PixelPoint near = bar_.plate[frame]->place;
  const double radius = bar_.rim.radius_px;
  // The part of the picture either plate can lie in.
  const PixelPoint farthest = *bar_.vanishing + (near - *bar_.vanishing) * kLeast;
  const double margin = radius + 8;
  const cv::Rect all(0, 0, colour.cols, colour.rows);
  const cv::Rect part = all & cv::Rect(cv::Point(static_cast<int>(std::min(near.x, farthest.x) - margin),
                                                 static_cast<int>(std::min(near.y, farthest.y) - margin)),
                                       cv::Point(static_cast<int>(std::max(near.x, farthest.x) + margin),
                                                 static_cast<int>(std::max(near.y, farthest.y) + margin)));
  if (part.area() == 0) return;
  cv::Mat grey;
  cv::Mat_<float> smooth;
  cv::cvtColor(colour(part), grey, cv::COLOR_BGR2GRAY);
  grey.convertTo(smooth, CV_32F);
  cv::GaussianBlur(smooth, smooth, {}, 1.0);
  const PixelPoint corner{static_cast<double>(part.x), static_cast<double>(part.y)};
  // The far rim is flattened and tilted as the near one.
  struct Ray {
    PixelPoint way;
    double reach_px;  // of the near rim this way
  };
  std::array<Ray, kRays> rays;
  for (std::size_t i = 0; i < kRays; ++i) {
    const double a = 2 * kPi * static_cast<double>(i) / kRays;
    const double along = std::cos(a - bar_.rim.tilt_rad), across = std::sin(a - bar_.rim.tilt_rad);
    rays[i] = {{std::cos(a), std::sin(a)}, radius / std::hypot(along, across / bar_.rim.aspect)};
  }
  const double hidden = kHidden * radius + 2 * kReach;
  for (std::size_t line = 0; line < kLines; ++line) {
    const double beside = kBeside_rad * (static_cast<double>(line) - (kLines - 1) / 2.0);
    const PixelPoint towards = rotated(*bar_.vanishing - near, beside);
    for (std::size_t k = 0; k < kShares; ++k) {
      const PixelPoint centre = near + towards * (1 - shareAt(k));
      for (const Ray& ray : rays) {
        const PixelPoint rim = centre + ray.way * (shareAt(k) * ray.reach_px);
        const PixelPoint outer = rim + ray.way * kReach, off = outer - near;
        if (off.x * off.x + off.y * off.y < hidden * hidden) continue;
        const float in = valueAt(smooth, rim - ray.way * kReach - corner);
        const float out = valueAt(smooth, outer - corner);
        if (in < 0 || out < 0) continue;
        votes_[line * kShares + k] += static_cast<double>(std::min(kMostEdge, std::abs(in - out)));
        asked_[line * kShares + k] += 1;
      }
    }
  }
}

std::optional<FarPlate> FarPlateFinder::found() const {
  // What stands out from the edges about it: nearer to the near plate and to the lifter there are more of all kinds.
  std::vector<double> edge(kLines * kShares, 0.0), known;
  for (std::size_t line = 0; line < kLines; ++line)
    for (std::size_t k = 0; k < kShares; ++k) {
      const auto mean = [&](std::size_t i) { return votes_[line * kShares + i] / asked_[line * kShares + i]; };
      if (asked_[line * kShares + k] < kEnoughRays) continue;
      std::vector<double> about;
      for (std::size_t i = k > kAbout ? k - kAbout : 0; i < std::min(kShares, k + kAbout + 1); ++i)
        if (asked_[line * kShares + i] >= kEnoughRays && (i + kOwn < k || i > k + kOwn)) about.push_back(mean(i));
      if (about.size() < kAbout) continue;
      edge[line * kShares + k] = mean(k) - median(about);
      known.push_back(edge[line * kShares + k]);
    }
  if (known.size() < kLines * kShares / 4) return std::nullopt;
  const double spread = 1.48 * medianOff(known, 0) + 0.1;
  const auto best = static_cast<std::size_t>(std::max_element(edge.begin(), edge.end()) - edge.begin());
  if (edge[best] < std::max(kLeastEdge, kStandsOut * spread)) return std::nullopt;
  const std::size_t line = best / kShares, at = best % kShares;
  const double* of_line = edge.data() + line * kShares;
  // A rival elsewhere, on whichever line, and nothing is told.
  for (std::size_t i = 0; i < edge.size(); ++i) {
    const std::size_t k = i % kShares;
    if ((k + 2 * kOwn < at || k > at + 2 * kOwn) && edge[i] > 0.75 * edge[best]) return std::nullopt;
  }
  std::size_t from = at, to = at;
  while (from > 0 && of_line[from - 1] > edge[best] / 2) --from;
  while (to + 1 < kShares && of_line[to + 1] > edge[best] / 2) ++to;
  if (from == 0 || to + 1 == kShares) return std::nullopt;
  double sum = 0, weights = 0;
  for (std::size_t k = from; k <= to; ++k) {
    sum += (of_line[k] - edge[best] / 2) * shareAt(k);
    weights += of_line[k] - edge[best] / 2;
  }
  const double width = kStep * static_cast<double>(to - from + 1);
  const double share = weights > 0 ? sum / weights : shareAt(at);
  // Of a rim that only peeps out, the share hangs on how far away the vanishing point is.
  PixelPoint mean;
  double n = 0;
  for (const auto& p : bar_.plate)
    if (p) {
      mean = mean + p->place;
      n += 1;
    }
  const double away = length(*bar_.vanishing - mean * (1 / n)), radius = bar_.rim.radius_px;
  const double by_point = (1 - share) * bar_.vanishing_sigma_px / std::max(radius, away - radius);
  return FarPlate{share, std::hypot(std::max(0.006, width / 4), by_point)};
}

FocalFromPlates focalFrom(const FarPlate& far, const Rim& rim, double rim_m, double plate_m) {
  // A plate this far away looks radius / distance large: distance_far / distance_near is 1 / share.
  // From the outer face of the near plates to where the outline of the far ones is largest, their inner face.
  constexpr double kInner_m = 0.04;
  const double apart = 2 * plate_m - kInner_m, distance = apart * far.share / (1 - far.share);
  // Which face of a stack of plates the rim belongs to is open by some centimetres at either end.
  constexpr double kFaces_m = 0.05;
  const double by_share = far.sigma / (far.share * (1 - far.share));
  return {rim.radius_px * std::sqrt(rim.aspect) / (rim_m / 2) * distance, std::hypot(by_share, kFaces_m / apart, 0.02)};
}

}  // namespace jib::tracing
