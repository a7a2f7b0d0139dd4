// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/base/geometry.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/room/radial_distortion.h"
#include "core/tracing/room/vertical_vanishing_point.h"

namespace jib::tracing {

// What was assumed or learnt to get a camera; every field may be replaced by something better known.
struct CameraPriors {
  double rim_m = 0.450;           // diameter of the largest plate
  double focal_share = 0.83;      // focal length over the longer side of the picture: 62° across, a phone's main lens
  double focal_sigma_rel = 0.14;  // lenses and stabilisation crops of phones spread about this much
  double plate_m = 0.72;          // outer face of the largest plate from the lifter's middle: 0.655 plus two plates
  double hip_m = 0.09;            // near hip joint from the lifter's middle
  double ankle_m = 0.19;          // near ankle: half a stance between hip and shoulder width
  double toe_out_rad = 0.40;      // 23 degrees; the knee travels about over the foot's line
  bool wide_stance = false;       // the leg slopes outwards: a straight knee is half-way between hip and ankle
  double lateral_sigma_m = 0.05;  // of each of these
  // How far the camera is rolled, where the coach has said what is vertical; before what the room's uprights tell.
  std::optional<double> told_roll_rad = {};
};

// A pinhole camera, behind a lens that may bend, that looks at the lifter from the side: takes pixels to metres and
// back in any plane parallel to the lifter's sagittal plane. It knows that what is nearer looks larger. Frame   metres:
// x forward (where the toes point), z up, origin where the camera's foot point meets the plane;
//         lateral_m is the plane's distance from the lifter's middle towards the camera
// Source  pinhole model with known orientation: Hartley and Zisserman, Multiple View Geometry, 2nd ed., chapter 6
struct SideCamera {
  PixelPoint middle;
  double focal_px = 1000;
  double focal_sigma_rel = 0.14;
  LensBend bend;
  double forward = 1;  // +1 when the lifter faces the right edge of the picture, -1 when the left
  double yaw_rad = 0, pitch_rad = 0, roll_rad = 0;
  double yaw_sigma_rad = 0.05, pitch_sigma_rad = 0.05, roll_sigma_rad = 0.015;
  double plate_distance_m = 3.3;  // from the camera to the plane of the plate, square to it
  double plate_m = 0.72;
  double hip_m = 0.09;
  double ankle_m = 0.19;
  double toe_out_rad = 0.40;
  bool wide_stance = false;
  double elbow_m = 0.34;    // near elbow: between shoulder and hand under a bar on the back
  double splay_rad = 0.40;  // of the knees: the arc tangent of how far out they go over how far ahead
  double lateral_sigma_m = 0.05;
  double scale_sigma_rel = 0.01;

  MetrePoint toPlane(PixelPoint pixel, double lateral_m) const;
  PixelPoint toPicture(MetrePoint place, double lateral_m) const;
  double pixelsPerMetre(double lateral_m) const;
  // How far a bent knee has gone forward: of the ankle; of a leg that slopes outwards of the middle between ankle and
  // hip, by which it has left the straight line of the two. All three along x.
  double kneeAhead(double ankle, double knee, double hip) const {
    return knee - (wide_stance ? (ankle + hip) / 2 : ankle);
  }
  // How far from the lifter's middle a landmark of the near side stands. A knee that has gone knee_ahead_m forward
  // has also gone out, along the foot.
  double lateralOf(Landmark landmark, double knee_ahead_m) const;
  double straightKnee_m() const { return wide_stance ? (ankle_m + hip_m) / 2 : ankle_m; }  // from the middle, too
  double distance_m() const { return plate_distance_m + plate_m; }                         // to the lifter's middle
  // The same thing seen at lateral `from_m` would be seen here if it stood at `to_m`.
  PixelPoint shifted(PixelPoint pixel, double from_m, double to_m) const {
    return toPicture(toPlane(pixel, from_m), to_m);
  }
};

// From the plate's rim (distance), the vanishing point of the bar or the rim's flatness (yaw, pitch), and upright edges
// of the room (roll, when measured). `bend` is the lens's; 0 where it does not show.
SideCamera sideCamera(const BarTrace& bar, int width, int height, double forward, const CameraPriors& priors,
                      std::optional<double> roll_rad = std::nullopt,
                      const std::optional<Convergence>& uprights = std::nullopt, const LensBend& bend = {});

// The same camera turned about the upright (turn.h), the distance worked out again.
SideCamera turned(const SideCamera& camera, const BarTrace& bar, const CameraPriors& priors, double yaw_rad,
                  double yaw_sigma_rad);

}  // namespace jib::tracing
