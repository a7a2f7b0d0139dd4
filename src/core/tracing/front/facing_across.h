// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/tracing/front/front_tracer.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::tracing {

// From where both sides are seen, by a glance at the clip; nullopt unless it is filmed straight on: a camera 60 degrees
// from the side was taken for one at 75. Of a lift that is done lying only where somebody is seen to lie along the
// view.
inline std::optional<Facing> facingAcross(const FirstLook& look, const BodyModel& body) {
  constexpr double kStraight_deg = 80;
  if (look.view.turned_deg < kStraight_deg || body.lying != look.along_bench) return std::nullopt;
  if (look.view.seen == Seen::Front) return Facing::Front;
  if (look.view.seen == Seen::Rear) return Facing::Rear;
  if (look.view.seen == Seen::Head) return Facing::Head;
  return std::nullopt;
}

}  // namespace jib::tracing
