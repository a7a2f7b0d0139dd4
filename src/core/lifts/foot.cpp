// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/foot.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"

namespace jib::lifts::foot {
namespace {

using tracing::Landmark;

// By the shoe's own picture, against the frame the descent starts on: the middle of three looks, so that one wrong
// match is no lift. nullopt where the shoe was not found for most of the rep.
std::optional<Measured> watchedLift(const RepLook& k, std::optional<double> motion::ShoeRise::*end) {
  if (k.m.shoe.empty()) return std::nullopt;
  const auto stood = k.m.shoe[k.first()].*end;
  if (!stood) return std::nullopt;
  Measured most{0, 0, k.rep.bottom_t()};
  double seen = 0;
  for (std::size_t i = k.first() + 1; i < k.last(); ++i) {
    const auto &a = k.m.shoe[i - 1].*end, &b = k.m.shoe[i].*end, &c = k.m.shoe[i + 1].*end;
    if (!a || !b || !c) continue;
    seen += 1;
    const double rise = median({*a, *b, *c}) - *stood;
    if (rise > most.value) most = {rise, 0, k.m.times_s[i]};
  }
  if (seen < 0.7 * static_cast<double>(k.last() - k.first())) return std::nullopt;
  // A picture is found to a fraction of a pixel; where the shoe bends costs a share of the lift.
  constexpr double kFound_px = 0.3, kFound_m = 0.0012, kTips = 0.15;
  // A shoe seen from in front or behind tips towards the camera or away from it, and its picture hardly moves.
  constexpr double kTurned_m = 0.006;
  most.sigma = std::hypot(std::hypot(1.4 * kFound_px / std::max(1.0, k.m.calibration.pixels_per_metre), kFound_m),
                          kTips * most.value, kTurned_m * k.turnedAway());
  return most;
}

Measure footLift(const RepLook& k, Landmark end) {
  auto watched = watchedLift(k, end == Landmark::Heel ? &motion::ShoeRise::heel_m : &motion::ShoeRise::toe_m);
  if (watched) {
    watched->sigma = std::hypot(watched->sigma, slides_m(k));
    return *watched;
  }
  const auto start = k.place(end, k.rep.start_t());
  if (!start) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& p = k.m.path(end).at[i]; p && p->z - start->z > most.value)
      most = {p->z - start->z, 0, k.m.times_s[i]};
  // A shoe that tips by a centimetre or two hardly changes its picture: lifts of 2 cm were read as half of that and
  // less.
  most.sigma = std::hypot(std::sqrt(2.0) * k.wander(end, most.t_s), 0.002, std::min(0.012, 2 * most.value));
  most.sigma = std::hypot(most.sigma, slides_m(k));
  return most;
}

}  // namespace

double slides_m(const RepLook& k) {
  constexpr double kAsTraced_m = 0.015;  // by which a toe that stays put is seen to move
  std::vector<double> stood;
  const std::size_t first = k.first(), few = first + 5;
  for (std::size_t i = first; i <= few && i < k.m.times_s.size(); ++i)
    if (const auto& p = k.m.path(Landmark::Toe).at[i]) stood.push_back(p->x);
  if (stood.empty()) return 0;
  const double was = median(std::move(stood));
  double most = 0;
  for (std::size_t i = first; i <= k.last(); ++i)
    if (const auto& p = k.m.path(Landmark::Toe).at[i]) most = std::max(most, std::abs(p->x - was));
  return std::max(0.0, most - kAsTraced_m);
}

Measure heelLift(const RepLook& k) {
  return footLift(k, Landmark::Heel);
}

Measure toeLift(const RepLook& k) {
  return footLift(k, Landmark::Toe);
}

}  // namespace jib::lifts::foot
