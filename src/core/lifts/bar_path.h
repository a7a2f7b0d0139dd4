// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/rep_look.h"

namespace jib::lifts::bar {

// Where the bar goes, fore and aft and against mid-foot, in one rep of a lift filmed from the side. Definitions:
// docs/formats.md
Measure barToMidFootMean(const RepLook& k);
Measure barToMidFootMax(const RepLook& k);
Measure driftAtReversal(const RepLook& k);
Measure pathMirror(const RepLook& k);
Measure barRange(const RepLook& k);
Measure stroke(const RepLook& k);

}  // namespace jib::lifts::bar
