// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/press_bar.h"

#include <algorithm>
#include <cmath>

namespace jib::lifts::press {
using tracing::Landmark;

// From the first touch to the lowest the bar was while it rested. It touches where it is all but stopped for the first
// time: a bar that sinks goes on from there, slowly.
Measure sink(const RepLook& k) {
  if (k.rep.type != motion::RepType::Paused)
    return Absent{"The bar does not rest on the chest, so touch and sinking can't be told apart."};
  constexpr double kTouch_mps = 0.06;
  const auto& path = k.m.path(Landmark::Bar).at;
  const std::size_t first = k.first(), rest = k.m.frameAt(k.rep.bottom_t()), up = k.m.frameAt(k.rep.ascent_t());
  std::size_t fastest = first;
  for (std::size_t i = first; i <= rest; ++i)
    if (k.m.bar_vz_mps[i] && *k.m.bar_vz_mps[i] < k.m.bar_vz_mps[fastest].value_or(0)) fastest = i;
  std::size_t touch = fastest;
  while (touch < up && k.m.bar_vz_mps[touch].value_or(-1) < -kTouch_mps) ++touch;
  if (!path[touch]) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  for (std::size_t i = touch; i <= up; ++i)
    if (path[i] && path[touch]->z - path[i]->z > most.value) most = {path[touch]->z - path[i]->z, 0, k.m.times_s[i]};
  // As far as it goes down in the time by which the touch may have been later.
  const auto later = k.place(Landmark::Bar, k.m.times_s[touch] + k.rep.sigma_s(motion::EventKind::Bottom));
  const double by_then = later ? std::max(0.0, path[touch]->z - later->z) : 0;
  most.sigma = std::hypot(1.4 * k.wander(Landmark::Bar, most.t_s), 0.003, by_then);
  return most;
}

// A bar that is pressed gathers speed off the chest; one that bounces has it from the first centimetre and loses it.
Measure rebound(const RepLook& k) {
  constexpr double kOff_m = 0.04, kHalfWay = 0.5;
  if (k.rep.type == motion::RepType::Paused) return Absent{"The bar rests on the chest, so there's no bounce."};
  const double stroke = k.rep.stroke_m;
  if (stroke < 3 * kOff_m) return Absent{kHidden};
  const double touch_t = k.rep.ascent_t(), off_t = k.riseTime(kOff_m / stroke), half_t = k.riseTime(kHalfWay);
  const double first_s = k.m.real_s(touch_t, off_t), then_s = k.m.real_s(off_t, half_t);
  if (first_s <= 0 || then_s <= 0) return Absent{kHidden};
  const double first = kOff_m / first_s, then = (kHalfWay * stroke - kOff_m) / then_s, ratio = first / then;
  // When it turned round is half a frame unsure, and what was found of the turn besides.
  const double turn_s = std::hypot(k.eventSigma_s(), k.rep.sigma_s(motion::EventKind::Ascent) / k.m.slow_factor);
  const double place = 1.4 * k.wander(Landmark::Bar, off_t) / kOff_m;
  return Measured{ratio, ratio * std::hypot(turn_s / first_s, k.eventSigma_s() / then_s, place), touch_t};
}

Measure touchToLockoutShift(const RepLook& k) {
  const auto touch = k.place(Landmark::Bar, k.rep.bottom_t()), up = k.place(Landmark::Bar, k.rep.lockout_t());
  if (!touch || !up) return Absent{kHidden};
  constexpr double kTurned_m = 0.08;  // at an angle the way towards the camera looks like one along the lifter
  const double sigma =
      std::hypot(1.4 * k.wander(Landmark::Bar, k.rep.bottom_t()), (up->z - touch->z) * k.m.calibration.roll_sigma_rad,
                 std::hypot(0.002, kTurned_m * k.turnedAway()));
  return Measured{up->x - touch->x, sigma, k.rep.bottom_t()};
}

}  // namespace jib::lifts::press
