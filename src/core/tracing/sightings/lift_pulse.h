// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"

namespace jib::tracing {

// How what moves in a picture moves up and down over a clip: lifter and bar go down and up together, whichever side
// they are seen from, so two films of one set have the same pulse.
// Units   picture heights a second, up positive; one value every 1 / kPulse_hz seconds from the clip's first frame
inline constexpr double kPulse_hz = 12;
struct LiftPulse {
  std::vector<float> up;
};

// Errors  ClipUnreadable, Cancelled
Result<LiftPulse> liftPulse(footage::FrameReader& reader, Task& task);

// Two films brought into one time.
struct Aligned {
  double offset_s = 0;  // added to a time of the first film it gives the time of the same moment in the second
  double likeness = 0;  // correlation of the two over all that either shows: 1 the same motion, 0 nothing in common
};

// The shift at which two pulses agree best. nullopt when one of them holds too little motion to tell.
// Source  normalised cross-correlation with a parabola through the peak: Oppenheim and Schafer, Discrete-Time Signal
//         Processing, 3rd ed., chapter 2
std::optional<Aligned> aligned(const LiftPulse& first, const LiftPulse& second);

// From this likeness on two clips may be put forward as one set; the coach says whether they are.
inline constexpr double kSameSet = 0.6;

}  // namespace jib::tracing
