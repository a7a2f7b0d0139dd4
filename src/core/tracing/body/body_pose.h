// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>

#include "core/tracing/camera/side_camera.h"

namespace jib::tracing {

// The near side of a lifter as a chain of straight parts: foot, shin, thigh, trunk, moving in the sagittal plane, each
// joint at its own distance from the lifter's middle.
// Frame   metres as SideCamera; leans are from the vertical, positive when the upper end is further forward
enum Part : std::size_t { kFoot, kShin, kThigh, kTrunk, kParts };

// Fixed for a clip: true lengths, and where things sit on the parts.
struct Skeleton {
  MetrePoint heel_from_ankle, toe_from_ankle;  // as on the placed frame
  double shin_m = 0.43, thigh_m = 0.43, trunk_m = 0.5;
  // Of the bar from the hip, in the trunk's own directions. In hanging hands: from the shoulder, the arm's length and
  // how far ahead it would hang with the trunk level.
  double bar_along_m = 0, bar_ahead_m = 0;

  // How tall somebody of usual proportions with these limbs is; ± 6 cm over people.
  // Source  segment lengths as shares of the stature: Drillis and Contini 1966
  double stature_m() const { return (shin_m + thigh_m + trunk_m) / (0.246 + 0.245 + 0.288); }
};

// By how much further a bar in hanging hands is ahead of the shoulder with the trunk upright than with it level: the
// thighs hold it off.
inline constexpr double kUprightAhead_m = 0.12;

// One frame's posture. The shares are 1 when shin and thigh look as long as knees over the toes make them look.
struct BodyPose {
  MetrePoint ankle;
  double foot_rad = 0;  // turned forward (heel up) since the placed frame
  double shin_rad = 0, thigh_rad = 0, trunk_rad = 0;
  double shin_share = 1, thigh_share = 1;

  static constexpr std::size_t kUnknowns = 8;
  std::array<double, kUnknowns> vector() const {
    return {ankle.x, ankle.z, foot_rad, shin_rad, thigh_rad, trunk_rad, shin_share, thigh_share};
  }
  static BodyPose from(const std::array<double, kUnknowns>& v) {
    return {{v[0], v[1]}, v[2], v[3], v[4], v[5], v[6], v[7]};
  }
};

// The chain's points in displayed pixels, and what moving the unknowns does to them.
struct BodyPoints {
  PixelPoint heel, toe, ankle, knee, hip, shoulder;
  PixelPoint bar;  // brought to the hip's distance from the camera
  double metre_px = 0;

  PixelPoint lower(Part part) const {
    return part == kFoot ? heel : part == kShin ? ankle : part == kThigh ? knee : hip;
  }
  PixelPoint upper(Part part) const {
    return part == kFoot ? toe : part == kShin ? knee : part == kThigh ? hip : shoulder;
  }
};

BodyPoints pointsOf(const Skeleton& skeleton, const BodyPose& pose, const SideCamera& camera);

// Skeleton and posture from placed points in pixels: toe, heel, ankle, knee, hip, shoulder, and the bar brought to the
// hip's plane in metres.
struct PlacedBody {
  PixelPoint toe, heel, ankle, knee, hip, shoulder;
};
Skeleton skeletonOf(const PlacedBody& placed, MetrePoint bar, const SideCamera& camera);
BodyPose poseOf(const Skeleton& skeleton, const PlacedBody& placed, const SideCamera& camera);

}  // namespace jib::tracing
