// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string_view>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/model/body_model.h"
#include "core/tracing/model/trace.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

struct PlatesTogether;

// Where a lifter is seen from: both sides of the body at once. Of one who lies on a bench the front is the feet's end.
enum class Facing { Front, Rear, Head };
std::string_view nameOf(Facing facing);  // "front", as in files
std::optional<Facing> facingNamed(std::string_view name);
// Whether the athlete's left side is on the picture's right.
constexpr bool leftOnRight(Facing facing) {
  return facing == Facing::Front;
}

// One frame of a view of both sides; sides are the athlete's own.
struct FrontPoints {
  std::array<std::array<std::optional<TracedPoint>, kLandmarks>, 2> side;  // by BodySide; Landmark::Bar is that end
  const std::optional<TracedPoint>& at(BodySide s, Landmark l) const {
    return side[static_cast<std::size_t>(s)][tracing::at(l)];
  }
  std::optional<TracedPoint>& at(BodySide s, Landmark l) { return side[static_cast<std::size_t>(s)][tracing::at(l)]; }
};

// What such a view tells: both ends of the bar and both sides of the body, frame by frame.
struct FrontTrace {
  Facing facing = Facing::Front;
  bool lies = false;                // on a bench, seen along it
  std::vector<FrontPoints> frames;  // one a frame of the clip; displayed pixels
  double metre_px = 0;              // how large a metre looks at the bar
  double scale_sigma_rel = 0.06;
  bool scale_from_plate = false;  // else from the proportions of the body
  double focal_px = 1000;
};

// Puts the joints the network sees into the trace, look by look and straight on between two that are near in time. From
// the head's end only the arms: chest and plates hide the rest.
void addJoints(FrontTrace& front, const std::vector<Sighting>& sightings, const std::vector<double>& times_s);

// Traces a clip in which both sides are seen, camera still. The joints are the network's, whose errors are the same on
// both sides for the most part. The ends of the bar are where, on the line through both hands, something moves with the
// hands against the room; they are then followed by their own picture. How large things are is told by the plates seen
// edge on, else by the body's proportions.
// sightings   of the whole clip, rising frames; places in displayed pixels
// together    of a bar that is pressed: plates seen to go up and down together, where there are any
// Errors      NoLiftFound where hands and shoulders are not seen or nothing moves, and of somebody who lies where no
//             plates are; ClipUnreadable; Cancelled
// Source      normalised cross-correlation with a parabola through the peak: Lewis 1995
Result<FrontTrace> traceFront(footage::FrameReader& reader, const std::vector<Sighting>& sightings, Facing facing,
                              double rim_m, const BodyModel& body, Task& task,
                              const std::vector<PlatesTogether>& together);

// The middle of the bar, as if it were the plate of a side view: height over time is asked of it, and how large things
// look. Where an end is lost, the hands stand for it.
BarTrace barAcross(const FrontTrace& front, const std::vector<double>& times_s, double rim_m);

}  // namespace jib::tracing
