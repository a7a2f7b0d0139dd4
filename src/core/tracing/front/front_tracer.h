// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/model/trace.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Where a lifter is seen from: both sides of the body at once.
enum class Facing { Front, Rear };

// One frame of a front or rear view; sides are the athlete's own.
struct FrontPoints {
  std::array<std::array<std::optional<TracedPoint>, kLandmarks>, 2> side;  // by BodySide; Landmark::Bar is that end
  const std::optional<TracedPoint>& at(BodySide s, Landmark l) const {
    return side[static_cast<std::size_t>(s)][tracing::at(l)];
  }
  std::optional<TracedPoint>& at(BodySide s, Landmark l) { return side[static_cast<std::size_t>(s)][tracing::at(l)]; }
};

// What a front or rear view tells: both ends of the bar and both sides of the body, frame by frame.
struct FrontTrace {
  Facing facing = Facing::Front;
  std::vector<FrontPoints> frames;  // one a frame of the clip; displayed pixels
  double metre_px = 0;              // how large a metre looks at the bar
  double scale_sigma_rel = 0.06;
  bool scale_from_plate = false;  // else from the proportions of the body
  double focal_px = 1000;
};

// Puts the joints the network sees into the trace, look by look and straight on between two that are near in time.
void addJoints(FrontTrace& front, const std::vector<Sighting>& sightings, const std::vector<double>& times_s);

// Traces a clip that is filmed from the front or the rear, camera still. The joints are the network's, whose errors are
// the same on both sides for the most part. The ends of the bar are where, on the line through both hands, something
// moves with the shoulders against the room; they are then followed by their own picture.
// sightings   of the whole clip, rising frames; places in displayed pixels
// Errors      NoLiftFound where hands and shoulders are not seen or nothing moves; ClipUnreadable; Cancelled
// Source      normalised cross-correlation with a parabola through the peak: Lewis 1995
Result<FrontTrace> traceFront(footage::FrameReader& reader, const std::vector<Sighting>& sightings, Facing facing,
                              double rim_m, Task& task);

// The middle of the bar, as if it were the plate of a side view: height over time is asked of it, and how large things
// look. Where an end is lost, the hands stand for it.
BarTrace barAcross(const FrontTrace& front, const std::vector<double>& times_s, double rim_m);

}  // namespace jib::tracing
