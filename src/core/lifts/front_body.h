// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/lifts/lift.h"

namespace jib::lifts::front {

// What one rep of any lift shows where both sides are seen. Sides are the athlete's own; towards the left is
// positive, inwards too where a knee is meant. Definitions: docs/formats.md
Measure kneeGapRatio(const RepLook& k);  // smallest in the lower part, knees over ankles
Measure kneeGapFall(const RepLook& k);   // per cent, up against down at the same heights
Measure kneeCaveLeft(const RepLook& k);  // on the way up, against the way down
Measure kneeCaveRight(const RepLook& k);
Measure kneeOverFootLeft(const RepLook& k);  // at the turn, outside the middle of the foot positive
Measure kneeOverFootRight(const RepLook& k);
Measure kneeOverFootLeast(const RepLook& k);  // the side that is further inside
Measure armLean(const RepLook& k);            // of arms that hang, at the turn; hands outside the shoulders positive
Measure hipShift(const RepLook& k);
Measure hipTilt(const RepLook& k);
Measure barTilt(const RepLook& k);
Measure shoulderTilt(const RepLook& k);
Measure stanceWidth(const RepLook& k);
Measure stanceOverShoulders(const RepLook& k);
Measure elbowHeightDifference(const RepLook& k);
Measure shoulderHeightDifference(const RepLook& k);
Measure handGap(const RepLook& k);

// The table of a lift that is done standing.
std::span<const RepMeasure> standingMeasures();
// And of one in which the bar hangs from the arms.
std::span<const RepMeasure> hangingMeasures();

}  // namespace jib::lifts::front
