// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/pull_body.h"

#include <algorithm>
#include <cmath>

#include "core/motion/set_up.h"

namespace jib::lifts::pull {
using tracing::Landmark;

namespace {

using motion::kSet_s;
constexpr const char* kTooSmallToTime =
    "The lifter is too small in the picture to time this: which locks first, step through the last frames by eye.";
constexpr const char* kHiddenAtFloor =
    "The plates hide too much of hips and knees while the bar lies on the floor: check it by eye, or drag the hip "
    "to its place on that frame and at lift-off.";
constexpr double kAlmost_deg = 8;  // a joint this near to its angle at lockout is closed
// At lockout all joints lie about over each other, and what shifts one shifts the others: of 16 lockouts on seven
// films, four of them of another room, the hip's angle was off by 5.3 degrees (root mean square; on a sumo pull by 10)
// and the knee's by up to 4.
constexpr double kTogether = 0.6;
constexpr double kAtLockout_s = 0.15;  // over so long the angles at lockout are taken together

// The lowest the hip is before the plates leave: where the lifter has set up.
std::optional<double> setTime(const RepLook& k) {
  const double off_t = k.rep.bottom_t();
  if (const auto seen = motion::hipsBeforeOff(k.m, off_t)) return seen->lowest_s;
  std::optional<double> t;
  double lowest = 1e9;
  for (std::size_t i = k.m.frameAt(off_t - kSet_s * k.m.slow_factor); i <= k.m.frameAt(off_t); ++i)
    if (const auto& hip = k.m.path(Landmark::Hip).at[i]; hip && hip->z < lowest) {
      lowest = hip->z;
      t = k.m.times_s[i];
    }
  return t;
}

Measure trunkAt(const RepLook& k, std::optional<double> t) {
  const auto lean = t ? k.trunk(*t) : std::nullopt;
  if (!lean) return Absent{kHidden};
  return Measured{*lean, k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, *t, false), *t};
}

using Angle = std::optional<double> motion::Angles::*;

// The mean of an angle about lockout.
std::optional<double> atLockout(const RepLook& k, Angle angle) {
  double sum = 0, n = 0;
  const double t = k.rep.lockout_t(), reach = kAtLockout_s * k.m.slow_factor;
  for (std::size_t i = k.m.frameAt(t); i <= k.m.frameAt(t + reach); ++i)
    if (const auto& a = k.m.angles[i].*angle) {
      sum += *a;
      n += 1;
    }
  return n > 0 ? std::optional(sum / n) : std::nullopt;
}

struct Closed {
  double t_s, sigma_s;
};

// When a joint has come within kAlmost_deg of its angle at lockout and stays there; how sure, from the angle's own
// wander over how fast it closes there.
std::optional<Closed> closes(const RepLook& k, Angle angle, double wander_deg) {
  const auto final = atLockout(k, angle);
  if (!final) return std::nullopt;
  const double limit = *final - kAlmost_deg;
  std::size_t i = k.m.frameAt(k.rep.lockout_t());
  const std::size_t off = k.m.frameAt(k.rep.bottom_t());
  while (i > off && (k.m.angles[i - 1].*angle).value_or(0) >= limit) --i;
  if (i <= off || !(k.m.angles[i - 1].*angle) || !(k.m.angles[i].*angle)) return std::nullopt;
  const double before = *(k.m.angles[i - 1].*angle), after = *(k.m.angles[i].*angle);
  const double step = k.m.times_s[i] - k.m.times_s[i - 1];
  const double share = after > before ? (limit - before) / (after - before) : 1;
  const double rate = std::max(20.0, (after - before) / (step / k.m.slow_factor));  // degrees a second of real time
  return Closed{k.m.times_s[i - 1] + share * step, wander_deg / rate};
}

Measure included(const RepLook& k, Angle angle, double sigma_deg) {
  const auto at = atLockout(k, angle);
  if (!at) return Absent{kHidden};
  return Measured{*at, sigma_deg, k.rep.lockout_t()};
}

double kneeSigma_deg(const RepLook& k, double t, bool change) {
  return std::hypot(k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, t, change),
                    k.leanSigma_deg(Landmark::Knee, Landmark::Hip, t, change));
}
double hipSigma_deg(const RepLook& k, double t, bool change) {
  return std::hypot(k.leanSigma_deg(Landmark::Knee, Landmark::Hip, t, change),
                    k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, t, change));
}

}  // namespace

