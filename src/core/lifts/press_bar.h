// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::press {

// What the bar does in one rep that is pressed off the chest, filmed from the side. Forward is towards the feet.
// Definitions: docs/formats.md
Measure sink(const RepLook& k);
Measure rebound(const RepLook& k);  // first centimetres off the chest over the lower half of the rest, in speed
Measure touchToLockoutShift(const RepLook& k);

}  // namespace jib::lifts::press
