// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/press_bar.h"

#include <algorithm>
#include <cmath>

namespace jib::lifts::press {
using tracing::Landmark;

// From where the bar came to rest to the lowest it was while it rested.
Measure sink(const RepLook& k) {
  if (k.rep.type != motion::RepType::Paused)
    return Absent{"The bar does not rest on the chest, so touch and sinking cannot be told apart."};
  const auto rest = k.place(Landmark::Bar, k.rep.bottom_t());
  if (!rest) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  for (std::size_t i = k.m.frameAt(k.rep.bottom_t()); i <= k.m.frameAt(k.rep.ascent_t()); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (bar && rest->z - bar->z > most.value) most = {rest->z - bar->z, 0, k.m.times_s[i]};
  }
  most.sigma = std::hypot(1.4 * k.wander(Landmark::Bar, most.t_s), 0.002);
  return most;
}

Measure touchToLockoutShift(const RepLook& k) {
  const auto touch = k.place(Landmark::Bar, k.rep.bottom_t()), up = k.place(Landmark::Bar, k.rep.lockout_t());
  if (!touch || !up) return Absent{kHidden};
  const double sigma = std::hypot(1.4 * k.wander(Landmark::Bar, k.rep.bottom_t()),
                                  (up->z - touch->z) * k.m.calibration.roll_sigma_rad, 0.002);
  return Measured{up->x - touch->x, sigma, k.rep.bottom_t()};
}

}  // namespace jib::lifts::press
