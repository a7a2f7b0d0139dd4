// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::pull {

// What hips, knees, trunk and shoulder do in one rep that is pulled from the floor, filmed from the side. Definitions:
// docs/formats.md
Measure hipRiseBeforeLiftOff(const RepLook& k);
Measure hipHeightAtLiftOff(const RepLook& k);
Measure shoulderAheadOfBar(const RepLook& k);
Measure shinAtLiftOff(const RepLook& k);
Measure barToMidFootAtLiftOff(const RepLook& k);
Measure trunkAtSet(const RepLook& k);
Measure trunkAtLiftOff(const RepLook& k);
Measure trunkAtKnee(const RepLook& k);
Measure trunkChange(const RepLook& k);  // from the set to lift-off; positive when it tips forward
Measure hipsLockAfterKnees(const RepLook& k);
Measure lockoutHip(const RepLook& k);
Measure lockoutKnee(const RepLook& k);

}  // namespace jib::lifts::pull
