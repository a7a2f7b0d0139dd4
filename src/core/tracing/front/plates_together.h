// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "core/base/geometry.h"
#include "core/base/task.h"
#include "core/footage/frame_reader.h"

namespace jib::tracing {

// How far apart the plates on a bar stand, hub to hub, within a tenth: collars are where they are on every bar.
inline constexpr double kHubsApart_m = 1.46;

// A bar seen from one end to the other, told by what moves and by nobody's body: two plates seen edge on, as tall as
// each other and at one height, that go up and down together, as far from each other as plates on a bar are. A side
// view shows no such pair, so it also tells that a clip is filmed along the bench or from straight ahead.
// Frame   displayed pixels
struct PlatesTogether {
  std::size_t high = 0, low = 0;    // two frames that show the bar at different heights
  std::array<PixelPoint, 2> hub{};  // where the bar is high: the picture's left, right
  PixelPoint went;                  // from high to low
  double metre_px = 0;              // how large a metre looks there, by how far the plates are apart: within a tenth
  double share = 0;                 // of the pictures looked at, those in which both plates are found again, 0 to 1
  double sure = 0;                  // the more pictures agree, the larger the plates and the further they go
  PixelPoint middle() const { return (hub[0] + hub[1]) * 0.5; }
};

// How sure a pair has to be to say that a clip is filmed along the bar: surer than anything a clip from the side or at
// an angle showed (docs/accuracy/seeds.md).
inline constexpr double kPlatesConvince = 8;
inline bool convince(const std::vector<PlatesTogether>& plates) {
  return !plates.empty() && plates.front().sure >= kPlatesConvince;
}

// The likeliest first, at most four; empty where no such pair is found. Looks at five pictures a second, small ones; a
// clip of ten minutes at fewer. Errors  ClipUnreadable; Cancelled
Result<std::vector<PlatesTogether>> platesTogether(footage::FrameReader& reader, Task& task);

}  // namespace jib::tracing
