// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/base/geometry.h"
#include "core/tracing/clip_tracer.h"

namespace jib::motion {

// How high the chest of who lies on a bench is under the touch point, at one look with straight arms.
struct ChestAt {
  double t_s = 0;
  double z_m = 0;
};

// From the body's outline where the bar comes down: its upper edge there, on looks on which the bar is up so far that
// its plate leaves the chest in sight. Right within a centimetre or two, and alike from look to look: what tells is the
// change.
// `bar`  one a frame, metres of the clip's camera, as the heights that are returned
std::vector<ChestAt> chestOf(const tracing::ClipTrace& clip, const std::vector<std::optional<MetrePoint>>& bar);

// The upper edge of what an outline holds over `x`, from below: where the body ends under whatever is held above it.
// nullopt where the outline has no body of a chest's thickness there. Both in metres.
std::optional<double> upperEdge(const std::vector<MetrePoint>& outline, double x);

}  // namespace jib::motion
