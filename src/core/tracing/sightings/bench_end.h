// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/tracing/model/coach_told.h"
#include "core/tracing/pose/person_finder.h"
#include "core/tracing/pose/pose_reader.h"

namespace jib::tracing {

// Somebody who lies on a bench, seen along it: from the feet's end upright, from the head's end upside down, where the
// network reads a picture that is turned by half.
struct BenchEndLook {
  PoseReading reading;
  PoseRegion region;  // where to look for arms and shoulders
};

// Where a bar is highest that is pressed, and how large a metre looks there: whoever lies under it has the shoulders an
// arm's length below it. A spotter behind the bench stands in the same place, and has not.
struct BarOverhead {
  PixelPoint middle;
  double metre_px = 0;
};

// The picture with nothing but grey well above the bar: whoever stands there, head and chest in full sight, is seen so
// much better than who lies that a network would look at nobody else.
cv::Mat withoutWhoStandsBehind(const cv::Mat& picture, const BarOverhead& bar);

// The one whose arms are seen best in a picture, of those who may be the lifter that was pointed at and lie under the
// bar, where that is known; nullopt where the shoulders of nobody are. The detector goes by faces and finds somebody at
// least; how large and how far turned it is wrong about.
Result<std::optional<BenchEndLook>> lookFromBenchEnd(PersonFinder& finder, PoseReader& reader, const cv::Mat& picture,
                                                     bool from_head, const std::optional<PointedAt>& lifter = {},
                                                     const std::optional<BarOverhead>& bar = {});

// How surely shoulders, elbows and wrists are seen, 0 to 6.
double sureOfArms(const PoseReading& reading);

// Whether somebody lies along the view. Perhaps: it looks so from the head's end, but the hands are not above the
// elbows, so it may be one who bends to a bar on the floor, or a reading that took elbows for hands.
enum class Along { No, Perhaps, Yes };

// Along a bench the trunk is all but gone in the picture. With the head towards the camera the shoulders are the lower
// end of it; with the feet towards it the legs hang down in full sight.
Along liesAlongTheView(const PoseReading& reading, bool from_head);

}  // namespace jib::tracing
