// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/tracing/front/front_tracer.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::tracing {

// From where both sides are seen, by a glance at the clip; nullopt unless it is filmed straight on: a camera 60 degrees
// from the side was taken for one at 75.
inline std::optional<Facing> facingAcross(const FirstLook& look) {
  constexpr double kStraight_deg = 80;
  if (look.view.turned_deg < kStraight_deg) return std::nullopt;
  if (look.view.seen == Seen::Front) return Facing::Front;
  if (look.view.seen == Seen::Rear) return Facing::Rear;
  return std::nullopt;
}

}  // namespace jib::tracing
