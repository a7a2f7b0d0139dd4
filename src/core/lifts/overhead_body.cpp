// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/overhead_body.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"

namespace jib::lifts::overhead {
namespace {

using tracing::Landmark;

constexpr double kReady_s = 0.8;                   // so long before the bar leaves the lifter is set, or dips
constexpr double kPassing = 0.2, kUnderWay = 0.9;  // shares of the way up between which the torso makes room
constexpr double kDriven = 0.3;                    // share of the way up by which legs have done what they do

// Whether a full-sized plate leaves the shoulder in sight; behind it the network guesses.
bool shoulderInSight(const RepLook& k, std::size_t i) {
  constexpr double kRim_m = 0.22;
  const auto &bar = k.m.path(Landmark::Bar).at[i], &shoulder = k.m.path(Landmark::Shoulder).at[i];
  return bar && shoulder && length(*bar - *shoulder) > kRim_m;
}

// The torso's lean where it is seen, the middle of three frames.
std::optional<double> leanAt(const RepLook& k, std::size_t i) {
  if (i == 0 || i + 1 >= k.m.angles.size() || !shoulderInSight(k, i)) return std::nullopt;
  const auto &a = k.m.angles[i - 1].torso_deg, &b = k.m.angles[i].torso_deg, &c = k.m.angles[i + 1].torso_deg;
  return a && b && c ? std::optional(median({*a, *b, *c})) : std::nullopt;
}

struct Lean {
  double deg, t_s;
};
std::optional<Lean> furthestBack(const RepLook& k) {
  // A torso leans back furthest while the bar passes the head, and is seen from where the plate has left the shoulder.
  std::optional<Lean> most;
  for (std::size_t i = k.m.frameAt(k.riseTime(kPassing)); i <= k.m.frameAt(k.riseTime(kUnderWay)); ++i)
    if (const auto lean = leanAt(k, i); lean && (!most || *lean < most->deg)) most = Lean{*lean, k.m.times_s[i]};
  return most;
}

double ready_t(const RepLook& k) {
  return std::max(k.m.times_s.front(), k.rep.ascent_t() - kReady_s * k.m.slow_factor);
}

}  // namespace

Measure barOverShoulder(const RepLook& k) {
  const double t = k.rep.ascent_t();
  const auto bar = k.place(Landmark::Bar, t), shoulder = k.place(Landmark::Shoulder, t);
  if (!bar || !shoulder) return Absent{kHidden};
  // They stand at different distances from the camera: height and pitch shift one against the other.
  return Measured{bar->z - shoulder->z, std::hypot(k.sigma(Landmark::Shoulder, t), k.m.calibration.height_sigma_m), t};
}

Measure kneeDip(const RepLook& k) {
  constexpr std::size_t kFewest = 8;
  std::vector<double> straight;
  for (const motion::Angles& a : k.m.angles)
    if (a.knee_deg) straight.push_back(*a.knee_deg);
  std::optional<Lean> least;
  for (std::size_t i = k.m.frameAt(ready_t(k)); i <= k.m.frameAt(k.riseTime(kDriven)); ++i)
    if (const auto& knee = k.m.angles[i].knee_deg; knee && (!least || *knee < least->deg))
      least = Lean{*knee, k.m.times_s[i]};
  if (!least || straight.size() < kFewest) return Absent{kHidden};
  std::sort(straight.begin(), straight.end());
  const double stands = straight[straight.size() / 2];
  // A dip and drive is over in a few looks, and a limb that is followed smoothly does not go all the way with it.
  constexpr double kQuick = 0.25;
  const double dip = std::max(0.0, stands - least->deg);
  return Measured{dip,
                  std::hypot(1.4 * k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, least->t_s, true), kQuick * dip),
                  least->t_s};
}

Measure leanBackGain(const RepLook& k) {
  constexpr double kHeld_s = 0.3;
  const auto most = furthestBack(k);
  std::vector<double> held;
  const double t = k.rep.lockout_t();
  for (std::size_t i = k.m.frameAt(t); i <= k.m.frameAt(t + kHeld_s * k.m.slow_factor); ++i)
    if (const auto lean = leanAt(k, i)) held.push_back(*lean);
  if (!most || held.empty()) return Absent{kHidden};
  // Close above the plate the shoulder is half guessed: presses of six films seemed to lean back by up to 9 degrees
  // less.
  constexpr double kHalfHidden_deg = 5;
  return Measured{std::max(0.0, median(std::move(held)) - most->deg),
                  std::hypot(k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, most->t_s, true), kHalfHidden_deg),
                  most->t_s};
}

Measure barPastMidFoot(const RepLook& k) {
  const double t = k.rep.lockout_t();
  if (!k.feetSeen()) return Absent{kNoFeet};
  if (k.m.calibration.foot_from_above) return Absent{kFootFromAbove};
  const auto bar = k.place(Landmark::Bar, t);
  if (!bar) return Absent{kHidden};
  return Measured{bar->x, std::hypot(k.m.calibration.bar_to_foot_sigma_m, bar->z * k.m.calibration.roll_sigma_rad), t};
}

}  // namespace jib::lifts::overhead
