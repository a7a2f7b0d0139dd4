// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/rim_track.h"

#include <algorithm>

#include "core/tracing/sampling.h"

namespace jib::tracing {
namespace {

constexpr double kGoodInliers = 0.55;
constexpr std::size_t kShapeLearned = 40;  // frames after which the outline is no longer adapted

// Where the outline fits best within `reach` of `about`: a coarse look around for when the prediction failed.
PixelPoint lookAround(const cv::Mat& gray, PixelPoint about, const RimShape& shape, double reach) {
  PixelPoint best = about;
  double most = -1;
  const double step = std::max(1.5, 0.05 * shape.radius_px);
  for (double dy = -reach; dy <= reach; dy += step)
    for (double dx = -0.5 * reach; dx <= 0.5 * reach; dx += step) {
      const PixelPoint p{about.x + dx, about.y + dy};
      const double score = rimScore(gray, p, shape) - 0.02 * std::hypot(dx, dy);
      if (score > most) {
        most = score;
        best = p;
      }
    }
  return best;
}

cv::Mat hubOf(const cv::Mat& gray, const RimFit& fit) {
  cv::Mat hub(RimTrack::kHubSide, RimTrack::kHubSide, CV_8U);
  const double step = fit.shape.radius_px / RimTrack::kHubRadius;
  for (int y = 0; y < hub.rows; ++y)
    for (int x = 0; x < hub.cols; ++x)
      hub.at<unsigned char>(y, x) = static_cast<unsigned char>(sample<unsigned char>(
          gray, fit.centre + PixelPoint{(x + 0.5 - hub.cols / 2.0) * step, (y + 0.5 - hub.rows / 2.0) * step}));
  return hub;
}

}  // namespace

RimTrack::RimTrack(std::size_t frame, const cv::Mat& gray, const RimFit& fit) : shape_(fit.shape) {
  add(frame, gray, fit);
}

void RimTrack::add(std::size_t frame, const cv::Mat& gray, const RimFit& fit) {
  const double travel = seen_.empty() ? 0 : length(fit.centre - seen_.back().fit.centre);
  seen_.push_back({frame, fit, travel, hubOf(gray, fit)});
}

PixelPoint RimTrack::expected() const {
  return last().centre + velocity_ * (1 + missing_);
}

bool RimTrack::follow(std::size_t frame, const cv::Mat& gray) {
  const RimSearch search{.shape_free = seen_.size() < kShapeLearned};
  auto fit = fitRim(gray, expected(), shape_, search);
  // Looking around is dear; only a rim that was once seen well is worth it.
  if ((!fit || fit->inliers < kGoodInliers) && recently_seen_ > kGoodInliers) {
    const double reach = shape_.radius_px * std::min(1.2, 0.35 + 0.1 * missing_);
    const auto again = fitRim(gray, lookAround(gray, expected(), shape_, reach), shape_, search);
    if (again && (!fit || again->inliers > fit->inliers + 0.08)) fit = again;
  }
  const double jump = fit ? length(fit->centre - expected()) : 0;
  if (!fit || jump > shape_.radius_px * (0.5 + 0.1 * missing_) ||
      std::abs(fit->shape.radius_px - shape_.radius_px) > 0.08 * shape_.radius_px) {
    ++missing_;
    recently_seen_ *= 0.96;
    velocity_ = velocity_ * 0.7;
    return false;
  }
  const PixelPoint step = (fit->centre - last().centre) * (1.0 / (1 + missing_));
  velocity_ = missing_ > 0 ? step * 0.5 : step;
  missing_ = 0;
  recently_seen_ += (fit->inliers - recently_seen_) / 15;
  if (search.shape_free && fit->inliers > 0.6) {
    // A running mean: one frame's rim, half hidden by an arm, must not bend the outline.
    const double share = 1.0 / (1.0 + static_cast<double>(seen_.size()));
    shape_.radius_px += share * (fit->shape.radius_px - shape_.radius_px);
    shape_.oval_cos_px += share * (fit->shape.oval_cos_px - shape_.oval_cos_px);
    shape_.oval_sin_px += share * (fit->shape.oval_sin_px - shape_.oval_sin_px);
  }
  add(frame, gray, *fit);
  return true;
}

}  // namespace jib::tracing
