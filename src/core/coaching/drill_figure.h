// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/coaching/analysis.h"

namespace jib::coaching {

// Lengths of an athlete's limbs, metres; without a body that was traced those of somebody of 1.72 m.
// Source  shares of the stature: Drillis and Contini, Body segment parameters, 1966
struct Limbs {
  double shin = 0.423, thigh = 0.421, trunk = 0.495, upper_arm = 0.32, forearm = 0.25;
};
Limbs limbsOf(const Analysis& analysis);

// How somebody stands or lies in a drill, from the side, facing right.
struct DrillPosture {
  double shin_deg = 0, thigh_deg = 0, torso_deg = 0;  // lean from vertical, + forward; the thigh leans back: below zero
  enum class Bar { Back, Front, Hands, Chest, None } bar = Bar::Back;
  double above_chest_m = 0;  // of a bar over who lies
  bool plate_under_heels = false, plate_under_toes = false, box = false, blocks = false, band = false;
};

// A picture of it, drawn with the athlete's own proportions; feet, bar and mid-foot line as they should be. SVG, to
// stand in a page as it is; empty of a posture that says nothing (no bar, no angle, nothing to stand on).
std::string drillSvg(const DrillPosture& posture, const Limbs& limbs, const std::string& title);

}  // namespace jib::coaching
