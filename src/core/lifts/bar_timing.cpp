// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/bar_timing.h"

#include <algorithm>
#include <cmath>

#include "core/motion/low_pass.h"

namespace jib::lifts::bar {
using motion::EventKind;
using tracing::Landmark;

namespace {

constexpr double kLongestGap_s = 0.12;
constexpr double kOnItsWay_mps = 0.10;  // a bar that sways on a standing lifter is slower
constexpr double kLastCentimetre_s = 0.3;
constexpr double kSettle_s = 0.08;  // by which the end of a walk-out is known
constexpr double kTurning_mps = 0.10;
constexpr double kHardlyFaster_mps = 0.03;
constexpr double kHeldLongEnough_s = 1.0;
constexpr double kGravity_mps2 = 9.81;

Measure peakSpeed(const RepLook& k, double from_t, double to_t, double sign) {
  std::optional<Measured> most;
  // The fastest moment may lie in a gap.
  double seen_t = from_t;
  for (std::size_t i = k.m.frameAt(from_t); i <= k.m.frameAt(to_t); ++i) {
    if (k.m.bar_vz_mps[i]) seen_t = k.m.times_s[i];
    if (k.m.times_s[i] - seen_t > kLongestGap_s * k.m.slow_factor) return Absent{kGap};
  }
  for (std::size_t i = k.m.frameAt(from_t); i <= k.m.frameAt(to_t); ++i)
    if (const auto& v = k.m.bar_vz_mps[i]; v && (!most || sign * *v > most->value))
      most = Measured{sign * *v, k.speedSigma_mps(*v), k.m.times_s[i]};
  if (!most) return Absent{kHidden};
  return *most;
}

}  // namespace

Measure descent(const RepLook& k) {
  const double ends = std::hypot(k.rep.sigma_s(EventKind::Start), k.rep.sigma_s(EventKind::Bottom)) / k.m.slow_factor;
  return Measured{k.m.real_s(k.rep.start_t(), k.rep.bottom_t()), std::hypot(1.4 * k.eventSigma_s(), ends),
                  k.rep.bottom_t()};
}

Measure pause(const RepLook& k) {
  // A bar comes to rest and leaves it gently; the filter smears both.
  constexpr double kSmear_s = 0.025;
  const double edges = std::hypot(k.rep.sigma_s(EventKind::Bottom), k.rep.sigma_s(EventKind::Ascent)) / k.m.slow_factor;
  return Measured{k.m.real_s(k.rep.bottom_t(), k.rep.ascent_t()), std::hypot(1.4 * k.eventSigma_s(), edges, kSmear_s),
                  k.rep.bottom_t()};
}

// The end of the ascent is a slow creep; the filter smears it by about a frame.
Measure ascent(const RepLook& k) {
  return Measured{k.m.real_s(k.rep.ascent_t(), k.rep.lockout_t()), k.ascentSigma_s(), k.rep.lockout_t()};
}

Measure peakDescent(const RepLook& k) {
  return peakSpeed(k, k.rep.start_t(), k.rep.bottom_t(), -1);
}

Measure peakAscent(const RepLook& k) {
  return peakSpeed(k, k.rep.ascent_t(), k.rep.lockout_t(), 1);
}

Measure meanAscent(const RepLook& k) {
  const auto low = k.place(Landmark::Bar, k.rep.ascent_t()), high = k.place(Landmark::Bar, k.rep.lockout_t());
  const double time = k.m.real_s(k.rep.ascent_t(), k.rep.lockout_t());
  if (!low || !high || time <= 0) return Absent{kHidden};
  const double v = (high->z - low->z) / time;
  return Measured{v, v * std::hypot(k.m.calibration.scale_sigma_rel, k.ascentSigma_s() / time), k.rep.lockout_t()};
}

Measure stickingHeight(const RepLook& k) {
  if (!k.rep.when(EventKind::Sticking)) return Absent{"The bar does not slow down on the way up."};
  const auto low = k.place(Landmark::Bar, k.rep.ascent_t()), high = k.place(Landmark::Bar, k.rep.lockout_t()),
             at = k.place(Landmark::Bar, *k.rep.when(EventKind::Sticking));
  if (!low || !high || !at) return Absent{kHidden};
  const auto pct = [&](double z) { return 100 * (z - low->z) / (high->z - low->z); };
  // The dip is flat: wherever the bar is hardly faster, the slowest moment may have been.
  const double slowest = k.m.speedAt(*k.rep.when(EventKind::Sticking)).value_or(0);
  double most = at->z, least = at->z;
  const double reach_s = 0.3 * k.m.slow_factor;
  for (std::size_t i = k.m.frameAt(*k.rep.when(EventKind::Sticking) - reach_s);
       i <= k.m.frameAt(*k.rep.when(EventKind::Sticking) + reach_s); ++i) {
    const auto& v = k.m.bar_vz_mps[i];
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (!v || !bar || *v > slowest + kHardlyFaster_mps) continue;
    most = std::max(most, bar->z);
    least = std::min(least, bar->z);
  }
  return Measured{pct(at->z), std::max(4.0, (pct(most) - pct(least)) / 2), *k.rep.when(EventKind::Sticking)};
}

Measure standsStill(const RepLook& k) {
  // Back from the start to the last moment the bar was still on its way: walked out, or locked out.
  const auto moves = [&](std::size_t i) {
    return std::hypot(k.m.bar_vx_mps[i].value_or(0), k.m.bar_vz_mps[i].value_or(0)) > kOnItsWay_mps;
  };
  std::size_t i = k.first();
  while (i > 0 && moves(i)) --i;
  while (i > 0 && !moves(i)) --i;
  if (i == 0) return Absent{"The clip begins with the athlete already standing."};
  return Measured{k.m.real_s(k.m.times_s[i], k.rep.start_t()), kSettle_s, k.rep.start_t()};
}

Measure brakingHeight(const RepLook& k) {
  const Measure fastest = peakDescent(k);
  const auto* m = std::get_if<Measured>(&fastest);
  const auto high = k.place(Landmark::Bar, k.rep.start_t()), low = k.place(Landmark::Bar, k.rep.bottom_t());
  if (!m || !high || !low) return Absent{kGap};
  const auto at = k.place(Landmark::Bar, m->t_s);
  const auto pct = [&](double z) { return 100 * (z - low->z) / (high->z - low->z); };
  // The speed is flat about its peak: anywhere it is within 2 % of it, or as near as it is known, braking may have
  // begun.
  const double nearly = std::min(0.98 * m->value, m->value - m->sigma);
  double most = at->z, least = at->z;
  for (std::size_t i = k.first(); i <= k.m.frameAt(k.rep.bottom_t()); ++i) {
    const auto& v = k.m.bar_vz_mps[i];
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (!v || !bar || -*v < nearly) continue;
    most = std::max(most, bar->z);
    least = std::min(least, bar->z);
  }
  return Measured{pct(at->z), std::max(2.0, (pct(most) - pct(least)) / 2), m->t_s};
}

namespace {

// 1 σ of what tracing and a shaking hand make of a bar that is held still, m/s²: from the second before it goes down.
double stillAcceleration_mps2(const RepLook& k) {
  constexpr double kBefore_s = 1.0, kUnknown_mps2 = 0.5;
  constexpr std::size_t kFewest = 6;
  const std::size_t from = k.m.frameAt(k.rep.start_t() - kBefore_s * k.m.slow_factor), to = k.first();
  if (to < from + kFewest) return kUnknown_mps2;
  const auto span = [&](const auto& all) {
    return std::vector(all.begin() + static_cast<long>(from), all.begin() + static_cast<long>(to));
  };
  double squares = 0;
  std::size_t n = 0;
  for (const auto& rate : motion::rateOf(span(k.m.times_s), span(k.m.bar_vz_mps)))
    if (rate) {
      squares += *rate * *rate;
      ++n;
    }
  return n < kFewest ? kUnknown_mps2 : k.m.slow_factor * std::sqrt(squares / static_cast<double>(n));
}

}  // namespace

Measure peakDrop(const RepLook& k) {
  std::vector<std::optional<double>> v(k.m.bar_vz_mps.begin() + static_cast<long>(k.first()),
                                       k.m.bar_vz_mps.begin() + static_cast<long>(k.m.frameAt(k.rep.bottom_t())) + 1);
  const std::vector<double> t(k.m.times_s.begin() + static_cast<long>(k.first()),
                              k.m.times_s.begin() + static_cast<long>(k.first() + v.size()));
  std::optional<Measured> most;
  // The largest of many is as much noise as motion.
  constexpr double kLargestOfMany = 1.5;
  const double still_g = kLargestOfMany * stillAcceleration_mps2(k) / kGravity_mps2;
  const auto rate = motion::rateOf(t, v);
  for (std::size_t i = 0; i < rate.size(); ++i) {
    if (!rate[i]) continue;
    const double g = -*rate[i] * k.m.slow_factor / kGravity_mps2;
    if (!most || g > most->value) most = Measured{g, std::hypot(0.02, 0.1 * g, still_g), t[i]};
  }
  if (!most) return Absent{kGap};
  return *most;
}

Measure reversal(const RepLook& k) {
  // Where the bar's speed falls below the threshold before the bottom, and rises above it after, between frames.
  const auto crossing = [&](std::size_t from, int step) -> std::optional<double> {
    for (std::size_t i = from; i > 0 && i + 1 < k.m.times_s.size(); i += static_cast<std::size_t>(step)) {
      const std::size_t j = i + static_cast<std::size_t>(step);
      const auto &a = k.m.bar_vz_mps[i], &b = k.m.bar_vz_mps[j];
      if (!a || !b) return std::nullopt;
      if (std::abs(*a) <= kTurning_mps && std::abs(*b) > kTurning_mps)
        return k.m.times_s[i] +
               (k.m.times_s[j] - k.m.times_s[i]) * (kTurning_mps - std::abs(*a)) / (std::abs(*b) - std::abs(*a));
    }
    return std::nullopt;
  };
  const auto in = crossing(k.m.frameAt(k.rep.bottom_t()), -1), out = crossing(k.m.frameAt(k.rep.ascent_t()), 1);
  if (!in || !out) return Absent{kGap};
  return Measured{k.m.real_s(*in, *out), 1.4 * k.eventSigma_s(), k.rep.bottom_t()};
}

Measure lockoutHold(const RepLook& k) {
  const auto moves = [&](std::size_t i) {
    return std::hypot(k.m.bar_vz_mps[i].value_or(0), k.m.bar_vx_mps[i].value_or(0)) > kOnItsWay_mps;
  };
  std::size_t i = k.last();
  // The last centimetre is still on its way up.
  while (i + 1 < k.m.times_s.size() && moves(i) && k.m.real_s(k.rep.lockout_t(), k.m.times_s[i]) < kLastCentimetre_s)
    ++i;
  while (i + 1 < k.m.times_s.size() && !moves(i)) ++i;
  // A bar that is still within a centimetre of lockout afterwards has not left it: what moved was what the trace held.
  if (const auto leaves = k.rep.when(EventKind::Lowering)) i = std::max(i, k.m.frameAt(*leaves));
  const double held = k.m.real_s(k.rep.lockout_t(), k.m.times_s[i]);
  if (i + 1 == k.m.times_s.size() && held < kHeldLongEnough_s)
    return Absent{"The clip ends before the bar is moved on; film until it is racked."};
  // A hold is told by its last and first centimetre, and seen at an angle a plate's outline strays by more than that.
  constexpr double kTurned_s = 0.25;
  const double ends = std::hypot(k.rep.sigma_s(EventKind::Lockout), k.rep.sigma_s(EventKind::Lowering));
  return Measured{held, std::hypot(ends / k.m.slow_factor, 2 * k.eventSigma_s(), kTurned_s * k.turnedAway()),
                  k.rep.lockout_t()};
}

}  // namespace jib::lifts::bar
