// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/between_reps.h"

#include <cmath>
#include <vector>

#include "core/base/median.h"

namespace jib::lifts::between {
using motion::EventKind;
using tracing::Landmark;

namespace {

constexpr const char* kFirst = "First rep: nothing before it to compare.";

// The middle of where a landmark is along the floor for a moment up to a time.
std::optional<double> alongUntil(const RepLook& k, Landmark landmark, double t, double for_s) {
  std::vector<double> x;
  for (std::size_t i = k.m.frameAt(t - for_s * k.m.slow_factor); i <= k.m.frameAt(t); ++i)
    if (const auto& p = k.m.path(landmark).at[i]) x.push_back(p->x);
  return x.empty() ? std::nullopt : std::optional(median(std::move(x)));
}

}  // namespace

Measure restOnFloor(const RepLook& k) {
  if (!k.before) return Absent{kFirst};
  const auto down = k.before->when(EventKind::End);
  if (!down) return Absent{"The clip doesn't show when the bar came down."};
  const double ends_s = std::hypot(k.before->sigma_s(EventKind::End), k.rep.sigma_s(EventKind::LiftOff));
  return Measured{k.m.real_s(*down, k.rep.bottom_t()), std::hypot(1.4 * k.eventSigma_s(), ends_s / k.m.slow_factor),
                  k.rep.bottom_t()};
}

// The same bar in the same film: what is unsure of its place cancels, but for a camera that is moved between reps.
Measure startShift(const RepLook& k) {
  constexpr double kJustBefore_s = 0.1;
  if (!k.before) return Absent{kFirst};
  const double t = k.rep.bottom_t();
  const auto now = alongUntil(k, Landmark::Bar, t, kJustBefore_s),
             then = alongUntil(k, Landmark::Bar, k.before->bottom_t(), kJustBefore_s);
  if (!now || !then) return Absent{kHidden};
  constexpr double kFilm_m = 0.003;
  return Measured{*now - *then, std::hypot(1.4 * k.wander(Landmark::Bar, t), kFilm_m), t};
}

Measure shoulderShift(const RepLook& k) {
  constexpr double kReady_s = 0.3;
  if (!k.before) return Absent{kFirst};
  const double t = k.rep.start_t();
  const auto now = alongUntil(k, Landmark::Shoulder, t, kReady_s),
             then = alongUntil(k, Landmark::Shoulder, k.before->start_t(), kReady_s);
  if (!now || !then) return Absent{kHidden};
  constexpr double kSleeve_m = 0.008;  // cloth and arm pass over the joint
  return Measured{*now - *then, std::hypot(1.4 * k.wander(Landmark::Shoulder, t), kSleeve_m), t};
}

}  // namespace jib::lifts::between
