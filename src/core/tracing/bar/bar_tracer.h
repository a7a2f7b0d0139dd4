// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/model/coach_told.h"
#include "core/tracing/model/trace.h"
#include "core/tracing/room/vertical_vanishing_point.h"

namespace jib::tracing {

struct BarOptions {
  // Where the coach put the bar: tracing starts anew from each of these frames, both ways, up to the next one.
  std::vector<PlacedFrame> placed = {};  // only Landmark::Bar is read
  // What the room's uprights tell of the camera's pitch: where the bar's end can lie.
  std::optional<Convergence> uprights = {};
  // Only what this person lifts is their bar.
  std::optional<PointedAt> lifter = {};
};

struct BarTrace {
  std::vector<double> times_s;
  std::vector<std::optional<TracedPoint>> plate;  // rim's centre
  std::vector<std::optional<TracedPoint>> end;    // near end of the bar
  Rim rim;
  // The end is seen at plate + depth_ratio * (plate - vanishing): it stands nearer to the camera than the rim.
  // Zero when no end could be made out; then `end` is `plate`.
  double depth_ratio = 0;
  std::optional<PixelPoint> vanishing;  // where lines parallel to the bar meet; tells the camera's yaw and pitch
  double vanishing_sigma_px = 0;
};

// Finds the lifter's near plate and follows it through one clip: frames in, one bar centre a frame out. Of several
// round things the one that travels up and down like a lift is taken.
// Frame   displayed pixels
// Time    presentation time of the file in s; a slow-motion factor is not applied here
// Sigma   1 σ of the centre in px: covariance of the rim fit, widened by the blur length
// Errors  NoLiftFound if nothing round travels like a bar, or nothing does beside the lifter who was pointed at;
//         ClipUnreadable; Cancelled. Never half a trace
// Thread  re-entrant; `reader` is used by this call only. One pass over the clip, more when something was placed
class BarTracer {
 public:
  explicit BarTracer(BarOptions options = {}) : options_(std::move(options)) {}
  Result<BarTrace> run(footage::FrameReader& reader, Task& task) const;

 private:
  BarOptions options_;
};

}  // namespace jib::tracing
