// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>

#include "core/motion/bar_height.h"

namespace jib::motion {

// How fast a bar that is held still seems to move in this clip: what the hand on the camera, a breathing lifter and
// the tracing leave in its speed. Told where the bar is held at the top of its strokes; never under the `kBarStill_mps`
// of a tripod, never over what would pass for motion. Returns  m/s, real time
double stillnessOf(const BarHeight& bar);

// The turn of a stroke at the bottom: from where the bar has come to rest to its first motion up.
// A rest is slowness over a time, not a row of frames each of which is still: on a chest that breathes and under a
// hand-held camera no frame is. The bar arrives where its descent has slowed to a crawl and leaves where the last rise
// out of the hole begins; whatever it does between them within a hand's breadth (sinks, dips, settles) is the rest.
struct BottomRest {
  std::size_t from = 0, to = 0;         // samples
  double from_t = 0, to_t = 0;          // presentation times, s
  double from_sigma = 0, to_sigma = 0;  // 1 σ, s of presentation time, beyond the half frame
  double real_s = 0;                    // how long, in real time
};
// `bottom`: the lowest sample. `stillness_mps`: of stillnessOf.
BottomRest restAtBottom(const BarHeight& bar, std::size_t bottom, double stillness_mps);

}  // namespace jib::motion
