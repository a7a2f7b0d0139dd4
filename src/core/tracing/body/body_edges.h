// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/model/landmark.h"
#include "core/tracing/sightings/pose_sightings.h"

namespace jib::tracing {

// Where the outline of a lifter tells of a joint inside: buttocks end a hand's breadth behind the hip and below it,
// knees a thumb's length before the joint. How far is a constant of each body and its clothes, nearly the same from
// frame to frame, where the network's own hip at the bottom is at times off by more than the whole of it.
enum class Edge : std::size_t { Buttock, Seat, KneeFront };
inline constexpr std::size_t kEdges = 3;

// From the joint to the edge, along `way` (forward, up; of length 1).
struct EdgeKind {
  Edge edge;
  Landmark joint;
  MetrePoint way;
  double usual_m, spread_m;        // over bodies
  double folded_m, fold_spread_m;  // what is added once the lifter is down
  double from_folded;              // looked at from this share of the way down on
};
// Over two kinds of rendered bodies; of standing people the hip joint lies 11 to 15 cm before the back of the buttock
// and the knee 5 to 6 behind the front of the kneecap.
inline constexpr std::array<EdgeKind, kEdges> kEdgeKinds{
    {{Edge::Buttock, Landmark::Hip, {-1, 0}, 0.130, 0.022, -0.009, 0.008, 0.0},
     {Edge::Seat, Landmark::Hip, {-0.7071, -0.7071}, 0.122, 0.018, 0, 0.004, 0.6},
     {Edge::KneeFront, Landmark::Knee, {1, 0}, 0.058, 0.008, 0, 0.003, 0.3}}};
inline constexpr double kEdgeScatter_m = 0.010;  // of one look; neighbours err alike

// The share of the way down at which a bar this far below where it stood is.
double foldedAt(double bar_below_m);

struct EdgeSeen {
  Edge edge;
  MetrePoint place;  // in the joint's own plane
  double lateral_m;  // of that plane
  double beyond_m;   // by which the far side's joint stands out before the near one along the way, at least 0
};

// The edges on one look's outline, from where hip and knee are thought to be (within a hand's breadth). What a plate
// hides, and a knee before which the other one stands, is left out.
// still: bar and outline as a camera that does not move sees them
std::vector<EdgeSeen> edgesOn(const Outline& outline, const TracedPoint& plate, const Rim& rim, double folded,
                              MetrePoint hip, MetrePoint knee, double knee_lateral_m, const SideCamera& camera);

// The near shoe from all looks of a stretch during which it stands: heel and tip in their own planes, in metres.
struct ShoeSeen {
  MetrePoint heel, toe;
};
std::optional<ShoeSeen> shoeSeen(const std::vector<Sighting>& sightings, std::size_t first, std::size_t last,
                                 const SideCamera& camera);

}  // namespace jib::tracing
