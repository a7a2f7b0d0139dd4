// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/bar_path.h"

#include <algorithm>
#include <cmath>

namespace jib::lifts::bar {
using tracing::Landmark;

Measure barToMidFootMean(const RepLook& k) {
  if (!k.feetSeen()) return Absent{kNoFeet};
  if (k.m.calibration.foot_from_above) return Absent{kFootFromAbove};
  double sum = 0, n = 0;
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& bar = k.m.path(Landmark::Bar).at[i]) {
      sum += bar->x;
      n += 1;
    }
  if (n < 1) return Absent{kHidden};
  return Measured{sum / n, k.m.calibration.bar_to_foot_sigma_m, k.rep.bottom_t()};
}

Measure barToMidFootMax(const RepLook& k) {
  if (!k.feetSeen()) return Absent{kNoFeet};
  if (k.m.calibration.foot_from_above) return Absent{kFootFromAbove};
  std::optional<Measured> most;
  for (std::size_t i = k.first(); i <= k.last(); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (bar && (!most || std::abs(bar->x) > std::abs(most->value)))
      most = Measured{bar->x, std::hypot(k.m.calibration.bar_to_foot_sigma_m, k.sigma(Landmark::Bar, k.m.times_s[i])),
                      k.m.times_s[i]};
  }
  if (!most) return Absent{kHidden};
  return *most;
}

Measure driftAtReversal(const RepLook& k) {
  const double t = k.riseTime(0.20);
  const auto low = k.place(Landmark::Bar, k.rep.bottom_t()), later = k.place(Landmark::Bar, t);
  if (!low || !later) return Absent{kHidden};
  // A roll of the camera turns some of the rise into drift.
  constexpr double kTurned_m = 0.02;
  const double sigma =
      std::hypot(std::sqrt(2.0) * k.wander(Landmark::Bar, t), (later->z - low->z) * k.m.calibration.roll_sigma_rad,
                 std::hypot(0.002, kTurned_m * k.turnedAway()));
  return Measured{later->x - low->x, sigma, t};
}

Measure pathMirror(const RepLook& k) {
  auto m = k.mirrored([&](double t) -> std::optional<double> {
    const auto bar = k.place(Landmark::Bar, t);
    return bar ? std::optional(bar->x) : std::nullopt;
  });
  if (!m) return Absent{kHidden};
  m->sigma = std::hypot(k.wander(Landmark::Bar, m->t_s), 0.002);
  return *m;
}

Measure barRange(const RepLook& k) {
  double low = 1e9, high = -1e9, t = k.rep.bottom_t();
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& bar = k.m.path(Landmark::Bar).at[i]) {
      low = std::min(low, bar->x);
      if (bar->x > high) {
        high = bar->x;
        t = k.m.times_s[i];
      }
    }
  if (high < low) return Absent{kHidden};
  const double sigma =
      std::hypot(k.wander(Landmark::Bar, t) * 1.4, k.rep.stroke_m * k.m.calibration.roll_sigma_rad, 0.002);
  return Measured{high - low, sigma, t};
}

Measure stroke(const RepLook& k) {
  return Measured{k.rep.stroke_m, std::hypot(0.003, k.rep.stroke_m * k.m.calibration.scale_sigma_rel),
                  k.rep.bottom_t()};
}

}  // namespace jib::lifts::bar
