// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/tracing/model/trace.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Where the lifter's head is on one frame: a circle that holds all of it.
// Frame  displayed pixels
struct Head {
  PixelPoint centre;
  double radius_px = 0;
};

// The head of one who was looked at once: about the ears, else where the trunk points; nullopt where neither is seen.
std::optional<Head> headOf(const PoseReading& reading);

// The head on every frame of a clip: about the ears where the network surely sees them, else where the trunk points,
// with more room about it. Between two such looks straight on, before the first and after the last where it was then,
// so that no frame is without. Empty where nothing tells it.
// `trace`: of the same clip, whose shoulders and hips say where the trunk points.
std::vector<Head> headsOf(const std::vector<Sighting>& sightings, const Trace& trace);

}  // namespace jib::tracing
