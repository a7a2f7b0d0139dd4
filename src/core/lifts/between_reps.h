// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::between {

// What a rep inherits from the one before it; absent of the first. Definitions: docs/formats.md
Measure restOnFloor(const RepLook& k);    // of a pull: plates down to lift-off
Measure startShift(const RepLook& k);     // of a pull: the bar at lift-off, forward of where it was the rep before
Measure shoulderShift(const RepLook& k);  // of a press: the shoulder on the pad, towards the feet of the rep before

}  // namespace jib::lifts::between
