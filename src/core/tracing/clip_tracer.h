// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/body/flesh.h"
#include "core/tracing/camera/camera_turn.h"
#include "core/tracing/camera/far_plate.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/front/front_tracer.h"
#include "core/tracing/model/body_model.h"
#include "core/tracing/model/coach_told.h"
#include "core/tracing/model/trace.h"
#include "core/tracing/room/vertical_vanishing_point.h"
#include "core/tracing/sightings/pose_sightings.h"

namespace jib::tracing {

// The side of the athlete that faces the camera, or from where both are seen. Oblique: somewhere between, so that no
// left-right claim and no angle holds. Head: from the head's end of a bench; Rear is the same there.
enum class View { Auto, Left, Right, Front, Rear, Head, Oblique };
std::string_view nameOf(View view);  // "left", as in files and at the command line
std::optional<View> viewNamed(std::string_view name);
// The same by name, seen in a mirror: left and right change places, everything else stays.
std::string mirroredView(std::string_view name);

// What the body is traced with; switched off one by one to measure what each is worth (bench/accuracy.cpp).
struct TraceParts {
  bool network = true;        // sightings of the pose network
  bool flow = true;           // patches followed from a placed frame, or from the fitted standing posture
  bool bar_tie = true;        // the trunk held to the traced bar, where sightings are fitted
  bool outlines = true;       // where the body's outline ends behind the hip, before the knee and at the shoe
  bool camera_turn = true;    // yaw, pitch and roll of the camera; off: square and level
  bool camera_motion = true;  // what a hand that holds the camera does
};

struct TraceRequest {
  View view = View::Auto;
  BodyModel body;  // of the lift
  CameraPriors camera;
  std::vector<PlacedFrame> placed;
  std::optional<PointedAt> lifter;  // where the coach had to point them out
  LeftOuts left_out;                // parts in which nothing is measured
  TraceParts parts;
  // Of this athlete, as far as known from other clips.
  Flesh flesh;
  std::optional<KnownBuild> build;
  // A moment at which the bar is down in the set whose body is looked for; nullopt: the clip's last set.
  std::optional<double> around_s;
};

// What earlier tracing of the same clip found out, so that it need not be done again.
struct KnownTrace {
  std::shared_ptr<const BarTrace> bar = {};
  std::shared_ptr<const std::vector<Sighting>> sightings = {};
  std::optional<FarPlate> far_plate = {};
  std::optional<double> facing = {};
  std::shared_ptr<const FrontTrace> front = {};
  Glance glance = {};
};

struct OtherFaces;

// Everything tracing learnt about a clip. `bar`, `sightings` and `body` are what took long; the trace is made from them
// and the pins.
struct ClipTrace {
  std::shared_ptr<const BarTrace> bar;
  std::shared_ptr<const std::vector<Sighting>> sightings;  // null when the network was not asked or could not run
  std::string sightings_trouble;                           // why it could not, for people
  std::shared_ptr<const BodyTrack> body;  // from a placed frame, else from the sightings; null when neither serves
  // Of a view of both sides: as traced, and bent through the pins. Then `bar` is its middle, and there is no body.
  std::shared_ptr<const FrontTrace> front_seen, front;
  std::optional<double> forward;  // +1: the athlete faces the right edge of the picture; nullopt: not known
  std::optional<double> facing;   // the same by a glance, of a body that is not traced
  Glance glance;                  // null where nobody had to look
  std::optional<double> roll_rad;
  std::optional<double> focal_35mm;   // the lens, where the file tells
  std::optional<FarPlate> far_plate;  // the lens, where both plates are seen
  std::optional<Convergence> uprights;
  std::optional<LensBend> bend;  // of the lens, where it shows
  SideCamera camera;
  CameraTurn turn;  // of a view from the side, and how it is known
  Flesh flesh;
  Trace trace;
  std::shared_ptr<const OtherFaces> other_faces;  // null: nobody has looked, as that is done only where they are hidden

  BodyModel model;       // of the lift it was traced as
  bool oblique = false;  // whoever asked says so

  // On a frame, of whichever view it is; nullopt where it is not traced.
  std::optional<PixelPoint> place(std::size_t frame, const PointName& point) const;
  KnownTrace known() const { return {bar, sightings, far_plate, facing, front_seen, glance}; }
};

// Where no round plate is found and the body is seen from the front or the rear, both sides and both ends of the bar
// are traced instead. Traces a clip: bar first, then the body: from what the pose network sees, and from the placed
// frame if there is one. Without the network's files a body needs a placed frame. Errors  as BarTracer and trackBody;
// Cancelled
Result<ClipTrace> traceClip(footage::FrameReader& reader, const TraceRequest& request, Task& task,
                            KnownTrace known = {});

// Makes the trace again after pins were moved, without looking at the clip: milliseconds.
void solveAgain(ClipTrace& clip, const TraceRequest& request, int width, int height);

// A frame on which the bar is still before the first rep of the last set, or of the one in which the bar is away from
// its resting height at `in_set`: where points are best placed. `starts_low`: it rests at its lowest, on the floor.
std::size_t quietFrame(const BarTrace& bar, std::optional<std::size_t> in_set = std::nullopt, bool starts_low = false);

}  // namespace jib::tracing
