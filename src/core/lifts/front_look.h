// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "core/base/median.h"
#include "core/lifts/rep_look.h"

namespace jib::lifts::front {

// The questions that measures of both sides ask of a rep.

inline constexpr double kStands_s = 0.4;      // so long before a rep the lifter waits as at its start
inline constexpr double kFewest_share = 0.6;  // of a rep's frames

inline const motion::Path& path(const RepLook& k, tracing::BodySide side, tracing::Landmark l) {
  return k.m.front->path(side, l);
}

struct Both {
  MetrePoint left, right;
  double sigma_m, wander_m;  // of either
};
inline std::optional<Both> bothAt(const RepLook& k, tracing::Landmark l, std::size_t i) {
  const motion::Path &a = path(k, tracing::BodySide::Left, l), &b = path(k, tracing::BodySide::Right, l);
  if (!a.at[i] || !b.at[i]) return std::nullopt;
  return Both{*a.at[i], *b.at[i], std::max(a.sigma_m[i], b.sigma_m[i]), std::max(a.wander_m[i], b.wander_m[i])};
}

// The middle of a value over the moments the lifter stands before a rep.
template <class Value>
std::optional<double> standing(const RepLook& k, Value value) {
  std::vector<double> all;
  const double t = k.rep.start_t();
  for (std::size_t i = k.m.frameAt(t - kStands_s * k.m.slow_factor); i <= k.m.frameAt(t); ++i)
    if (const std::optional<double> v = value(i)) all.push_back(*v);
  return all.empty() ? std::nullopt : std::optional(median(all));
}

// Where a value is largest over a rep: the middle of three frames, so that one jump of the network is nothing.
template <class Value>
std::optional<Measured> largest(const RepLook& k, Value value) {
  std::optional<Measured> most;
  double seen = 0;
  for (std::size_t i = k.first() + 1; i < k.last(); ++i) {
    const std::optional<double> a = value(i - 1), b = value(i), c = value(i + 1);
    if (!a || !b || !c) continue;
    seen += 1;
    const double v = median({*a, *b, *c});
    if (!most || v > most->value) most = Measured{v, 0, k.m.times_s[i]};
  }
  if (seen < kFewest_share * static_cast<double>(k.last() - k.first())) return std::nullopt;
  return most;
}

// Seen from the front or the rear a bar whose ends are not made out is where the hands are. Of hands at the floor
// before knees and plates, or behind a back, that tells that there was a rep and little of how high and how fast.
inline bool onlyByHands(const RepLook& k) {
  if (!k.m.front) return false;
  const auto& end = path(k, tracing::BodySide::Left, tracing::Landmark::Bar).at;
  return std::none_of(end.begin(), end.end(), [](const auto& p) { return p.has_value(); });
}

// What feet that stand tell of the film: as far as they seem to wander sideways in a rep, beyond what they do on a good
// one, everything else that the network sees there wanders too. 1 σ of a joint, metres; 0 where the feet are not seen.
inline double unrest_m(const RepLook& k) {
  constexpr double kGood_m = 0.012, kOfFeet = 1.1;
  double most = 0;
  for (const tracing::BodySide side : {tracing::BodySide::Left, tracing::BodySide::Right}) {
    std::vector<double> x;
    for (std::size_t i = k.first(); i <= k.last(); ++i)
      if (const auto& ankle = path(k, side, tracing::Landmark::Ankle).at[i]) x.push_back(ankle->x);
    if (x.size() < 5) continue;
    std::sort(x.begin(), x.end());
    const std::size_t off = x.size() / 33;
    most = std::max(most, x[x.size() - 1 - off] - x[off]);
  }
  // Heights that are the hands' hold moments of the way down and up against each other that do not belong together.
  constexpr double kByHands_m = 0.02;
  return std::hypot(kOfFeet * std::max(0.0, most - kGood_m), onlyByHands(k) ? kByHands_m : 0.0);
}

}  // namespace jib::lifts::front
