// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/front/front_tracer.h"

namespace jib::tracing {

// Bends a view of both sides through the points the coach placed. What the network takes for a joint, and what is taken
// for the end of the bar, is off by much the same in every frame and by the same at the same height of the bar, and
// by something else for a moment where it moves fast: each point's correction is a constant plus a smooth random field
// over height and time, known where it was placed. One that
// is further off than such errors are was a slip of a few frames, and only these are mended. A placed point is kept
// exactly; one that was not traced there stands alone.
// bar         of the same view before the pins, whose height says which frames are alike
// Thread      re-entrant; takes milliseconds
// Source      Gaussian process regression: Rasmussen and Williams 2006, equations 2.23 to 2.26
FrontTrace withPins(const FrontTrace& seen, const BarTrace& bar, const std::vector<PlacedFrame>& placed);

}  // namespace jib::tracing
