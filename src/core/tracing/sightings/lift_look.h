// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/model/body_model.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::tracing {

// Which lift a film looks like; Unknown where the signs are few or speak against each other.
enum class LiftSeen { Unknown, DownFirst, Lying, FromTheFloor, Overhead };

// Told by three signs: whether the body lies in most looks; whether the bar, when it first moves by a stroke, comes up
// from where it rested or goes down; whether it hangs below the shoulders of a standing body, lies on them, or goes
// from there over the head. `bar`: null when none was traced.
LiftSeen liftSeen(const FirstLook& look, const BarTrace* bar);

// Which way an athlete faces who is not traced: +1 towards the picture's right edge. Of one who lies, where the feet
// are. nullopt where the glance does not tell.
std::optional<double> facingSeen(const FirstLook& look, const BodyModel& body);

}  // namespace jib::tracing
