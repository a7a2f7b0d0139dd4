// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/bar_height.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::motion {
namespace {

using tracing::Landmark;

constexpr double kBarAlone_s = 0.06;        // by which the joints go on extending when the bar is already up
constexpr double kSurelyKnown_deg = 4;      // an angle that wanders by less tells a moment
constexpr double kStraightening_deg = 2.0;  // joints within this of their final angle have stopped extending

}  // namespace

BarHeight barHeight(const Motion& m) {
  BarHeight s;
  s.slow = m.slow_factor;
  const auto& bar = m.path(Landmark::Bar).at;
  for (std::size_t i = 0; i < std::min(m.times_s.size(), bar.size()); ++i)
    if (const auto& p = bar[i]) {
      s.t.push_back(m.times_s[i]);
      s.z.push_back(p->z);
    }
  return s;
}

double BarHeight::speed_mps(std::size_t i) const {
  const std::size_t a = i > 0 ? i - 1 : i, b = i + 1 < t.size() ? i + 1 : i;
  return a == b ? 0 : (z[b] - z[a]) / (t[b] - t[a]) * slow;
}

double BarHeight::crossing(std::size_t i, double level) const {
  const double dz = z[i + 1] - z[i];
  if (std::abs(dz) < 1e-9) return t[i];
  return t[i] + (t[i + 1] - t[i]) * std::clamp((level - z[i]) / dz, 0.0, 1.0);
}

double restingHeight(const BarHeight& s, std::size_t edge, int step) {
  std::vector<double> still;
  for (std::size_t i = edge; i < s.t.size() && std::abs(s.t[i] - s.t[edge]) < 0.5 * s.slow;
       i += static_cast<std::size_t>(step)) {
    if (std::abs(s.speed_mps(i)) < kBarStill_mps) still.push_back(s.z[i]);
    if (i == 0) break;
  }
  if (still.size() < 3) return s.z[edge];
  std::nth_element(still.begin(), still.begin() + static_cast<long>(still.size() / 2), still.end());
  return still[still.size() / 2];
}

double straightWithin_deg(const Motion& m, std::size_t frame) {
  const auto wander = [&](tracing::Landmark l) { return m.path(l).wander_m[frame]; };
  constexpr double kLimb_m = 0.42;
  return std::max(kStraightening_deg,
                  1.64 * degrees(std::hypot(wander(tracing::Landmark::Ankle), 2 * wander(tracing::Landmark::Knee),
                                            wander(tracing::Landmark::Hip)) /
                                 kLimb_m));
}

bool jointsSeen(const Motion& m, double t) {
  const Angles& a = m.angles[m.frameAt(t)];
  return a.knee_deg && a.hip_deg;
}

double straightTime(const Motion& m, double from_t, double to_t) {
  // The joints' final angles, and the first moment both are within reach of them.
  std::vector<double> knee, hip;
  const std::size_t first = m.frameAt(from_t), last = m.frameAt(to_t);
  for (std::size_t i = first; i <= last; ++i) {
    if (m.angles[i].knee_deg) knee.push_back(*m.angles[i].knee_deg);
    if (m.angles[i].hip_deg) hip.push_back(*m.angles[i].hip_deg);
  }
  if (knee.empty() || hip.empty()) return from_t;
  // The upper quarter: the most would be one frame's chance.
  const auto final = [](std::vector<double>& v) {
    const auto place = v.begin() + static_cast<long>(v.size() * 3 / 4);
    std::nth_element(v.begin(), place, v.end());
    return *place;
  };
  const double knee_deg = final(knee), hip_deg = final(hip), within = straightWithin_deg(m, first);
  for (std::size_t i = first; i <= last; ++i) {
    const Angles& a = m.angles[i];
    if (a.knee_deg && a.hip_deg && *a.knee_deg > knee_deg - within && *a.hip_deg > hip_deg - within)
      return m.times_s[i];
  }
  return to_t;
}

Event lockoutFrom(const Motion& m, double up_t, double limit_t) {
  double t = std::max(up_t, straightTime(m, up_t, std::max(limit_t, up_t)));
  const double undecided = t - up_t;
  const bool wander = straightWithin_deg(m, m.frameAt(up_t)) > kSurelyKnown_deg;
  if (wander) t = up_t + undecided / 2;
  return {EventKind::Lockout, t,
          std::max((wander ? 0.3 : 0.7) * undecided, jointsSeen(m, up_t) ? 0.0 : kBarAlone_s * m.slow_factor)};
}

std::optional<double> stickingTime(const BarHeight& s, double from_t, double to_t) {
  // A bar that leaves the bottom gropes upwards for some frames; what slows down there was not under way yet.
  constexpr double kUnderWay = 0.25, kSlower = 0.1;
  double fastest = 0;
  for (std::size_t i = 0; i < s.t.size(); ++i)
    if (s.t[i] >= from_t && s.t[i] <= to_t) fastest = std::max(fastest, s.speed_mps(i));
  double peak = 0, dip = 0, dip_t = 0;
  bool slowing = false;
  for (std::size_t i = 0; i < s.t.size(); ++i) {
    if (s.t[i] < from_t || s.t[i] > to_t) continue;
    const double v = s.speed_mps(i);
    // Faster again by a tenth: what lay between was the sticking region.
    if (slowing && v > dip + kSlower * peak) return dip_t;
    if (v >= peak) {
      peak = v;
      slowing = false;
    } else if (peak >= kUnderWay * fastest && (!slowing || v < dip)) {
      slowing = true;
      dip = v;
      dip_t = s.t[i];
    }
  }
  return std::nullopt;
}

}  // namespace jib::motion
