// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::pull {

// How fast the bar is where in one pull. Where the knee is while the plates hide it is too unsure to say "at the knee";
// the bar passes it about half-way. Definitions: docs/formats.md
Measure floorSpeed(const RepLook& k);   // over the first fifth of the rise
Measure middleSpeed(const RepLook& k);  // over the fifth in the middle
Measure topSpeed(const RepLook& k);     // from seven to nine tenths

}  // namespace jib::lifts::pull
