// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::foot {

// How far the near shoe's ends come off the floor in a rep of any lift, filmed from the side; the shoe's own picture
// decides where it was watched. Definitions: docs/formats.md
Measure heelLift(const RepLook& k);
Measure toeLift(const RepLook& k);

// By how much a toe seems to slide along the floor in a rep, beyond what tracing adds: under load it does not, so the
// film and not the foot has moved, and whatever is read as rising may have moved as much.
double slides_m(const RepLook& k);

}  // namespace jib::lifts::foot
