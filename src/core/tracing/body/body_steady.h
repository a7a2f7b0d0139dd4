// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/body/body_follow.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/room/camera_move.h"
#include "core/tracing/sightings/pose_sightings.h"

namespace jib::tracing {

// What was seen through a hand-held camera, as one on a tripod would have seen it. `moves` holds the camera's motion,
// one entry a frame of the clip.
std::vector<Sighting> steadied(std::vector<Sighting> sightings);
BarTrace steadied(BarTrace bar, const std::vector<CameraMove>& moves);
BodyTrack steadied(BodyTrack track, const std::vector<CameraMove>& moves);
// `forward`: as SideCamera's.
std::vector<Followed> steadied(std::vector<Followed> followed, double forward, const std::vector<CameraMove>& moves);

// The angles of a steadied track, back in the picture as it was; all else as in `followed`, which was followed there.
BodyTrack swayed(BodyTrack track, const BodyTrack& followed, const std::vector<CameraMove>& moves);

}  // namespace jib::tracing
