// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/squat_joints.h"

#include <algorithm>
#include <cmath>

namespace jib::lifts::squat {
using tracing::Landmark;

namespace {

constexpr double kStraight_deg = 170;
constexpr double kNearFinal_deg = 4;  // or this close to the joint's own final angle, for those who never reach 170
constexpr double kBegun_deg = 5;      // a joint has begun to bend

}  // namespace

Measure lockoutGap(const RepLook& k) {
  const auto straight = [&](auto angle) -> std::optional<double> {
    double final_deg = 0;
    for (std::size_t i = k.m.frameAt(k.rep.ascent_t()); i <= k.last(); ++i)
      if (const auto a = angle(k.m.angles[i])) final_deg = std::max(final_deg, *a);
    const double wanted = std::min(kStraight_deg, final_deg - kNearFinal_deg);
    for (std::size_t i = k.m.frameAt(k.rep.ascent_t()); i < k.last(); ++i) {
      const auto a = angle(k.m.angles[i]), b = angle(k.m.angles[i + 1]);
      if (a && b && *a < wanted && *b >= wanted)
        return k.m.times_s[i] + (k.m.times_s[i + 1] - k.m.times_s[i]) * (wanted - *a) / (*b - *a);
    }
    return std::nullopt;
  };
  const auto knees = straight([](const motion::Angles& a) { return a.knee_deg; });
  const auto hips = straight([](const motion::Angles& a) { return a.hip_deg; });
  if (!knees || !hips) return Absent{kHidden};
  return Measured{k.m.real_s(*knees, *hips), 2.5 * k.eventSigma_s() + 0.02, *hips};
}

Measure hipsBeforeKnees(const RepLook& k) {
  const auto begins = [&](auto angle) -> std::optional<double> {
    const auto still = angle(k.m.angles[k.first()]);
    for (std::size_t i = k.first(); still && i < k.m.frameAt(k.rep.bottom_t()); ++i) {
      const auto a = angle(k.m.angles[i]), b = angle(k.m.angles[i + 1]);
      if (a && b && *still - *a < kBegun_deg && *still - *b >= kBegun_deg)
        return k.m.times_s[i] + (k.m.times_s[i + 1] - k.m.times_s[i]) * (*still - kBegun_deg - *a) / (*b - *a);
    }
    return std::nullopt;
  };
  const auto hips = begins([](const motion::Angles& a) { return a.hip_deg; });
  const auto knees = begins([](const motion::Angles& a) { return a.knee_deg; });
  if (!hips || !knees) return Absent{kHidden};
  // Early in the descent a joint bends by some 60 degrees a second: what the angle wanders by is time.
  const double wander_s = k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, *knees, true) * 1.4 / 60;
  return Measured{k.m.real_s(*hips, *knees), std::hypot(wander_s, k.eventSigma_s()), std::min(*hips, *knees)};
}

}  // namespace jib::lifts::squat
