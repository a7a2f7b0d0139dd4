// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/base/task.h"
#include "core/footage/clip_info.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Watches shoe, hip and elbow of a fitted body on a bench through its stretch, against the last frame before the first
// descent on which the bar rests above straight arms, and keeps what was seen with the track. Of a camera held by hand
// nothing is watched: its sway is larger than what is looked for.
// Errors  ClipUnreadable; Cancelled
Result<bool> watchLying(const footage::ClipInfo& clip, const BarTrace& bar, std::size_t quiet, BodyTrack& track,
                        Task& task);

// The hip where its own picture puts it against where it lay: what is fitted is too stiff to leave the pad.
void moveHip(Trace& trace, const BodyTrack& track);

// Elbow and wrist of the near arm: the elbow where it stands out below the plate or where the network sees it beside
// the plate, straight on between two that are near in time, and where the coach placed it; the wrist a hand's breadth
// from the bar towards it.
void addPressingArm(Trace& trace, const BodyTrack& track, const BarTrace& bar, const SideCamera& camera,
                    const std::vector<Sighting>& sightings, const std::vector<PlacedFrame>& placed);

}  // namespace jib::tracing
