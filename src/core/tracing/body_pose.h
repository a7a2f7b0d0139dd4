// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>

#include "core/base/geometry.h"

namespace jib::tracing {

// The near side of a lifter as a chain of straight parts in the picture: foot, shin, thigh, trunk.
// Frame   displayed pixels, in the plane of the near leg; angles are atan2(y, x) of the part from its lower end
enum Part : std::size_t { kFoot, kShin, kThigh, kTrunk, kParts };

// Fixed for a clip: lengths in px and where things sit on the parts.
struct Skeleton {
  PixelPoint heel_from_ankle, toe_from_ankle;  // with the foot's angle at 0
  double shin_px = 0, thigh_px = 0, trunk_px = 0;
  double bar_px = 0;         // from the hip to the bar, brought into the plane of the leg
  double bar_turn_rad = 0;   // direction of the bar from the hip, less the trunk's
};

// One frame's posture. shin_share and thigh_share are 1 when the part lies in the picture's plane as on the placed
// frame; knees that open towards the camera shorten or lengthen the thigh's picture a little.
struct BodyPose {
  PixelPoint ankle;
  double foot_rad = 0, shin_rad = 0, thigh_rad = 0, trunk_rad = 0;
  double shin_share = 1, thigh_share = 1;

  static constexpr std::size_t kUnknowns = 8;
  std::array<double, kUnknowns> vector() const {
    return {ankle.x, ankle.y, foot_rad, shin_rad, thigh_rad, trunk_rad, shin_share, thigh_share};
  }
  static BodyPose from(const std::array<double, kUnknowns>& v) {
    return {{v[0], v[1]}, v[2], v[3], v[4], v[5], v[6], v[7]};
  }
};

struct BodyPoints {
  PixelPoint heel, toe, ankle, knee, hip, shoulder, bar;
};

inline PixelPoint along(double length_px, double angle_rad) {
  return {length_px * std::cos(angle_rad), length_px * std::sin(angle_rad)};
}

inline BodyPoints pointsOf(const Skeleton& s, const BodyPose& q) {
  BodyPoints p;
  p.ankle = q.ankle;
  p.heel = q.ankle + rotated(s.heel_from_ankle, q.foot_rad);
  p.toe = q.ankle + rotated(s.toe_from_ankle, q.foot_rad);
  p.knee = q.ankle + along(s.shin_px * q.shin_share, q.shin_rad);
  p.hip = p.knee + along(s.thigh_px * q.thigh_share, q.thigh_rad);
  p.shoulder = p.hip + along(s.trunk_px, q.trunk_rad);
  p.bar = p.hip + along(s.bar_px, q.trunk_rad + s.bar_turn_rad);
  return p;
}

}  // namespace jib::tracing
