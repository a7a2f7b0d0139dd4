// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/set_up.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"

namespace jib::motion {
using tracing::Landmark;

namespace {

// The middle of three neighbours: one frame that found its match elsewhere is none.
std::optional<double> calm(const std::vector<std::optional<double>>& heights, std::size_t i) {
  std::vector<double> near;
  for (std::size_t k = i > 0 ? i - 1 : i; k <= std::min(i + 1, heights.size() - 1); ++k)
    if (heights[k]) near.push_back(*heights[k]);
  return near.size() < 2 ? std::nullopt : std::optional(median(std::move(near)));
}

}  // namespace

std::optional<HipsBeforeOff> hipsBeforeOff(const Motion& m, double liftoff_s) {
  constexpr double kLeast_s = 0.4;  // watched for less, a hip tells nothing of the set
  constexpr double kStillDown_m = 0.01, kRises_m = 0.01, kBegun_m = 0.003;
  if (m.hip_before_off_m.size() != m.times_s.size()) return std::nullopt;
  const std::size_t off = m.frameAt(liftoff_s);
  std::optional<std::size_t> first, lowest;
  double least = 1e9;
  std::optional<double> level;  // where it is when the plates leave
  for (std::size_t i = m.frameAt(liftoff_s - kSet_s * m.slow_factor); i <= off; ++i) {
    const auto z = calm(m.hip_before_off_m, i);
    if (!z) continue;
    if (!first) first = i;
    if (*z < least) {
      least = *z;
      lowest = i;
    }
    if (m.hip_before_off_m[i]) level = m.hip_before_off_m[i];
  }
  if (!lowest || !level || m.real_s(m.times_s[*first], liftoff_s) < kLeast_s) return std::nullopt;
  const double rise = std::max(0.0, *level - least);
  // Lost while it was still lower, frame by frame back: how low it was is not known.
  const bool whole = m.real_s(m.times_s[*first], liftoff_s) > 0.9 * kSet_s;
  if (!whole && *calm(m.hip_before_off_m, *first) < least + kStillDown_m / 2 && rise > kStillDown_m)
    return std::nullopt;
  HipsBeforeOff out{rise, m.times_s[*lowest], std::nullopt};
  if (rise < kRises_m) return out;
  std::size_t begins = off;
  while (begins > *lowest) {
    const auto z = calm(m.hip_before_off_m, begins);
    if (z && *z < least + kBegun_m) break;
    --begins;
  }
  out.begins_s = m.times_s[begins];
  return out;
}

std::optional<Event> handsOnBefore(const Motion& m, double from_s, double liftoff_s) {
  constexpr double kReaches_m = 0.06, kLooks_s = 0.3;
  const auto &shoulder = m.path(Landmark::Shoulder).at, &bar = m.path(Landmark::Bar).at;
  const std::size_t off = m.frameAt(liftoff_s);
  const auto apart = [&](std::size_t i) {
    return shoulder[i] && bar[i] ? std::optional(std::hypot(shoulder[i]->x - bar[i]->x, shoulder[i]->z - bar[i]->z))
                                 : std::nullopt;
  };
  const auto arm = apart(off);
  if (!arm) return std::nullopt;
  const std::size_t from = m.frameAt(from_s);
  std::size_t i = off;
  while (i > from) {
    const auto before = apart(i - 1);
    if (!before) return std::nullopt;
    if (*before > *arm + kReaches_m) break;
    --i;
  }
  if (i == from) return std::nullopt;
  return Event{EventKind::HandsOn, m.times_s[i], kLooks_s * m.slow_factor};
}

}  // namespace jib::motion
