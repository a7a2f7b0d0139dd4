// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/second_rim.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace jib::tracing {
namespace {

constexpr int kSide = RimTrack::kHubSide;
constexpr std::size_t kFewest = 9, kMost = 41;

// Pictures of the plate, as far apart in height as there are.
std::vector<const RimTrack::Seen*> atManyHeights(const std::vector<RimTrack::Seen>& seen) {
  constexpr double kTravelled = 0.7;  // of the radius
  std::vector<const RimTrack::Seen*> all;
  for (const auto& s : seen)
    if (!s.hub.empty()) all.push_back(&s);
  if (all.size() < kFewest) return {};
  std::sort(all.begin(), all.end(), [](const auto* a, const auto* b) { return a->fit.centre.y < b->fit.centre.y; });
  const double low = all.front()->fit.centre.y, high = all.back()->fit.centre.y;
  if (high - low < kTravelled * all.front()->fit.shape.radius_px) return {};
  std::vector<const RimTrack::Seen*> spread;
  for (std::size_t k = 0; k < kMost; ++k) {
    const double wanted = low + (high - low) * static_cast<double>(k) / (kMost - 1);
    const auto at = std::min_element(all.begin(), all.end(), [&](const auto* a, const auto* b) {
      return std::abs(a->fit.centre.y - wanted) < std::abs(b->fit.centre.y - wanted);
    });
    if (std::find(spread.begin(), spread.end(), *at) == spread.end()) spread.push_back(*at);
  }
  return spread;
}

cv::Mat middlePicture(const std::vector<const RimTrack::Seen*>& pictures) {
  cv::Mat out(kSide, kSide, CV_8U);
  std::vector<unsigned char> values(pictures.size());
  for (int y = 0; y < kSide; ++y)
    for (int x = 0; x < kSide; ++x) {
      for (std::size_t k = 0; k < pictures.size(); ++k) values[k] = pictures[k]->hub.at<unsigned char>(y, x);
      const auto middle = values.begin() + static_cast<long>(values.size() / 2);
      std::nth_element(values.begin(), middle, values.end());
      out.at<unsigned char>(y, x) = *middle;
    }
  return out;
}

}  // namespace

std::optional<double> secondRim(const std::vector<RimTrack::Seen>& seen) {
  constexpr double kOutside[]{1.28, 1.21, 1.14, 1.08};  // looked for from without
  constexpr double kAnother = 1.05, kAround = 0.5;
  const auto pictures = atManyHeights(seen);
  if (pictures.size() < kFewest) return std::nullopt;
  cv::Mat plate = middlePicture(pictures);
  cv::GaussianBlur(plate, plate, {5, 5}, 0);  // what is left of an uneven wall has no edges then
  const RimShape& followed = pictures.front()->fit.shape;
  const double share = RimTrack::kHubRadius / followed.radius_px;
  for (const double out : kOutside) {
    const RimShape shape{out * RimTrack::kHubRadius, out * share * followed.oval_cos_px,
                         out * share * followed.oval_sin_px};
    const auto fit = fitRim(plate, {kSide / 2.0, kSide / 2.0}, shape, {.window_rel = 0.06, .shape_free = true});
    if (!fit || fit->inliers < kAround) continue;
    const double growth = fit->shape.radius_px / RimTrack::kHubRadius;
    if (growth > kAnother) return growth;
  }
  return std::nullopt;
}

}  // namespace jib::tracing
