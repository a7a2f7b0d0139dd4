// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/tracing/sampling.h"

namespace jib::tracing {
namespace {

// Half widths of the parts as share of the shin's length, lower and upper end: textbook girths plus a quarter, so that
// the outline lies inside.
struct Extent {
  double from, to;        // along the part
  double lower, upper;    // half width in shins
};
constexpr std::array<Extent, kParts> kExtents{{{-0.25, 1.05, 0.12, 0.10},   // foot: heel to toe
                                               {0.00, 1.05, 0.13, 0.20},    // shin
                                               {0.00, 1.05, 0.20, 0.30},    // thigh
                                               {-0.10, 0.75, 0.32, 0.32}}}; // trunk below the plate

struct Bone {
  PixelPoint from, to;
};

Bone boneOf(Part part, const Skeleton& s, const BodyPose& q) {
  const BodyPoints p = pointsOf(s, q);
  switch (part) {
    case kFoot:
      return {p.heel, p.toe};
    case kShin:
      return {p.ankle, p.knee};
    case kThigh:
      return {p.knee, p.hip};
    default:
      return {p.hip, p.shoulder};
  }
}

}  // namespace

bool BodyPicture::hidden(PixelPoint p) const {
  return plate && length(p - *plate) < plate_px;
}

BodyPicture prepared(const cv::Mat& gray, cv::Rect region, std::optional<PixelPoint> plate, double plate_px) {
  region &= cv::Rect(0, 0, gray.cols, gray.rows);
  BodyPicture picture;
  picture.corner = {static_cast<double>(region.x), static_cast<double>(region.y)};
  picture.plate = plate;
  picture.plate_px = plate_px;
  cv::Mat raw, broad, squares;
  gray(region).convertTo(raw, CV_32F);
  cv::boxFilter(raw, broad, CV_32F, {25, 25});
  cv::Mat detail = raw - broad;
  cv::boxFilter(detail.mul(detail), squares, CV_32F, {41, 41});
  cv::Mat contrast;
  cv::sqrt(squares, contrast);
  contrast += 6.0f;  // flat cloth must not have its noise blown up
  for (std::size_t level = 0; level < 2; ++level) {
    BodyPicture::Level& l = picture.levels[level];
    cv::GaussianBlur(detail, l.value, {}, level == 0 ? 1.0 : 2.8);
    l.value /= contrast;
    cv::Sobel(l.value, l.slope_x, CV_32F, 1, 0, 3, 1.0 / 8);
    cv::Sobel(l.value, l.slope_y, CV_32F, 0, 1, 3, 1.0 / 8);
  }
  return picture;
}

PixelPoint placeOf(const Patch& patch, const Skeleton& skeleton, const BodyPose& pose) {
  const Bone bone = boneOf(patch.part, skeleton, pose);
  const PixelPoint axis = bone.to - bone.from;
  const double l = std::max(length(axis), 1e-6);
  return bone.from + axis * patch.along + PixelPoint{-axis.y / l, axis.x / l} * patch.across;
}

std::vector<Patch> patchesOf(const BodyPicture& picture, const Skeleton& skeleton, const BodyPose& pose) {
  std::vector<Patch> patches;
  for (std::size_t part = 0; part < kParts; ++part) {
    const Extent& e = kExtents[part];
    const Bone bone = boneOf(static_cast<Part>(part), skeleton, pose);
    const double l = length(bone.to - bone.from);
    if (l < 4) continue;
    // About 450 places a part, wherever its size in the picture.
    const double wide = (e.lower + e.upper) * skeleton.shin_px;
    const double step = std::max(1.0, std::sqrt((e.to - e.from) * l * wide / 450));
    for (double a = e.from; a <= e.to; a += step / l) {
      const double half = (e.lower + (e.upper - e.lower) * std::clamp(a, 0.0, 1.0)) * skeleton.shin_px;
      for (double c = -half; c <= half; c += step) {
        Patch patch{static_cast<Part>(part), a, c, {}};
        const PixelPoint p = placeOf(patch, skeleton, pose);
        if (picture.hidden(p)) continue;
        const PixelPoint inside = p - picture.corner;
        const cv::Mat& fine = picture.levels[0].value;
        if (inside.x < 2 || inside.y < 2 || inside.x > fine.cols - 2 || inside.y > fine.rows - 2) continue;
        for (std::size_t level = 0; level < 2; ++level)
          patch.value[level] = sample<float>(picture.levels[level].value, inside);
        patches.push_back(patch);
      }
    }
  }
  return patches;
}

}  // namespace jib::tracing
