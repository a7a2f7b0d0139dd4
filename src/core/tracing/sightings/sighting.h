// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/tracing/pose/pose_reader.h"
#include "core/tracing/room/camera_move.h"

namespace jib::tracing {

// What the pose network saw in one frame.
struct Sighting {
  std::size_t frame = 0;
  PoseReading reading;
  CameraMove camera;  // of the picture since the first sighting
};

std::vector<PoseReading> readingsOf(const std::vector<Sighting>& sightings);

// How the camera moved, one entry a frame; empty when it stood still. Between sightings it is interpolated.
std::vector<CameraMove> cameraMoves(const std::vector<Sighting>& sightings, const std::vector<double>& times_s);

// Which way the lifter faces in the picture: +1 to the right edge. From toes and heels over all sightings; nullopt when
// they do not agree, as from the front.
std::optional<double> forwardFrom(const std::vector<Sighting>& sightings);

}  // namespace jib::tracing
