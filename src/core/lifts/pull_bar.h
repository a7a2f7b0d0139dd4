// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::pull {

// What the bar does in one rep that is pulled from the floor, filmed from the side. Definitions: docs/formats.md
Measure stillBeforeLiftOff(const RepLook& k);
Measure stall(const RepLook& k);
Measure dip(const RepLook& k);
Measure loop(const RepLook& k);
Measure forwardDrift(const RepLook& k);
Measure lowering(const RepLook& k);
Measure peakLowering(const RepLook& k);
Measure topOverFloorSpeed(const RepLook& k);

}  // namespace jib::lifts::pull
