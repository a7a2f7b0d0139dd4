// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/base/task.h"
#include "core/footage/clip_info.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Watches the hip of somebody bent to a bar on the floor, for two seconds before each lift-off, against the frame of
// the lift-off (hip_watch.h), and keeps with the track how far it stood from there. Of a camera held by hand nothing is
// watched: its sway is larger than what is looked for.
// Errors  ClipUnreadable; Cancelled
Result<bool> watchSets(const footage::ClipInfo& clip, const BarTrace& bar, const std::vector<Sighting>& sightings,
                       BodyTrack& track, Task& task);

}  // namespace jib::tracing
