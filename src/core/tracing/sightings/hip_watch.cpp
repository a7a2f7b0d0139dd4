// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/hip_watch.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "core/tracing/room/patch.h"

namespace jib::tracing {
namespace {

// The patch about the joint, and the buttock behind it. What is further up the trunk or down the thigh comes up by
// less than the hip does.
constexpr double kBehind_m = 0.17, kAhead_m = 0.03, kAbove_m = 0.09, kBelow_m = 0.11;
constexpr double kBeyondOutline_m = 0.015;  // so much of what is behind belongs to the line of the buttock
constexpr double kRimBlur = 1.05;           // of the rim's radius
constexpr double kLeast = 0.3;              // of the patch: less of a hip is too little
constexpr double kPlain_grey = 4;           // 1 σ within a patch below which there is nothing to hold on to
constexpr double kAlike = 0.7;              // correlation
constexpr double kReach_m = 0.03;           // hips move by less from frame to frame

cv::Mat softened(const cv::Mat& grey) {
  cv::Mat soft;
  cv::GaussianBlur(grey, soft, {0, 0}, 1.2);
  return soft;
}

}  // namespace

std::optional<HipWatch> HipWatch::begin(const cv::Mat& grey, const Begin& known) {
  const auto px = [&](double metres) { return static_cast<int>(std::lround(metres * known.metre_px)); };
  const double left_m = known.forward > 0 ? kBehind_m : kAhead_m;
  HipWatch watch;
  watch.at_ = cv::Rect(static_cast<int>(known.hip.x) - px(left_m), static_cast<int>(known.hip.y) - px(kAbove_m),
                       px(kBehind_m + kAhead_m), px(kAbove_m + kBelow_m));
  watch.reach_ = std::max(3, px(kReach_m));
  if ((watch.at_ & cv::Rect(0, 0, grey.cols, grey.rows)) != watch.at_ || watch.at_.area() == 0) return std::nullopt;
  watch.mask_ = cv::Mat(watch.at_.size(), CV_8U, cv::Scalar(known.outline ? 0 : 255));
  const auto inPatch = [&](PixelPoint p) {
    return cv::Point(static_cast<int>(std::lround(p.x - watch.at_.x)),
                     static_cast<int>(std::lround(p.y - watch.at_.y)));
  };
  if (known.outline && !known.outline->empty()) {
    std::vector<cv::Point> line;
    for (const PixelPoint& p : *known.outline) line.push_back(inPatch(p));
    cv::fillPoly(watch.mask_, std::vector<std::vector<cv::Point>>{line}, cv::Scalar(255));
    const int more = std::max(1, px(kBeyondOutline_m));
    cv::dilate(watch.mask_, watch.mask_, cv::getStructuringElement(cv::MORPH_ELLIPSE, {2 * more + 1, 2 * more + 1}));
  }
  cv::circle(watch.mask_, inPatch(known.plate), static_cast<int>(std::ceil(kRimBlur * known.rim_px)), cv::Scalar(0),
             cv::FILLED);
  if (cv::countNonZero(watch.mask_) < kLeast * watch.at_.area()) return std::nullopt;
  watch.patch_ = softened(grey)(watch.at_).clone();
  cv::Scalar mean, spread;
  cv::meanStdDev(watch.patch_, mean, spread, watch.mask_);
  if (spread[0] < kPlain_grey) return std::nullopt;
  return watch;
}

std::optional<PixelPoint> HipWatch::moved(const cv::Mat& grey, PixelPoint near) const {
  const int dx = static_cast<int>(std::lround(near.x)), dy = static_cast<int>(std::lround(near.y));
  const cv::Rect around(at_.x + dx - reach_, at_.y + dy - reach_, at_.width + 2 * reach_, at_.height + 2 * reach_);
  if ((around & cv::Rect(0, 0, grey.cols, grey.rows)) != around) return std::nullopt;
  cv::Mat score;
  cv::matchTemplate(softened(grey(around)), patch_, score, cv::TM_CCOEFF_NORMED, mask_);
  double best = 0;
  cv::Point at(-1, -1);
  cv::minMaxLoc(score, nullptr, &best, nullptr, &at, score == score);  // of plain patches it is no number
  if (at.x < 0 || best < kAlike) return std::nullopt;
  const PixelPoint place = peakNear(score, at);
  return PixelPoint{place.x + dx - reach_, place.y + dy - reach_};
}

}  // namespace jib::tracing
