// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/lying_watch.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "core/tracing/room/patch.h"

namespace jib::tracing {
namespace {

// The hip's patch, about the joint. Above it ends in the air, where a lift shows best; towards the head the plate comes
// near; the pad below does not move and stays out.
constexpr double kTowardsHead_m = 0.02, kTowardsFeet_m = 0.16, kAbove_m = 0.15, kBelow_m = 0.02;
constexpr double kReach_m = 0.09;   // hips are looked for this far around
constexpr double kAlike = 0.6;      // correlation
constexpr double kPlain_grey = 3;   // 1 σ within a patch below which there is nothing to hold on to
constexpr double kElbow_m = 0.042;  // from the joint to the skin below it
constexpr double kTip_m = 0.025;    // of what stands out below the plate the lowest part is the elbow
constexpr double kElbowWidth_m = 0.09, kSideBySide_m = 0.03;  // of one elbow; from which both show
constexpr double kLeastArea_m = 0.03;                         // across: what is smaller is noise
constexpr double kRimBlur = 1.04;                             // of the rim's radius

cv::Mat softened(const cv::Mat& grey) {
  cv::Mat soft;
  cv::GaussianBlur(grey, soft, {0, 0}, 1.2);
  return soft;
}

}  // namespace

LyingWatch::LyingWatch(const cv::Mat& straight, const Begin& begin) : straight_(softened(straight)), begin_(begin) {
  const auto px = [&](double metres) { return static_cast<int>(std::lround(metres * begin.metre_px)); };
  const double left_m = begin.forward > 0 ? kTowardsHead_m : kTowardsFeet_m;
  const cv::Rect at(static_cast<int>(begin.hip.x) - px(left_m), static_cast<int>(begin.hip.y) - px(kAbove_m),
                    px(kTowardsHead_m + kTowardsFeet_m), px(kAbove_m) + px(kBelow_m));
  const cv::Rect whole(0, 0, straight.cols, straight.rows);
  if ((at & whole) == at && at.area() > 0) {
    cv::Scalar mean, spread;
    cv::meanStdDev(straight_(at), mean, spread);
    if (spread[0] > kPlain_grey) {
      patch_at_ = at;
      patch_ = straight_(at).clone();
    }
  }
  // What changes from pixel to pixel changes from frame to frame as well.
  cv::Mat edges;
  cv::absdiff(straight, straight_, edges);
  noise_ = std::max(2.0, cv::mean(edges)[0]);
}

LyingSeen LyingWatch::look(const cv::Mat& grey, PixelPoint plate) const {
  const cv::Mat soft = softened(grey);
  // To what is kept in files: what is judged now is judged the same after it was read back.
  const auto kept = [](std::optional<PixelPoint> p) {
    return p ? std::optional(PixelPoint{std::round(p->x * 100) / 100, std::round(p->y * 100) / 100}) : std::nullopt;
  };
  return {kept(hipMoved(soft, plate)), kept(elbowBelow(soft, plate))};
}

std::optional<PixelPoint> LyingWatch::hipMoved(const cv::Mat& grey, PixelPoint plate) const {
  if (patch_.empty()) return std::nullopt;
  const int reach = static_cast<int>(std::lround(kReach_m * begin_.metre_px));
  const PixelPoint nearest{std::clamp<double>(plate.x, patch_at_.x, patch_at_.x + patch_at_.width),
                           std::clamp<double>(plate.y, patch_at_.y, patch_at_.y + patch_at_.height)};
  if (length(nearest - plate) < kRimBlur * begin_.rim_px) return std::nullopt;
  const cv::Rect around =
      cv::Rect(patch_at_.x - reach, patch_at_.y - reach, patch_at_.width + 2 * reach, patch_at_.height + 2 * reach) &
      cv::Rect(0, 0, grey.cols, grey.rows);
  if (around.width <= patch_at_.width || around.height <= patch_at_.height) return std::nullopt;
  cv::Mat score;
  cv::matchTemplate(grey(around), patch_, score, cv::TM_CCOEFF_NORMED);
  double best = 0;
  cv::Point at;
  cv::minMaxLoc(score, nullptr, &best, nullptr, &at);
  if (best < kAlike) return std::nullopt;
  return peakNear(score, at) +
         PixelPoint{static_cast<double>(around.x - patch_at_.x), static_cast<double>(around.y - patch_at_.y)};
}

std::optional<PixelPoint> LyingWatch::elbowBelow(const cv::Mat& grey, PixelPoint plate) const {
  constexpr double kAside = 1.2, kFrom = 0.6, kTo = 1.9;  // of the rim's radius, about the plate
  constexpr double kNewAt_noises = 4, kLeast_grey = 12;
  const cv::Rect below =
      cv::Rect(static_cast<int>(plate.x - kAside * begin_.rim_px), static_cast<int>(plate.y + kFrom * begin_.rim_px),
               static_cast<int>(2 * kAside * begin_.rim_px), static_cast<int>((kTo - kFrom) * begin_.rim_px)) &
      cv::Rect(0, 0, grey.cols, grey.rows);
  if (below.width < 8 || below.height < 8) return std::nullopt;
  cv::Mat fresh;
  cv::absdiff(grey(below), straight_(below), fresh);
  fresh = fresh > std::max(kLeast_grey, kNewAt_noises * noise_);
  for (const PixelPoint disc : {plate, begin_.plate})
    cv::circle(fresh,
               {static_cast<int>(std::lround(disc.x - below.x)), static_cast<int>(std::lround(disc.y - below.y))},
               static_cast<int>(std::ceil(kRimBlur * begin_.rim_px)), cv::Scalar(0), cv::FILLED);
  cv::Mat labels, stats, middles;
  const int n = cv::connectedComponentsWithStats(fresh, labels, stats, middles, 8, CV_32S);
  const double least = std::pow(kLeastArea_m * begin_.metre_px, 2);
  // It comes out from behind the plate.
  cv::Mat rim = cv::Mat::zeros(fresh.size(), CV_8U);
  cv::circle(rim, {static_cast<int>(std::lround(plate.x - below.x)), static_cast<int>(std::lround(plate.y - below.y))},
             static_cast<int>(std::lround((kRimBlur + 0.06) * begin_.rim_px)), cv::Scalar(255), 3);
  const bool both = std::abs(begin_.far_elbow_px) > kSideBySide_m * begin_.metre_px;
  const double near_way = begin_.far_elbow_px > 0 ? -1 : 1;
  // The larger; where both elbows stand out apart, the near one.
  const auto better = [&](int k, int than) {
    return both ? near_way * middles.at<double>(k, 0) > near_way * middles.at<double>(than, 0)
                : stats.at<int>(k, cv::CC_STAT_AREA) > stats.at<int>(than, cv::CC_STAT_AREA);
  };
  int best = 0;
  for (int k = 1; k < n; ++k)
    if (stats.at<int>(k, cv::CC_STAT_AREA) > least && (best == 0 || better(k, best)) &&
        cv::countNonZero((labels == k) & rim) > 0)
      best = k;
  if (best == 0) return std::nullopt;
  const cv::Mat arm = labels == best;
  const int bottom = stats.at<int>(best, cv::CC_STAT_TOP) + stats.at<int>(best, cv::CC_STAT_HEIGHT);
  if (below.y + bottom >= grey.rows - 1 || bottom >= below.height) return std::nullopt;  // goes on
  return tipOf(arm) + PixelPoint{static_cast<double>(below.x), static_cast<double>(below.y)};
}

// The lowest part of what stands out, of the near arm where both do.
PixelPoint LyingWatch::tipOf(const cv::Mat& arm) const {
  const auto px = [&](double metres) { return std::max(2, static_cast<int>(std::lround(metres * begin_.metre_px))); };
  const auto lowest = [&](const cv::Mat& of) {
    cv::Mat rows;
    cv::reduce(of, rows, 1, cv::REDUCE_MAX);
    int bottom = rows.rows;
    while (bottom > 1 && rows.at<uchar>(bottom - 1, 0) == 0) --bottom;
    return bottom;
  };
  const auto bandOf = [&](const cv::Mat& of, int bottom) {
    return of.rowRange(std::max(0, bottom - px(kTip_m)), bottom);
  };
  int from = 0, to = arm.cols;
  const cv::Rect whole = cv::boundingRect(arm);
  if (std::abs(begin_.far_elbow_px) > px(kSideBySide_m) && whole.width > px(kElbowWidth_m)) {
    // The far elbow stands out beside it, on the side where the camera sees it.
    if (begin_.far_elbow_px > 0)
      to = whole.x + px(kElbowWidth_m);
    else
      from = whole.x + whole.width - px(kElbowWidth_m);
  }
  const cv::Mat near = arm.colRange(std::clamp(from, 0, arm.cols - 1), std::clamp(to, 1, arm.cols));
  const int bottom = lowest(near);
  const cv::Moments tip = cv::moments(bandOf(near, bottom), true);
  return {std::max(from, 0) + (tip.m00 > 0 ? tip.m10 / tip.m00 : near.cols / 2.0) + 0.5,
          bottom - kElbow_m * begin_.metre_px};
}

}  // namespace jib::tracing
