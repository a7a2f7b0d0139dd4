// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/plate_finder.h"

#include <algorithm>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kSearchSide_px = 640;  // the longer side is brought down to this
// A 450 mm plate filmed from 2 to 7 m with a phone takes this share of the longer side as radius.
constexpr double kSmallest = 0.018, kLargest = 0.14;
constexpr int kSectors = 36;
constexpr double kLeastCoverage = 0.5;
constexpr std::size_t kMost = 10;
constexpr double kAspects[]{1.0, 0.87, 0.75};  // of plates seen from the side, from 30 and from 41 degrees off it
constexpr double kClearlyBetter = 0.10;        // in coverage, to be of another aspect than rounder ones say

struct Edge {
  float x, y, gx, gy;  // gx, gy: unit
};

std::vector<Edge> edgesOf(const cv::Mat& gray) {
  cv::Mat smooth, dx, dy;
  cv::GaussianBlur(gray, smooth, {}, 1.0);
  cv::Scharr(smooth, dx, CV_32F, 1, 0, 1.0 / 32);
  cv::Scharr(smooth, dy, CV_32F, 0, 1, 1.0 / 32);
  std::vector<Edge> edges;
  for (int y = 1; y + 1 < gray.rows; ++y) {
    const float* gx = dx.ptr<float>(y);
    const float* gy = dy.ptr<float>(y);
    for (int x = 1; x + 1 < gray.cols; ++x) {
      const float strength = std::sqrt(gx[x] * gx[x] + gy[x] * gy[x]);
      if (strength < 4.0f) continue;
      // Thin: the strength must be a maximum across the edge.
      const bool across_x = std::abs(gx[x]) > std::abs(gy[x]);
      const int sx = across_x ? 1 : 0, sy = across_x ? 0 : 1;
      const auto at = [&](int ox, int oy) {
        const float ax = dx.ptr<float>(y + oy)[x + ox], ay = dy.ptr<float>(y + oy)[x + ox];
        return ax * ax + ay * ay;
      };
      if (at(sx, sy) > strength * strength || at(-sx, -sy) > strength * strength) continue;
      edges.push_back({static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f, gx[x] / strength, gy[x] / strength});
    }
  }
  return edges;
}

// The outermost of the most complete circles round `centre`, and a less complete one outside it where there is one:
// coverage of each radius by edges that face the centre. A ring painted on a plate is seen all round, the rim of a dark
// plate only before what is bright.
std::vector<RoundThing> outerCircles(const std::vector<Edge>& edges, PixelPoint centre, double smallest,
                                     double largest) {
  const auto radii = static_cast<std::size_t>(largest) + 3;
  std::vector<std::uint64_t> seen(radii + 1, 0);
  for (const Edge& e : edges) {
    const double dx = e.x - centre.x, dy = e.y - centre.y;
    const double square = dx * dx + dy * dy;
    if (square < (smallest - 1) * (smallest - 1) || square > (largest + 1) * (largest + 1)) continue;
    const double r = std::sqrt(square);
    if (std::abs(dx * e.gx + dy * e.gy) < 0.93 * r) continue;
    const auto sector = static_cast<unsigned>((std::atan2(dy, dx) + kPi) / (2 * kPi) * kSectors) % kSectors;
    seen[static_cast<std::size_t>(std::lround(r))] |= std::uint64_t{1} << sector;
  }
  std::vector<double> coverage(radii + 1, 0);
  double most = 0;
  for (std::size_t r = 2; r + 2 <= radii; ++r) {
    const std::uint64_t around = seen[r - 1] | seen[r] | seen[r + 1] | (r > 40 ? seen[r - 2] | seen[r + 2] : 0);
    coverage[r] = static_cast<double>(__builtin_popcountll(around)) / kSectors;
    most = std::max(most, coverage[r]);
  }
  if (most < kLeastCoverage) return {};
  std::size_t best = radii - 2;
  while (coverage[best] < std::max(kLeastCoverage, 0.78 * most)) --best;
  // Walk inwards to the middle of this ring.
  for (std::size_t k = best, r = best; k + 3 >= r && k >= 2; --k)
    if (coverage[k] > coverage[best]) best = k;
  std::vector<RoundThing> circles{{centre, static_cast<double>(best), coverage[best]}};
  const auto outside = static_cast<std::size_t>(std::ceil(kAnotherCircle * static_cast<double>(best)));
  if (outside + 2 <= radii) {
    const auto rim = std::max_element(coverage.begin() + static_cast<long>(outside), coverage.end());
    if (*rim >= kLeastCoverage) circles.push_back({centre, static_cast<double>(rim - coverage.begin()), *rim});
  }
  return circles;
}

