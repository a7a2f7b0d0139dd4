// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <optional>
#include <vector>

#include "core/base/geometry.h"

namespace jib::tracing {

struct SideCamera;

// An arm that holds a bar, in metres: x forward, y up, z outwards from the middle of the body.
struct ArmEnds {
  Eigen::Vector3d shoulder, hand;
};

inline constexpr double kGrip_m = 0.38;  // a hand from the middle of the bar
inline constexpr double kHand_m = 0.05;  // from the bar in the palm to the wrist

// From where a shoulder and the plate are seen. Frame  displayed pixels, as the camera stood where it was worked out
ArmEnds armEnds(PixelPoint shoulder, PixelPoint plate, const SideCamera& camera);

// Upper arm and forearm, to the bar in the hand.
struct ArmLengths {
  double upper_m = 0, fore_m = 0;
};

// Where the elbow is when the arm is turned about the line from shoulder to hand by `swivel_rad`: at 0 it points
// outwards as far as it can, at a quarter turn forward. An arm too short to reach is straight. Source  the swivel angle
// of an arm with seven degrees of freedom: Tolani, Goswami and Badler 2000
Eigen::Vector3d elbowOf(const ArmEnds& ends, const ArmLengths& lengths, double swivel_rad);

// How far the elbow stands off the line from shoulder to hand; 0 of a straight arm.
double elbowOff(const ArmEnds& ends, const ArmLengths& lengths);

// The swivel at which an elbow seen from the side comes nearest to (x, y); nullopt where it comes no nearer than
// `within_m` or where the arm is so straight that it says nothing.
std::optional<double> swivelOf(const ArmEnds& ends, const ArmLengths& lengths, const Eigen::Vector2d& seen,
                               double within_m);

// A swivel an elbow was seen at; sure: where nothing else could be taken for it.
struct SwivelSeen {
  double rad;
  bool sure;
};
struct UsualSwivel {
  double rad = 0, sigma_rad = 0;
};

// How an arm is turned that is at the chest at `low`: as most sightings say, those more that put the elbow near the
// line under the bar, where everybody's is within a hand's breadth; of none, under the bar.
UsualSwivel usualSwivel(const ArmEnds& low, const ArmLengths& lengths, const std::vector<SwivelSeen>& seen);

}  // namespace jib::tracing
