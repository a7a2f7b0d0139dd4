// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/bar_on_floor.h"

#include <algorithm>
#include <cmath>

namespace jib::motion {
namespace {

constexpr double kBeforeOff_s = 0.3, kAfterDown_s = 0.5;  // plates leave gently, and bounce
constexpr double kLies_s = 4;                             // no further from a rep: the bar is loaded and rolled about
constexpr std::size_t kFewest = 8;
constexpr double kTenths_sigma = 2.56;  // between the lowest and the highest tenth of a normal distribution, in σ

// When the bar lies on the floor for sure.
std::vector<Stretch> lyingIn(const Motion& m, const std::vector<Rep>& reps) {
  std::vector<Stretch> lies;
  double from_t = m.times_s.front(), rests_since = -1e9;
  for (const Rep& rep : reps) {
    const auto off = rep.when(EventKind::LiftOff);
    if (!off) continue;
    lies.push_back({std::max(from_t, *off - kLies_s * m.slow_factor), *off - kBeforeOff_s * m.slow_factor});
    const auto down = rep.when(EventKind::End);
    // A rep that was filmed to its end no further, or dropped out of sight: where the bar lies then nobody knows.
    rests_since = down ? *down + kAfterDown_s * m.slow_factor : 1e9;
    from_t = rests_since;
  }
  if (rests_since > -1e9)
    lies.push_back({rests_since, std::min(m.times_s.back(), rests_since + kLies_s * m.slow_factor)});
  return lies;
}

// By what lies between the lowest and the highest tenth: a slow drift counts, a bounce or a frame that strayed does
// not.
double sigmaOf(std::vector<double> values) {
  const auto at = [&](double share) {
    const auto place = values.begin() + std::lround(share * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), place, values.end());
    return *place;
  };
  const double low = at(0.1), high = at(0.9);
  return (high - low) / kTenths_sigma;
}

}  // namespace

std::optional<BarOnFloor> barOnFloor(const Motion& m, const std::vector<Rep>& reps) {
  if (m.times_s.empty()) return std::nullopt;
  std::vector<double> heights, speeds;
  for (const Stretch& lies : lyingIn(m, reps))
    for (std::size_t i = 0; i < m.times_s.size(); ++i) {
      if (!lies.holds(m.times_s[i])) continue;
      if (const auto& bar = m.path(tracing::Landmark::Bar).at[i]) heights.push_back(bar->z);
      if (const auto& v = m.bar_vz_mps[i]) speeds.push_back(*v);
    }
  if (heights.size() < kFewest || speeds.size() < kFewest) return std::nullopt;
  return BarOnFloor{sigmaOf(std::move(heights)), sigmaOf(std::move(speeds))};
}

void holdAgainstFloor(Motion& m, const std::vector<Rep>& reps) {
  const auto floor = barOnFloor(m, reps);
  if (!floor) return;
  Path& bar = m.paths[tracing::at(tracing::Landmark::Bar)];
  for (std::vector<double>* sigma : {&bar.sigma_m, &bar.wander_m})
    for (double& one : *sigma) one = std::hypot(one, floor->height_m);
  m.calibration.bar_speed_sigma_mps = floor->speed_mps;
}

double scatter(std::vector<double> heights_m) {
  return heights_m.size() < kFewest ? 0 : sigmaOf(std::move(heights_m));
}

}  // namespace jib::motion
