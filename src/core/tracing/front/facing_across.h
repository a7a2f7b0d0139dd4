// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/tracing/front/front_tracer.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::tracing {

// How far a camera has to stand from square-on to the side for both sides to be seen: one 60 degrees from the side was
// taken for one at 75.
inline constexpr double kStraight_deg = 80;
// Enough where a trace from the side found no body: what it followed was no plate seen from the side then.
inline constexpr double kNearlyStraight_deg = 75;

// From where both sides are seen, by a glance at the clip; nullopt unless it is filmed straight on. Of a lift that is
// done lying only where somebody is seen to lie along the view.
inline std::optional<Facing> facingAcross(const FirstLook& look, const BodyModel& body,
                                          double straight_deg = kStraight_deg) {
  if (look.view.turned_deg < straight_deg || body.lying != look.along_bench) return std::nullopt;
  if (look.view.seen == Seen::Front) return Facing::Front;
  if (look.view.seen == Seen::Rear) return Facing::Rear;
  if (look.view.seen == Seen::Head) return Facing::Head;
  return std::nullopt;
}

}  // namespace jib::tracing
