// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/pull_speed.h"

#include <cmath>

namespace jib::lifts::pull {
using tracing::Landmark;

namespace {

Measure speedOver(const RepLook& k, double from, double to) {
  const double from_t = k.riseTime(from), to_t = k.riseTime(to);
  const auto low = k.place(Landmark::Bar, from_t), high = k.place(Landmark::Bar, to_t);
  const double s = k.m.real_s(from_t, to_t);
  if (!low || !high || s <= 0) return Absent{kHidden};
  const double speed = (high->z - low->z) / s;
  // At the floor the stretch begins with an event, and that is half a frame unsure.
  const double ends_s =
      from > 0 ? 0.0 : std::hypot(2 * k.eventSigma_s(), k.rep.sigma_s(motion::EventKind::LiftOff) / k.m.slow_factor);
  constexpr double kRead_mps = 0.005;
  const double ends = std::hypot(speed * ends_s / s, 1.4 * k.wander(Landmark::Bar, to_t) / s);
  return Measured{speed, std::hypot(ends, speed * k.m.calibration.scale_sigma_rel, kRead_mps),
                  from_t + (to_t - from_t) / 2};
}

}  // namespace

Measure floorSpeed(const RepLook& k) {
  return speedOver(k, 0, 0.2);
}

Measure middleSpeed(const RepLook& k) {
  return speedOver(k, 0.4, 0.6);
}

Measure topSpeed(const RepLook& k) {
  return speedOver(k, 0.7, 0.9);
}

}  // namespace jib::lifts::pull
