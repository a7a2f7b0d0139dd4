// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/body/body_tracker.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/model/trace.h"

namespace jib::tracing {

// How far a point of the chain may be from the true one, in metres: by a constant in its limb's own directions (what
// the pose network takes for the joint), with posture (skin and cloth slide over the joint, the same way each time the
// posture is the same) and with time (drift of the tracking).
struct Wander {
  double constant_m;
  double posture_m;
  double drift_m;
  double placing_m;  // how exactly a coach can place it
};
Wander wanderOf(Landmark landmark, const BodyTrack& track);

// Puts the tracked chain into the trace and bends it through everything the coach placed. Each landmark's correction is
// a constant that turns with the limb plus a smooth random field over time and posture, known where the coach placed
// the point; elsewhere it is predicted, and the uncertainty left says how far from any pin one is. A pin at one bottom
// therefore helps at the other bottoms and, on a chain that was placed before, leaves the standing frames alone; the
// first pin on a chain the network found shifts the point in every frame. Pins themselves are kept exactly.
// Thread  re-entrant; takes milliseconds, so that a drag can be solved while it lasts
// Source  Gaussian process regression: Rasmussen and Williams 2006, equations 2.23 to 2.26
void applyPins(Trace& trace, const BodyTrack& track, const SideCamera& camera, const std::vector<PlacedFrame>& placed);

}  // namespace jib::tracing
