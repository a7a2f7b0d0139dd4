// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::squat {

// When hips and knees begin to bend and come straight, in one rep of a squat filmed from the side. Real time.
// Definitions: docs/formats.md
Measure lockoutGap(const RepLook& k);
Measure hipsBeforeKnees(const RepLook& k);

}  // namespace jib::lifts::squat
