// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/rim_track.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "core/tracing/room/sampling.h"

namespace jib::tracing {
namespace {

constexpr double kGoodInliers = 0.55;
constexpr double kTravelled_rel = 1.0, kSamePlace_rel = 0.08;  // of the radius
constexpr std::size_t kMostHubs = 480;                         // kept of a track, spread over it: some 7 MB
constexpr std::size_t kRestFrames = 10;
constexpr double kRest_rel = 0.012;        // of the radius: under 3 mm
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

// The square that lies well within the rim; empty where the picture's edge cuts it.
cv::Rect faceAt(PixelPoint centre, double radius_px, cv::Size picture) {
  constexpr double kWithin = 0.6;  // of the radius, either way: the square's corners stay off the rim
  const int half = static_cast<int>(kWithin * radius_px);
  const cv::Rect face(static_cast<int>(centre.x) - half, static_cast<int>(centre.y) - half, 2 * half + 1, 2 * half + 1);
  return (face & cv::Rect({0, 0}, picture)) == face ? face : cv::Rect();
}

cv::Mat hubOf(const cv::Mat& gray, const RimFit& fit) {
  const double step = fit.shape.radius_px / RimTrack::kHubRadius;
  // Pixel centres lie at halves here and at whole numbers in OpenCV.
  const double from_x = fit.centre.x + (0.5 - RimTrack::kHubSide / 2.0) * step - 0.5;
  const double from_y = fit.centre.y + (0.5 - RimTrack::kHubSide / 2.0) * step - 0.5;
  const cv::Matx23d map(step, 0, from_x, 0, step, from_y);
  cv::Mat hub;
  cv::warpAffine(gray, hub, map, {RimTrack::kHubSide, RimTrack::kHubSide}, cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                 cv::BORDER_REPLICATE);
  return hub;
}

}  // namespace

RimTrack::RimTrack(std::size_t frame, const cv::Mat& gray, const RimFit& fit) : shape_(fit.shape) {
  add(frame, gray, fit);
}

void RimTrack::add(std::size_t frame, const cv::Mat& gray, const RimFit& fit) {
  const double travel = seen_.empty() ? 0 : length(fit.centre - seen_.back().fit.centre);
  const bool keep = seen_.size() % hub_every_ == 0;
  seen_.push_back({frame, fit, travel, keep ? hubOf(gray, fit) : cv::Mat()});
  highest_y_ = std::min(highest_y_, fit.centre.y);
  lowest_y_ = std::max(lowest_y_, fit.centre.y);
  if (seen_.size() >= kMostHubs * hub_every_) thinHubs();
}

// Every second one goes.
void RimTrack::thinHubs() {
  hub_every_ *= 2;
  for (std::size_t i = 0; i < seen_.size(); ++i)
    if (i % hub_every_ != 0) seen_[i].hub.release();
}

PixelPoint RimTrack::expected() const {
  return last().centre + velocity_ * (1 + missing_);
}

bool RimTrack::resting() const {
  if (missing_ > 0 || seen_.size() < kShapeLearned) return false;
  return std::all_of(seen_.end() - kRestFrames, seen_.end(), [&](const Seen& s) {
    return length(s.fit.centre - last().centre) < kRest_rel * shape_.radius_px && s.fit.inliers > kGoodInliers;
  });
}

bool RimTrack::stillRests(std::size_t frame, const cv::Mat& gray) {
  const auto fit = fitRim(gray, last().centre, shape_, {});
  if (!fit || fit->inliers < kGoodInliers || length(fit->centre - last().centre) > kRest_rel * shape_.radius_px)
    return false;
  const Seen before = seen_.back();
  const auto apart = static_cast<double>(frame - before.frame);
  for (std::size_t i = before.frame + 1; i < frame; ++i) {
    Seen between = before;
    between.frame = i;
    between.fit.centre =
        before.fit.centre + (fit->centre - before.fit.centre) * (static_cast<double>(i - before.frame) / apart);
    between.travel_px = 0;
    seen_.push_back(std::move(between));
  }
  velocity_ = {};
  recently_seen_ += (fit->inliers - recently_seen_) / 5;
  add(frame, gray, *fit);
  return true;
}

std::optional<RimFit> RimTrack::byFace(const cv::Mat& gray) const {
  constexpr double kAlike = 0.80, kUnsure_rel = 0.015, kFaceInliers = 0.34, kPlain = 5;  // grey levels
  if (face_.empty()) return std::nullopt;
  cv::Scalar mean, spread;
  cv::meanStdDev(face_, mean, spread);
  if (spread[0] < kPlain) return std::nullopt;
  const int half = face_.cols / 2, reach = static_cast<int>(shape_.radius_px * std::min(1.2, 0.35 + 0.1 * missing_));
  const PixelPoint about = expected();
  const cv::Rect window = cv::Rect(static_cast<int>(about.x) - half - reach, static_cast<int>(about.y) - half - reach,
                                   2 * (half + reach) + 1, 2 * (half + reach) + 1) &
                          cv::Rect(0, 0, gray.cols, gray.rows);
  if (window.width <= face_.cols || window.height <= face_.rows) return std::nullopt;
  cv::Mat_<float> alike;
  cv::matchTemplate(gray(window), face_, alike, cv::TM_CCOEFF_NORMED);
  double most = 0;
  cv::Point at;
  cv::minMaxLoc(alike, nullptr, &most, nullptr, &at);
  if (most < kAlike || at.x == 0 || at.y == 0 || at.x + 1 == alike.cols || at.y + 1 == alike.rows) return std::nullopt;
  // The top of the parabola through the best place and its neighbours.
  const auto top = [](float before, float best, float after) {
    const double bend = before - 2 * best + after;
    return bend < 0 ? 0.5 * (before - after) / bend : 0.0;
  };
  const double x = at.x + top(alike(at.y, at.x - 1), alike(at.y, at.x), alike(at.y, at.x + 1));
  const double y = at.y + top(alike(at.y - 1, at.x), alike(at.y, at.x), alike(at.y + 1, at.x));
  RimFit fit;
  fit.centre = {window.x + x + half + face_from_.x, window.y + y + half + face_from_.y};
  fit.shape = shape_;
  fit.sigma_px = std::max(1.0, kUnsure_rel * shape_.radius_px);
  fit.inliers = kFaceInliers;
  return fit;
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
  const bool rim = fit.has_value();
  double made_out = rim ? fit->inliers : 0;
  // Where a plate as dark as its background has travelled like a bar before, its face tells that it is still the plate.
  if (made_out < kGoodInliers && lowest_y_ - highest_y_ > kTravelled_rel * shape_.radius_px) {
    const auto face = byFace(gray);
    if (!rim) fit = face;
    if (face && length(face->centre - fit->centre) < kSamePlace_rel * shape_.radius_px) made_out = kGoodInliers;
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
  recently_seen_ += (made_out - recently_seen_) / 15;
  if (search.shape_free && fit->inliers > 0.6) {
    // A running mean: one frame's rim, half hidden by an arm, must not bend the outline.
    const double share = 1.0 / (1.0 + static_cast<double>(seen_.size()));
    shape_.radius_px += share * (fit->shape.radius_px - shape_.radius_px);
    shape_.oval_cos_px += share * (fit->shape.oval_cos_px - shape_.oval_cos_px);
    shape_.oval_sin_px += share * (fit->shape.oval_sin_px - shape_.oval_sin_px);
  }
  add(frame, gray, *fit);
  if (rim && fit->inliers > kGoodInliers) {
    const cv::Rect face = faceAt(fit->centre, shape_.radius_px, gray.size());
    face_ = face.empty() ? cv::Mat() : gray(face).clone();
    face_from_ = fit->centre - PixelPoint{static_cast<double>(face.x + face.width / 2),
                                          static_cast<double>(face.y + face.height / 2)};
  }
  return true;
}

}  // namespace jib::tracing
