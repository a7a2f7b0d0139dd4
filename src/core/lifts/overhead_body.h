// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/lifts/lift.h"

namespace jib::lifts::overhead {

Measure barOverShoulder(const RepLook& k);  // as the bar leaves: above the shoulder joint
Measure kneeDip(const RepLook& k);          // how far the knees bend before and as the bar leaves, against straight
Measure leanBack(const RepLook& k);         // the most the torso leans back under way; forward is negative
Measure leanBackGain(const RepLook& k);     // and by how much more than at lockout
Measure torsoAtLockout(const RepLook& k);   // forward is positive
Measure barPastMidFoot(const RepLook& k);   // at lockout, forward positive

std::span<const RepMeasure> bothSidesMeasures();

}  // namespace jib::lifts::overhead
