// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/geometry.h"
#include "core/base/result.h"
#include "core/tracing/model/landmark.h"
#include "core/tracing/room/camera_move.h"

namespace jib::tracing {

enum class Origin { Optical, Fitted, Pinned };  // seen in the picture, worked out from its neighbours, set by the coach

struct TracedPoint {
  PixelPoint place;
  double sigma_px = 1;  // 1 σ along each axis
  Origin origin = Origin::Optical;
};

using FramePoints = std::array<std::optional<TracedPoint>, kLandmarks>;

// The near plate's rim as the picture shows it, the same in every frame of a clip.
struct Rim {
  double radius_px = 0;     // larger half axis
  double aspect = 1;        // smaller over larger half axis
  double tilt_rad = 0;      // of the larger half axis from the picture's x axis
  double sigma_rel = 0.02;  // of radius_px
};

// Where the points are in every frame, in displayed pixels. Nothing is in metres yet.
// Holds: times rise strictly; one entry of `frames` a time; every sigma finite and > 0; a point not seen is nullopt.
struct Trace {
  int width = 0;
  int height = 0;
  std::vector<double> times_s;
  std::vector<FramePoints> frames;
  std::optional<Rim> rim;
  // What each frame's picture does against the first: a camera held by hand, a pan, a zoom. Empty when it stands still.
  // Taken off where pixels become metres.
  std::vector<CameraMove> camera_moves;

  CameraMove moveAt(std::size_t frame) const { return camera_moves.empty() ? CameraMove{} : camera_moves[frame]; }
  std::size_t size() const { return times_s.size(); }
  std::optional<PixelPoint> place(std::size_t frame, Landmark landmark) const {
    const auto& point = frames[frame][at(landmark)];
    return point ? std::optional(point->place) : std::nullopt;
  }
};

// BadData with the first broken promise.
Result<bool> check(const Trace& trace);

// The frame shown at a moment.
std::size_t nearestFrame(const Trace& trace, double t_s);

// What the coach set by hand on one frame: of a film from the side, and of one that shows both sides.
struct PlacedFrame {
  double t_s = 0;
  std::array<std::optional<PixelPoint>, kLandmarks> points;
  std::array<std::array<std::optional<PixelPoint>, kLandmarks>, 2> sides = {};  // by BodySide

  std::optional<PixelPoint>& at(const PointName& p) {
    return p.side ? sides[static_cast<std::size_t>(*p.side)][tracing::at(p.landmark)] : points[tracing::at(p.landmark)];
  }
  const std::optional<PixelPoint>& at(const PointName& p) const { return const_cast<PlacedFrame*>(this)->at(p); }
};
// Every point there is: those of a side view first, then both sides.
std::vector<PointName> allPointNames();
bool anyFromTheSide(const std::vector<PlacedFrame>& placed);
// Without what was placed in another shot of the same film than the one these times are of.
std::vector<PlacedFrame> placedWithin(std::vector<PlacedFrame> placed, const std::vector<double>& times_s);

}  // namespace jib::tracing
