// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/signals.h"

#include <algorithm>
#include <cmath>

#include "core/motion/rest.h"

namespace jib::motion {
namespace {

bool stillAt(const Motion& motion, std::size_t i, double still_mps) {
  const auto &up = motion.bar_vz_mps[i], &along = motion.bar_vx_mps[i];
  return up && std::abs(*up) < still_mps && (!along || std::abs(*along) < still_mps);
}

// When the bar, at rest in a stretch, had been so long enough: of its last rest there, or of its first.
std::optional<double> restedBy(const Motion& motion, const Stretch& in, bool last_rest, double still_mps) {
  std::optional<double> by;
  std::optional<std::size_t> since;
  for (std::size_t i = motion.frameAt(in.from_t); i < motion.times_s.size() && motion.times_s[i] <= in.to_t; ++i) {
    if (!stillAt(motion, i, still_mps)) {
      since.reset();
      continue;
    }
    if (!since) since = i;
    const double begun = motion.times_s[*since], enough = begun + kStill_s * motion.slow_factor;
    if (motion.times_s[i] >= enough && (!by || (last_rest && *by < begun))) by = enough;
  }
  return by;
}

}  // namespace

std::vector<SignalMoment> signalsOf(const std::vector<Rep>& reps, const Motion& motion, RepPattern pattern) {
  constexpr double kBefore_s = 4, kAfter_s = 3, kSettles_s = 0.15;
  std::vector<SignalMoment> signals;
  if (reps.empty() || motion.times_s.empty() || motion.bar_vz_mps.size() != motion.times_s.size()) return signals;
  const double still_mps = std::max(kStill_mps, stillnessOf(barHeight(motion)));
  const auto look = [&](SignalPlace place, const Stretch& in, bool last_rest) {
    if (const auto t = restedBy(motion, in, last_rest, still_mps)) signals.push_back({place, *t});
  };
  const double slow = motion.slow_factor;
  const bool down_first = pattern == RepPattern::DownFirst;
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const Rep& rep = reps[i];
    if (down_first && i == 0) look(SignalPlace::BeforeDescent, {rep.start_t() - kBefore_s * slow, rep.start_t()}, true);
    if (down_first) look(SignalPlace::AtTurn, {rep.bottom_t(), rep.ascent_t()}, false);
    const bool last = i + 1 == reps.size();
    if (rep.type == RepType::Miss || (down_first && !last)) continue;
    const double until =
        rep.when(EventKind::Lowering).value_or(last ? rep.lockout_t() + kAfter_s * slow : reps[i + 1].start_t());
    look(SignalPlace::AtTop, {rep.lockout_t() - kSettles_s * slow, until}, false);
  }
  return signals;
}

}  // namespace jib::motion
