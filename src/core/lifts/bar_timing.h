// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::bar {

// When things happen and how fast, in one rep of any lift filmed from the side. Durations and speeds are of real time.
// Definitions: docs/formats.md
Measure descent(const RepLook& k);
Measure pause(const RepLook& k);
Measure ascent(const RepLook& k);
Measure peakDescent(const RepLook& k);
Measure peakAscent(const RepLook& k);
Measure meanAscent(const RepLook& k);
Measure stickingHeight(const RepLook& k);
Measure standsStill(const RepLook& k);
Measure brakingHeight(const RepLook& k);
Measure peakDrop(const RepLook& k);
Measure reversal(const RepLook& k);
Measure lockoutHold(const RepLook& k);

}  // namespace jib::lifts::bar
