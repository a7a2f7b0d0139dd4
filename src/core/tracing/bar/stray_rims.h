// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/bar/rim_track.h"

namespace jib::tracing {

// Which of the places a rim was followed to are not the plate's, and how far off the others may be. `seen` is in order
// of the frames.

void dropStrayEnds(std::vector<RimTrack::Seen>& seen);
// `interval_s`: from frame to frame.
void dropAroundJumps(std::vector<RimTrack::Seen>& seen, double interval_s);

// The share of the rim that is seen in the middle one of all frames; 0 of none.
double usualInliers(const std::vector<RimTrack::Seen>& seen);
// 1 σ, px, by which a rim's centre is off where less of it is seen than usual.
double unsureWhereHidden(const RimFit& fit, double usual);

}  // namespace jib::tracing
