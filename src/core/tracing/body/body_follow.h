// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/base/task.h"
#include "core/footage/clip_info.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/room/camera_move.h"

namespace jib::tracing {

// From a moment of standing to a moment of standing: one descent and what follows it.
struct Stretch {
  std::size_t first = 0, last = 0;
  friend bool operator==(const Stretch&, const Stretch&) = default;
};

// The limbs as patches of cloth and skin show them turning, through one stretch, from a posture that was fitted and not
// placed: how far each turns is worth more than where it began.
struct Followed {
  Stretch stretch;
  std::vector<std::optional<BodyPose>> poses;  // one a frame of the stretch
  std::vector<std::optional<ShoeLift>> shoe;   // the same; empty where the shoe was not watched
};

// Where the bar is on its way between first and last, each with a little of standing before and after. Frames without
// the bar break a stretch.
// `moves`: of a camera that does not stand still, one a frame; empty when it does
std::vector<Stretch> stretchesOnTheWay(const BarTrace& bar, const std::vector<CameraMove>& moves, double rim_m,
                                       std::size_t first, std::size_t last);

// Follows every stretch of `fitted` from its first frame on, two at a time. A stretch whose first frame was not fitted
// is left out.
// Errors  ClipUnreadable; Cancelled
// Thread  re-entrant; opens the clip for itself
Result<std::vector<Followed>> followBody(const footage::ClipInfo& clip, const BarTrace& bar, const BodyTrack& fitted,
                                         const std::vector<CameraMove>& moves, const std::vector<Stretch>& stretches,
                                         Task& task);

}  // namespace jib::tracing
