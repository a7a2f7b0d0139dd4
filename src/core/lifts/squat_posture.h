// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::squat {

// What joints and limbs do: angles, depth, knees, feet. Each answers for one rep of a squat filmed from the side.
// Definitions: docs/formats.md
Measure depth(const RepLook& k);
Measure trunkStart(const RepLook& k);
Measure trunkBottom(const RepLook& k);
Measure trunkGain(const RepLook& k);
Measure leanMismatch(const RepLook& k);
Measure riseRatio(const RepLook& k);
Measure kneeSlide(const RepLook& k);
Measure kneeSlidePct(const RepLook& k);
Measure kneeArrival(const RepLook& k);
Measure kneePastToe(const RepLook& k);
Measure shinBottom(const RepLook& k);
Measure momentArmHip(const RepLook& k);
Measure momentArmKnee(const RepLook& k);
Measure standingKnee(const RepLook& k);
Measure trunkHalfDown(const RepLook& k);
Measure trunkQuarterUp(const RepLook& k);
Measure trunkHalfUp(const RepLook& k);
Measure trunkThreeQuartersUp(const RepLook& k);
Measure trunkMinusShin(const RepLook& k);
Measure momentArmRatio(const RepLook& k);
Measure shoulderLurch(const RepLook& k);
Measure standingHip(const RepLook& k);
Measure lockoutKnee(const RepLook& k);
Measure lockoutHip(const RepLook& k);

// The upper arm from straight down along the trunk: 0 hangs along it, more is an elbow carried behind or thrown up.
Measure upperArm(const RepLook& k);
// How much that changes between start, bottom and the sticking region (half-way up where the bar does not stick).
Measure upperArmSwing(const RepLook& k);
Measure barBelowShoulder(const RepLook& k);

}  // namespace jib::lifts::squat