Measure hipRiseBeforeLiftOff(const RepLook& k) {
  const double off_t = k.rep.bottom_t();
  // The hip's own picture tells far better than where it is thought to be on two frames. What is seen of it, cloth of
  // trunk and thigh, comes up by somewhat less than its joint: on nine pulls of two rooms by 0.58 to 1.05 of that.
  constexpr double kSeen = 0.87, kOfPicture_m = 0.004, kOfTheRise = 0.2;
  std::optional<Measured> by_picture;
  if (const auto seen = motion::hipsBeforeOff(k.m, off_t)) {
    const double rise = seen->rise_m / kSeen;
    // Seen from in front or behind, arms and trunk pass over the hips as the slack comes out.
    constexpr double kTurned_m = 0.05;
    by_picture = Measured{rise, std::hypot(kOfPicture_m, kOfTheRise * rise, kTurned_m * k.turnedAway()), off_t};
  }
  const auto set_t = setTime(k);
  const auto hip = k.place(Landmark::Hip, off_t);
  if (!set_t || !hip) return by_picture ? Measure(*by_picture) : Measure(Absent{kHidden});
  // Two postures that are nearly the same err alike, as far as both are seen.
  constexpr double kAlike = 0.5;
  const double sigma = kAlike * std::hypot(k.sigma(Landmark::Hip, off_t), k.sigma(Landmark::Hip, *set_t));
  // Of hips the plates hide while the bar lies on the floor it would be too close to call whatever they did: on two of
  // our clips a true rise of 5 and 3 cm came out as half a centimetre.
  constexpr double kTells_m = 0.018;
  // Hips that the coach put in their places are surer than their picture, and the coach has the last word.
  if (by_picture && by_picture->sigma <= sigma) return *by_picture;
  if (sigma > kTells_m) return Absent{kHiddenAtFloor};
  return Measured{hip->z - k.place(Landmark::Hip, *set_t)->z, sigma, off_t};
}

Measure hipHeightAtLiftOff(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const auto knee = k.place(Landmark::Knee, t), hip = k.place(Landmark::Hip, t),
             shoulder = k.place(Landmark::Shoulder, t);
  if (!knee || !hip || !shoulder || shoulder->z - knee->z < 0.1) return Absent{kHidden};
  const double span = shoulder->z - knee->z, share = (hip->z - knee->z) / span;
  const double sigma = std::hypot(k.sigma(Landmark::Hip, t), (1 - share) * k.sigma(Landmark::Knee, t),
                                  share * k.sigma(Landmark::Shoulder, t)) /
                       span;
  return Measured{100 * share, 100 * sigma, t};
}

Measure shoulderAheadOfBar(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const auto shoulder = k.place(Landmark::Shoulder, t), bar = k.place(Landmark::Bar, t);
  if (!shoulder || !bar) return Absent{kHidden};
  const double level = (shoulder->z - bar->z) * k.m.calibration.roll_sigma_rad;
  return Measured{shoulder->x - bar->x,
                  std::hypot(k.sigma(Landmark::Shoulder, t), k.m.calibration.bar_to_foot_sigma_m / 2, level), t};
}

Measure shinAtLiftOff(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const auto ankle = k.place(Landmark::Ankle, t), knee = k.place(Landmark::Knee, t);
  if (!ankle || !knee) return Absent{kHidden};
  return Measured{lean_deg(*ankle, *knee), k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, t, false), t};
}

Measure barToMidFootAtLiftOff(const RepLook& k) {
  const double t = k.rep.bottom_t();
  if (!k.feetSeen()) return Absent{kNoFeet};
  const auto bar = k.place(Landmark::Bar, t);
  if (!bar) return Absent{kHidden};
  return Measured{bar->x, k.m.calibration.bar_to_foot_sigma_m, t};
}

