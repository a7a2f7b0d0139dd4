// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>

#include "core/tracing/body/body_edges.h"
#include "core/tracing/model/landmark.h"

namespace jib::tracing {

// What an earlier clip, on which a coach placed the points, told of an athlete's body: how long the limbs are, and how
// far the pose network's landmarks lie from the joints on this body. A clip without placed points begins with it.
struct KnownBuild {
  struct Off {
    double across_m = 0, along_m = 0;  // in the directions of the limb it sits on (body_fit.h)
    friend bool operator==(const Off&, const Off&) = default;
  };
  double shin_m = 0, thigh_m = 0, trunk_m = 0;
  std::array<Off, kPlacedLandmarks.size()> sight_off{};
  std::array<Off, kPlacedLandmarks.size()> sight_stays{};    // the part that does not turn with the limb
  std::array<std::optional<double>, kEdges> edge_reach_m{};  // from the joint to where the outline ends, standing
  friend bool operator==(const KnownBuild&, const KnownBuild&) = default;
};

// 1 σ of what is known so on the next clip: lengths by the scale of both clips, landmarks by other clothes and another
// place of the camera.
inline constexpr double kKnownLength_m = 0.012;
inline constexpr double kKnownSightOff_m = 0.010;
inline constexpr double kKnownReach_m = 0.008;

}  // namespace jib::tracing
