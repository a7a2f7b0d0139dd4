// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <opencv2/core/mat.hpp>
#include <vector>

#include "core/base/geometry.h"
#include "core/tracing/body/body_pose.h"

namespace jib::tracing {

// What lies behind a plate shows no body.
struct HidingDisc {
  PixelPoint centre;
  double radius_px = 0;
};

// A frame made ready for alignment: slow changes of light taken out, contrast evened, with its slopes.
// level 0 is fine (about 1 px), level 1 coarse (two or three).
struct BodyPicture {
  struct Level {
    cv::Mat value, slope_x, slope_y;  // CV_32F
  };
  std::array<Level, 2> levels;
  PixelPoint corner;  // of the cut-out in the frame
  std::vector<HidingDisc> hiding;

  bool hidden(PixelPoint p) const;
};

// `region` is the part of the frame worth preparing; shin_px the length of a shin in it, the measure of all widths.
BodyPicture prepared(const cv::Mat& gray, cv::Rect region, std::vector<HidingDisc> hiding, double shin_px);

// A place on a part: `along` as share of its length, `across` in px.
struct Patch {
  Part part;
  double along;
  double across;
  std::array<float, 2> value;  // at both levels, in the frame it was taken from
};

// Patches of all parts of a posture: the limb and a margin, so that its outline takes part.
std::vector<Patch> patchesOf(const BodyPicture& picture, const BodyPoints& points);

// Where a patch lies in a posture.
PixelPoint placeOf(const Patch& patch, const BodyPoints& points);

}  // namespace jib::tracing