// Round things of a picture in which a plate of that aspect is a circle; places and radii in its pixels.
std::vector<RoundThing> circlesIn(const cv::Mat& small, double smallest, double largest,
                                  std::optional<PixelPoint> near) {
  const std::vector<Edge> edges = edgesOf(small);
  cv::Mat_<float> votes = cv::Mat_<float>::zeros(small.size());
  const auto width = static_cast<float>(votes.cols), height = static_cast<float>(votes.rows);
  for (const Edge& e : edges)
    for (float way : {-1.0f, 1.0f}) {
      const float sx = way * e.gx, sy = way * e.gy;
      for (float r = static_cast<float>(smallest); r <= static_cast<float>(largest); r += 1) {
        const float x = e.x + sx * r, y = e.y + sy * r;
        if (x < 0 || y < 0 || x >= width || y >= height) break;
        votes.ptr<float>(static_cast<int>(y))[static_cast<int>(x)] += 1;
      }
    }
  cv::GaussianBlur(votes, votes, {}, 1.5);

  std::vector<RoundThing> found;
  cv::Mat_<float> left = votes.clone();
  if (near) {
    cv::Mat mask = cv::Mat::zeros(left.size(), CV_8U);
    cv::circle(mask, {static_cast<int>(near->x), static_cast<int>(near->y)}, static_cast<int>(largest * 0.7), 255, -1);
    left.setTo(0, mask == 0);
  }
  for (std::size_t i = 0; i < 3 * kMost && found.size() < kMost; ++i) {
    double most = 0;
    cv::Point place;
    cv::minMaxLoc(left, nullptr, &most, nullptr, &place);
    if (most <= 0) break;
    cv::circle(left, place, 5, 0, -1);
    for (const RoundThing& circle : outerCircles(edges, {place.x + 0.5, place.y + 0.5}, smallest, largest))
      if (!near || length(circle.centre - *near) <= circle.radius_px) found.push_back(circle);
  }
  return found;
}

// Whether one thing was found twice, as of two aspects.
bool sameThing(const RoundThing& a, const RoundThing& b) {
  constexpr double kMiddles = 0.3, kRadii = 0.12;  // of the radius
  return length(a.centre - b.centre) < kMiddles * a.radius_px &&
         std::abs(a.radius_px - b.radius_px) < kRadii * a.radius_px;
}

}  // namespace

std::vector<RoundThing> findRoundThings(const cv::Mat& gray, std::optional<PixelPoint> near) {
  const double scale = std::min(1.0, kSearchSide_px / std::max(gray.cols, gray.rows));
  const double longer = scale * std::max(gray.cols, gray.rows);
  const double smallest = std::max(6.0, kSmallest * longer), largest = kLargest * longer;
  std::vector<RoundThing> found;
  for (const double aspect : kAspects) {
    cv::Mat small;
    cv::resize(gray, small, {}, scale / aspect, scale, scale < 1 ? cv::INTER_AREA : cv::INTER_LINEAR);
    std::optional<PixelPoint> here;
    if (near) here = PixelPoint{near->x * scale / aspect, near->y * scale};
    for (RoundThing thing : circlesIn(small, smallest, largest, here)) {
      thing.centre = {thing.centre.x * aspect / scale, thing.centre.y / scale};
      thing.radius_px *= (1 + aspect) / 2 / scale;
      thing.aspect = aspect;
      const auto known =
          std::find_if(found.begin(), found.end(), [&](const RoundThing& other) { return sameThing(other, thing); });
      // Seen clearly better as an oval it is offered as both; which of them travels like a bar is seen later.
      if (known == found.end() || thing.coverage > known->coverage + kClearlyBetter) found.push_back(thing);
    }
  }
  // Few are followed: an oval has to be seen clearly better than a circle to come before it.
  const auto worth = [](const RoundThing& t) { return t.coverage - (t.aspect < 1 ? kClearlyBetter : 0); };
  std::stable_sort(found.begin(), found.end(), [&](const auto& a, const auto& b) { return worth(a) > worth(b); });
  return found;
}

}  // namespace jib::tracing
