// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/front/plates_together.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Two frames that show the bar at different heights, and how the middle of the hands went from one to the other.
struct Apart {
  std::size_t high = 0, low = 0;
  PixelPoint hands;         // their middle on the high one
  PixelPoint line;          // from the athlete's hand on the picture's left to that on its right, length 1
  PixelPoint went;          // from high to low
  double metre_px = 0;      // how large a metre looks there
  double metre_off = 0.32;  // by what share of itself that may be off
  bool by_plates = false;   // `hands` is the middle between plates that were seen to go up and down together
};

// The middle of both sides of a landmark, where both are seen.
std::optional<PixelPoint> middleOf(const Sighting& sighting, PoseMark mark);

// Told by the hands. nullopt where they are not seen, or hardly move.
std::optional<Apart> farthestApart(const std::vector<Sighting>& sightings, double metre_px);

// The same of somebody who presses: folded arms under the bar are taken for legs at times, so where the bar is highest
// and how far it comes down is told by the plates on both sides: by those that go up and down together, and where there
// are none by their picture, looked for above and below where a look has arms that hold it. The line is level. The
// likeliest first.
// Errors  ClipUnreadable; Cancelled
Result<std::vector<Apart>> farthestApartByPlates(footage::FrameReader& reader,
                                                 const std::vector<PlatesTogether>& together,
                                                 const std::vector<Sighting>& sightings, double metre_px, Task& task);

}  // namespace jib::tracing
