// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/tracing/bar/rim_track.h"

namespace jib::tracing {

// How much larger another outline is that goes round the one that was followed and moves with it: a ring on the plate's
// face, or the stack behind it, is taken for the rim at times. Of pictures of the plate at many heights the middle one,
// pixel by pixel, shows the plate as sharp as ever and of the room behind it nothing. On films drawn by seed whose
// scale was 5 to 15 % off, either way, there was such an outline, and on none of the others (docs/accuracy/pairs.md);
// which of both is the rim it does not tell. nullopt where there is none, or the bar hardly went up and down.
std::optional<double> secondRim(const std::vector<RimTrack::Seen>& seen);

}  // namespace jib::tracing
