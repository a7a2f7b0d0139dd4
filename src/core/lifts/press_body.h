// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/lift.h"
#include "core/lifts/rep_look.h"

namespace jib::lifts::press {

// What the body does in one rep that is pressed off the chest, filmed from the side. Forward is towards the feet.
// Definitions: docs/formats.md
Measure elbowAheadAtTouch(const RepLook& k);
Measure elbowAngleAtTouch(const RepLook& k);
Measure flareTravel(const RepLook& k);
Measure touchFromShoulder(const RepLook& k);
Measure hipLift(const RepLook& k);
Measure heelLift(const RepLook& k);
Measure shoulderRiseAtUnrack(const RepLook& k);
Measure kneeBelowHip(const RepLook& k);

// Over the set: how much lower the chest is with the arms straight after the last rep than before the first, by the
// body's outline under the touch point.
Measure chestDrop(const SetLook& k);

}  // namespace jib::lifts::press
