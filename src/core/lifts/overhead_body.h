// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/lift.h"

namespace jib::lifts::overhead {

Measure barOverShoulder(const RepLook& k);  // as the bar leaves: above the shoulder joint
Measure kneeDip(const RepLook& k);          // how far the knees bend before and as the bar leaves, against straight
Measure leanBackGain(const RepLook& k);     // the most the torso leans back under way, against lockout
Measure barPastMidFoot(const RepLook& k);   // at lockout, forward positive

}  // namespace jib::lifts::overhead
