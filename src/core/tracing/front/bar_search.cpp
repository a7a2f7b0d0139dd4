// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/bar_search.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "core/tracing/room/patch.h"

namespace jib::tracing {
namespace {

double alike(const cv::Mat& a, const cv::Mat& b) {
  cv::Mat score;
  cv::matchTemplate(a, b, score, cv::TM_CCOEFF_NORMED);
  return score.at<float>(0, 0);
}

}  // namespace

BarSearch::BarSearch(const cv::Mat& high, const cv::Mat& low, const Apart& apart, double metre_px, double way)
    : apart_(apart), metre_px_(metre_px), way_(way) {
  // Only what is not the room: whatever stands still is black here, whatever moved shows where it was and where it is.
  constexpr double kNoise_grey = 8;
  cv::absdiff(high, low, moved_);
  cv::subtract(moved_, cv::Scalar(kNoise_grey), moved_);
}

bool BarSearch::settle() {
  constexpr double kOff_m = 0.07, kMore_m = 0.08;
  double best = 0;
  for (double off = -kOff_m * metre_px_; off <= kOff_m * metre_px_; off += 1)
    for (double more = -kMore_m * metre_px_; more <= kMore_m * metre_px_; more += 1) {
      double sum = 0;
      for (double out_m : {0.50, 0.58, 0.66, 0.74, 0.80, 0.86, 0.92}) sum += std::max(0.0, moves(out_m, off, more));
      if (sum > best) {
        best = sum;
        off_ = off;
        more_ = more;
      }
    }
  return best > 1.2;
}

PixelPoint BarSearch::placeAt(double out_m) const {
  return apart_.hands + apart_.line * (way_ * out_m * metre_px_) + PixelPoint{0, off_};
}

double BarSearch::moves(double out_m, double off, double more) const {
  constexpr double kTall_m = 0.11, kWide_m = 0.05, kPlain_grey = 2.5;
  const PixelPoint at = apart_.hands + apart_.line * (way_ * out_m * metre_px_) + PixelPoint{0, off};
  const PixelPoint then = at + apart_.went + PixelPoint{0, more};
  const double margin = kTall_m * metre_px_;
  if (at.x < margin || then.x < margin || at.x > moved_.cols - margin || then.x > moved_.cols - margin ||
      at.y < margin || then.y > moved_.rows - margin)
    return 0;
  const int wide = std::max(5, static_cast<int>(kWide_m * metre_px_)) | 1,
            tall = std::max(9, static_cast<int>(kTall_m * metre_px_)) | 1;
  const cv::Mat now = patch(moved_, at, wide, tall), later = patch(moved_, then, wide, tall);
  for (const cv::Mat& one : {now, later}) {
    cv::Scalar mean, spread;
    cv::meanStdDev(one, mean, spread);
    if (spread[0] < kPlain_grey) return 0;
  }
  return alike(now, later);
}

std::optional<double> BarSearch::end() const {
  constexpr double kFrom_m = 0.70, kTo_m = 1.35, kStep_m = 0.01, kMoves = 0.45;
  std::optional<double> last;
  double agreeing = 0;
  for (double out = kFrom_m; out <= kTo_m; out += kStep_m) {
    if (moves(out) > kMoves) {
      agreeing += 1;
      last = out;
    }
  }
  return agreeing >= 4 ? last : std::nullopt;
}

}  // namespace jib::tracing
