// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string_view>

#include "core/lifts/lift.h"
#include "core/motion/motion.h"

namespace jib::lifts {

// What the camera's place does to what a film from the side can show. Measures, clip card, notices, letters and the
// ledger ask here, so that one film is never judged by two limits.

enum class ViewReason {
  None,
  Turned,   // from square-on, so far that angles and distances are uncertain
  Oblique,  // so far that no place or angle of the body can be judged
  Steep,    // the camera looks up or down on the hip: depth is uncertain
  TooSteep  // and here it cannot be judged
};

struct Carried {
  Can can = Can::Yes;
  ViewReason why = ViewReason::None;
};

// Heights of one point of the body over another: depth, above all.
Carried heightsFrom(double look_down_deg);
inline Carried heightsFrom(const motion::Calibration& k) {
  return heightsFrom(k.look_down_deg);
}
// Places and angles of the body in its own plane.
Carried placesFrom(const motion::Calibration& k);

// One measure from a camera that stands at the side or between side and front, by the lift's table of claims (lift.h);
// and a claim, which is carried as far as any of its measures is. Card, measure and finding ask these and nothing else.
Carried carried(const LiftDefinition& lift, const RepMeasure& measure, const motion::Calibration& k);
Carried carried(const LiftDefinition& lift, std::string_view claim, const motion::Calibration& k);
// Whether the camera stands so square to the lift that nobody has to be asked to stand squarer next time.
bool isSquare(const motion::Calibration& k, double yaw_rad);

// Why a measure is absent, for the coach.
std::string_view absentFor(ViewReason why);

}  // namespace jib::lifts