Measure trunkAtSet(const RepLook& k) {
  return trunkAt(k, setTime(k));
}
Measure trunkAtLiftOff(const RepLook& k) {
  return trunkAt(k, k.rep.bottom_t());
}

// When the bar passes the knee.
// The trunk comes up fast while the bar passes the knee, and behind the plates the knee is the joint that is seen
// worst: how high it is, and how high the bar is against it, counts for more than the trunk's own ends.
Measure trunkAtKnee(const RepLook& k) {
  constexpr double kApart = 3.3;  // from knee to plate along the bar, against crease and knee (Calibration)
  const std::size_t off = k.m.frameAt(k.rep.bottom_t()), up = k.m.frameAt(k.rep.lockout_t());
  const auto passes = [&](double above_m) -> std::optional<std::size_t> {
    for (std::size_t i = off; i <= up; ++i) {
      const auto &bar = k.m.path(Landmark::Bar).at[i], &knee = k.m.path(Landmark::Knee).at[i];
      if (bar && knee && bar->z >= knee->z + above_m) return i;
    }
    return std::nullopt;
  };
  const auto at = passes(0);
  if (!at) return Absent{kHidden};
  Measure lean = trunkAt(k, k.m.times_s[*at]);
  auto* measured = std::get_if<Measured>(&lean);
  if (!measured) return lean;
  const double unsure_m = std::hypot(k.sigma(Landmark::Knee, measured->t_s), kApart * k.m.calibration.height_sigma_m);
  const auto lower = k.trunk(k.m.times_s[passes(-unsure_m).value_or(*at)]),
             higher = k.trunk(k.m.times_s[passes(unsure_m).value_or(up)]);
  if (lower && higher) measured->sigma = std::hypot(measured->sigma, (*lower - *higher) / 2);
  return lean;
}

// The same trunk, seen twice within a second or two: what errs alike cancels. Plates hide
// hips that are low, and more of them at the set than when the bar leaves.
Measure trunkChange(const RepLook& k) {
  const auto set_t = setTime(k);
  const double off_t = k.rep.bottom_t();
  const auto was = set_t ? k.trunk(*set_t) : std::nullopt, is = k.trunk(off_t);
  if (!was || !is) return Absent{kHidden};
  return Measured{*is - *was, 1.8 * k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, off_t, true), off_t};
}

Measure hipsLockAfterKnees(const RepLook& k) {
  const double t = k.rep.lockout_t();
  const auto knees = closes(k, &motion::Angles::knee_deg, kneeSigma_deg(k, t, true)),
             hips = closes(k, &motion::Angles::hip_deg, hipSigma_deg(k, t, true));
  if (!knees || !hips) return Absent{kHidden};
  // Off the side both angles close on the picture otherwise than on the body.
  constexpr double kTurned_s = 0.15;
  // The last degrees are a few pixels of the hips' way: on a small figure the fit has them stop too early. Of 37 reps
  // of simulated pulls of 90 to 230 pixels a metre 46 % were within 1.64 σ without this, and all that were wrong too
  // short.
  constexpr double kSmall_s = 0.15, kFine_px = 170, kTells_s = 0.17;
  const double fine = kFine_px / k.m.calibration.pixels_per_metre;
  const double ends = std::hypot(knees->sigma_s, hips->sigma_s, 2 * k.eventSigma_s());
  const double sigma = std::hypot(ends, kTurned_s * k.turnedAway(), kSmall_s * fine * fine);
  if (sigma > kTells_s) return Absent{kTooSmallToTime};
  return Measured{k.m.real_s(knees->t_s, hips->t_s), sigma, hips->t_s};
}

Measure lockoutHip(const RepLook& k) {
  // Where the network puts hip and shoulder of who stands tall errs alike in every frame: up to 19 degrees were seen.
  constexpr double kAlike = 1.8;
  return included(k, &motion::Angles::hip_deg, kAlike * kTogether * hipSigma_deg(k, k.rep.lockout_t(), false));
}
Measure lockoutKnee(const RepLook& k) {
  return included(k, &motion::Angles::knee_deg, kTogether * kneeSigma_deg(k, k.rep.lockout_t(), false));
}

}  // namespace jib::lifts::pull
