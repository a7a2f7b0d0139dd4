// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/shoe_watch.h"

#include <algorithm>
#include <cmath>

#include "core/tracing/room/sampling.h"

namespace jib::tracing {
namespace {

constexpr double kBall = 0.70;                       // of the shoe's length from its heel
constexpr double kUnderHeel = 0.10;                  // where a toe lifts about
constexpr double kSole_m = 0.005, kUpper_m = 0.055;  // off the floor, between which the shoe is looked at
constexpr double kNotPivot = 0.85;                   // of the lever: about the pivot nothing moves
constexpr double kMost_m = 0.06, kLeast_m = -0.01;
constexpr double kStep_px = 0.5;
constexpr double kAlike = 0.6;     // of a fit; under it something else is there
constexpr double kPlain_grey = 4;  // a shoe with less contrast cannot be told from another place
constexpr std::size_t kFewest = 60;

// How alike two lists of grey levels are, -1 to 1, whatever their brightness and contrast.
double alike(const std::vector<float>& a, const std::vector<float>& b) {
  double sa = 0, sb = 0, saa = 0, sbb = 0, sab = 0;
  const auto n = static_cast<double>(a.size());
  for (std::size_t i = 0; i < a.size(); ++i) {
    const double x = static_cast<double>(a[i]), y = static_cast<double>(b[i]);
    sa += x;
    sb += y;
    saa += x * x;
    sbb += y * y;
    sab += x * y;
  }
  const double across = (saa - sa * sa / n) * (sbb - sb * sb / n);
  return across > 1e-9 ? (sab - sa * sb / n) / std::sqrt(across) : 0;
}

PixelPoint turned(PixelPoint p, PixelPoint about, double sine) {
  const double cosine = std::sqrt(1 - sine * sine);
  const PixelPoint d = p - about;
  return about + PixelPoint{d.x * cosine - d.y * sine, d.x * sine + d.y * cosine};
}

}  // namespace

std::optional<ShoeWatch::Half> ShoeWatch::halfOf(const cv::Mat& grey, PixelPoint end, PixelPoint pivot,
                                                 double metre_px) {
  Half half;
  half.pivot = pivot;
  half.lever_px = std::abs(end.x - pivot.x);
  const double away = end.x > pivot.x ? 1.0 : -1.0;
  // Turning clockwise, as the picture's axes go, lowers what lies to the right of the pivot.
  half.turns = -away;
  double sum = 0, squares = 0;
  for (double u = half.lever_px * (1 - kNotPivot); u < half.lever_px - 1; u += 1)
    for (double v = kSole_m * metre_px; v < kUpper_m * metre_px; v += 1) {
      const PixelPoint p{pivot.x + away * u, pivot.y - v};
      if (p.x < 2 || p.y < 2 || p.x > grey.cols - 2 || p.y > grey.rows - 2) return std::nullopt;
      half.places.push_back(p);
      half.greys.push_back(sample<uchar>(grey, p));
      sum += static_cast<double>(half.greys.back());
      squares += static_cast<double>(half.greys.back()) * static_cast<double>(half.greys.back());
    }
  const auto n = static_cast<double>(half.places.size());
  if (half.places.size() < kFewest || std::sqrt(std::max(0.0, squares / n - sum * sum / n / n)) < kPlain_grey)
    return std::nullopt;
  return half;
}

std::optional<ShoeWatch> ShoeWatch::begin(const cv::Mat& grey, PixelPoint heel, PixelPoint toe, double metre_px) {
  // The floor under both is the heel's: a toe's tip is the shoe's and not the sole's.
  const PixelPoint tip{toe.x, heel.y}, shoe = tip - heel;
  auto of_heel = halfOf(grey, heel, heel + shoe * kBall, metre_px);
  auto of_toe = halfOf(grey, tip, heel + shoe * kUnderHeel, metre_px);
  if (!of_heel || !of_toe) return std::nullopt;
  ShoeWatch watch;
  watch.heel_ = std::move(*of_heel);
  watch.toe_ = std::move(*of_toe);
  watch.metre_px_ = metre_px;
  return watch;
}

std::optional<double> ShoeWatch::riseOf(const Half& half, const cv::Mat& grey) const {
  const int from = static_cast<int>(std::floor(kLeast_m * metre_px_ / kStep_px)),
            to = static_cast<int>(std::ceil(std::min(kMost_m * metre_px_, 0.4 * half.lever_px) / kStep_px));
  std::vector<double> fit;
  std::vector<float> seen(half.places.size());
  for (int k = from; k <= to; ++k) {
    const double sine = half.turns * k * kStep_px / half.lever_px;
    for (std::size_t i = 0; i < half.places.size(); ++i)
      seen[i] = sample<uchar>(grey, turned(half.places[i], half.pivot, sine));
    fit.push_back(alike(half.greys, seen));
  }
  const auto best = std::max_element(fit.begin(), fit.end());
  if (*best < kAlike) return std::nullopt;
  double at = from + static_cast<double>(best - fit.begin());
  if (best != fit.begin() && best + 1 != fit.end()) {
    const double before = *(best - 1), after = *(best + 1), bend = before - 2 * *best + after;
    if (bend < -1e-12) at += std::clamp(0.5 * (before - after) / bend, -0.5, 0.5);
  }
  return at * kStep_px;
}

std::optional<ShoeLift> ShoeWatch::look(const cv::Mat& grey) const {
  const auto heel = riseOf(heel_, grey), toe = riseOf(toe_, grey);
  if (!heel || !toe) return std::nullopt;
  // To what is kept in files: what is judged now is judged the same after it was read back.
  const auto kept = [](double px) { return std::round(px * 100) / 100; };
  return ShoeLift{kept(*heel), kept(*toe)};
}

}  // namespace jib::tracing
