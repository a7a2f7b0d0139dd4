// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/pull_bar.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/base/median.h"

namespace jib::lifts::pull {
using motion::EventKind;
using tracing::Landmark;

namespace {

constexpr double kRolls_mps = 0.05;    // along the floor; slower is the scatter of the trace
constexpr double kStalled_mps = 0.05;  // upwards
constexpr double kStalledSigma_mps = 0.015;
constexpr double kSurelyStill_s = 1.0;  // a clip that begins with the bar still for so long leaves nothing open
constexpr double kUnderWay = 0.10, kNearlyUp = 0.93;  // shares of the rise a stall can lie between
constexpr const char* kCutShort = "The clip ends before the bar is down again; film until the plates are on the floor.";

// Real seconds between two shares of the rise in which the bar is slower than a speed, and the middle of them.
struct Slow {
  double s = 0, t = 0;
};
Slow slowerThan(const RepLook& k, double mps) {
  Slow slow;
  const std::size_t from = k.m.frameAt(k.riseTime(kUnderWay)), to = k.m.frameAt(k.riseTime(kNearlyUp));
  double sum = 0;
  for (std::size_t i = from; i < to; ++i) {
    const auto& v = k.m.bar_vz_mps[i];
    if (!v || *v >= mps) continue;
    const double s = k.m.real_s(k.m.times_s[i], k.m.times_s[i + 1]);
    slow.s += s;
    sum += s * k.m.times_s[i];
  }
  slow.t = slow.s > 0 ? sum / slow.s : k.riseTime(0.5);
  return slow;
}

// Across the picture, beside everything else: seen at an angle the outline of a stack strays with what is behind it.
double strayAtAnAngle_m(const RepLook& k) {
  constexpr double kSquare_m = 0.002, kTurned_m = 0.03;
  return std::hypot(kSquare_m, kTurned_m * k.turnedAway());
}

// Whether the bar travels about a frame: between the middles of its places before and after it. Speed frame by frame
// would be the hand on the camera, and the scatter of a plate seen at an angle.
bool rolls(const RepLook& k, std::size_t frame, double mps) {
  constexpr double kHalf_s = 0.12;
  std::vector<double> x[2], z[2];
  double t[2] = {0, 0};
  const double reach = kHalf_s * k.m.slow_factor, now = k.m.times_s[frame];
  for (std::size_t i = k.m.frameAt(now - reach); i <= k.m.frameAt(now + reach); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    const int side = k.m.times_s[i] < now ? 0 : 1;
    if (!bar) continue;
    x[side].push_back(bar->x);
    z[side].push_back(bar->z);
    t[side] += k.m.times_s[i];
  }
  if (x[0].empty() || x[1].empty()) return false;
  const double apart_s = k.m.real_s(t[0] / static_cast<double>(x[0].size()), t[1] / static_cast<double>(x[1].size()));
  const double way = std::hypot(median(x[1]) - median(x[0]), median(z[1]) - median(z[0]));
  return way > mps * apart_s;
}

}  // namespace

Measure stillBeforeLiftOff(const RepLook& k) {
  const double off_t = k.rep.bottom_t();
  std::size_t last = k.m.frameAt(off_t);
  // The last frames before lift-off belong to it: the filter smears the start of the pull.
  constexpr double kSmear_s = 0.1;
  while (last > 0 && k.m.real_s(k.m.times_s[last], off_t) < kSmear_s) --last;
  // Where it is not known when the plates left, it is not known whether the bar lay still until then.
  const double left_s = k.rep.sigma_s(motion::EventKind::LiftOff) / k.m.slow_factor;
  if (rolls(k, last, kRolls_mps)) return Measured{0, std::hypot(kSmear_s / 2, left_s), off_t};
  const auto stillFor = [&](double mps) {
    std::size_t i = last;
    while (i > 0 && !rolls(k, i, mps)) --i;
    return std::pair(k.m.real_s(k.m.times_s[i], off_t), i == 0);
  };
  const auto [still, from_start] = stillFor(kRolls_mps);
  if (from_start && still < kSurelyStill_s) return Absent{"The clip begins just before the pull."};
  // Where a little more or less speed would tell another time, that is how unsure it is.
  constexpr double kMore = 1.5;
  const double most = stillFor(kRolls_mps * kMore).first, least = stillFor(kRolls_mps / kMore).first;
  return Measured{still, std::hypot(std::hypot(2 * k.eventSigma_s(), left_s), 0.05, (most - least) / 2), off_t};
}

Measure stall(const RepLook& k) {
  const Slow slow = slowerThan(k, kStalled_mps);
  const double most = slowerThan(k, kStalled_mps + kStalledSigma_mps).s,
               least = slowerThan(k, kStalled_mps - kStalledSigma_mps).s;
  return Measured{slow.s, std::hypot((most - least) / 2, 2 * k.eventSigma_s()), slow.t};
}

Measure dip(const RepLook& k) {
  Measured most{0, 0, k.rep.bottom_t()};
  double highest = -1e9;
  for (std::size_t i = k.m.frameAt(k.rep.ascent_t()); i <= k.last(); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (!bar) continue;
    highest = std::max(highest, bar->z);
    if (highest - bar->z > most.value) most = {highest - bar->z, 0, k.m.times_s[i]};
  }
  most.sigma = std::hypot(1.4 * k.wander(Landmark::Bar, most.t_s), 0.002);
  return most;
}

Measure loop(const RepLook& k) {
  const auto low = k.place(Landmark::Bar, k.rep.ascent_t()), high = k.place(Landmark::Bar, k.rep.lockout_t());
  if (!low || !high || high->z - low->z < 0.1) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  for (std::size_t i = k.m.frameAt(k.rep.ascent_t()); i <= k.last(); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (!bar) continue;
    const double share = (bar->z - low->z) / (high->z - low->z);
    const double ahead = bar->x - (low->x + share * (high->x - low->x));
    if (ahead > most.value) most = {ahead, 0, k.m.times_s[i]};
  }
  // Both ends of the line and the bar err; a roll of the camera turns line and bar alike.
  most.sigma = std::hypot(1.5 * k.wander(Landmark::Bar, most.t_s), strayAtAnAngle_m(k));
  return most;
}

Measure forwardDrift(const RepLook& k) {
  const auto low = k.place(Landmark::Bar, k.rep.ascent_t());
  if (!low) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  double risen = 0;
  for (std::size_t i = k.m.frameAt(k.rep.ascent_t()); i <= k.last(); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (!bar || bar->x - low->x <= most.value) continue;
    most = {bar->x - low->x, 0, k.m.times_s[i]};
    risen = bar->z - low->z;
  }
  most.sigma =
      std::hypot(1.4 * k.wander(Landmark::Bar, most.t_s), risen * k.m.calibration.roll_sigma_rad, strayAtAnAngle_m(k));
  return most;
}

Measure lowering(const RepLook& k) {
  const auto from = k.rep.when(EventKind::Lowering), to = k.rep.when(EventKind::End);
  if (!from || !to) return Absent{kCutShort};
  const double ends_s = std::hypot(k.rep.sigma_s(EventKind::Lowering), k.rep.sigma_s(EventKind::End));
  return Measured{k.m.real_s(*from, *to), std::hypot(1.4 * k.eventSigma_s(), ends_s / k.m.slow_factor), *from};
}

Measure peakLowering(const RepLook& k) {
  const auto from = k.rep.when(EventKind::Lowering), to = k.rep.when(EventKind::End);
  if (!from || !to) return Absent{kCutShort};
  std::optional<Measured> most;
  for (std::size_t i = k.m.frameAt(*from); i <= k.m.frameAt(*to); ++i)
    if (const auto& v = k.m.bar_vz_mps[i]; v && (!most || -*v > most->value))
      most = Measured{-*v, k.speedSigma_mps(*v), k.m.times_s[i]};
  if (!most) return Absent{kHidden};
  return *most;
}

// A slow floor and a slow top mean different things: mean speed of the upper half of the rise over that of the lower.
Measure topOverFloorSpeed(const RepLook& k) {
  const double half_t = k.riseTime(0.5);
  const double low_s = k.m.real_s(k.rep.ascent_t(), half_t), high_s = k.m.real_s(half_t, k.rep.lockout_t());
  if (low_s <= 0 || high_s <= 0) return Absent{kHidden};
  const double ratio = low_s / high_s;
  const double lockout_s = std::hypot(k.rep.sigma_s(EventKind::Lockout) / k.m.slow_factor, 2 * k.eventSigma_s());
  const double off_s = std::hypot(k.rep.sigma_s(EventKind::LiftOff) / k.m.slow_factor, 2 * k.eventSigma_s());
  return Measured{ratio, ratio * std::hypot(off_s / low_s, lockout_s / high_s), half_t};
}

}  // namespace jib::lifts::pull
