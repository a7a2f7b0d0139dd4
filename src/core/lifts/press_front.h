// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/lifts/lift.h"

namespace jib::lifts::press {

// What one rep of a press shows from the bench's ends. Sides are the athlete's own; towards the left is positive.
// Definitions: docs/formats.md
Measure gripOffset(const RepLook& k);           // of the hands' middle from the bar's, before the rep
Measure barSway(const RepLook& k);              // range of the bar's middle across
Measure elbowTuckDifference(const RepLook& k);  // upper arm against trunk at the touch, left minus right

std::span<const RepMeasure> benchEndMeasures();

}  // namespace jib::lifts::press
