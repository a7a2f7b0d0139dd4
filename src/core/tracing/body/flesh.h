// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/camera/side_camera.h"
#include "core/tracing/model/trace.h"

namespace jib::tracing {

// How an athlete's flesh lies over hip and knee joint, in metres: what turns fitted joints into the hip crease and the
// top of the knee, between which depth is judged.
// The crease lies on the thigh's upper surface, square above the hip joint (crease_out) and a little along the thigh
// towards the knee (crease_along): at a constant distance from the thigh's axis, however far the fold has closed, so
// that a click on any frame serves for all. The knee's top is straight above the joint.
struct Flesh {
  double crease_out_m = 0.072;
  double crease_along_m = 0.0;
  double crease_sigma_m = 0.013;  // the prior's spread over people; a click brings it down
  bool crease_clicked = false;
  double knee_top_m = 0.055;
  double knee_top_forward_m = 0.0;
  double knee_top_sigma_m = 0.008;
  bool knee_top_clicked = false;
  friend bool operator==(const Flesh&, const Flesh&) = default;
};

// `prior`, replaced by what was clicked: the click nearest to the deepest posture counts.
Flesh fleshFrom(const Trace& trace, const SideCamera& camera, const std::vector<PlacedFrame>& placed,
                const Flesh& prior = {});

// What a click on one clip is worth on another of the same athlete: the flesh is the same, but where the joints were
// placed under it differs from clip to clip. What was not clicked is the prior's.
Flesh remembered(const Flesh& clicked);

// Adds hip crease and top of the knee wherever hip, knee and shoulder are known. Clicked ones stay as clicked.
void addFlesh(Trace& trace, const SideCamera& camera, const Flesh& flesh);

}  // namespace jib::tracing
