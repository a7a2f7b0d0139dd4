// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/squat_posture.h"
#include "core/lifts/view_assessor.h"

#include <algorithm>
#include <cmath>

namespace jib::lifts::squat {
using tracing::Landmark;

namespace {

constexpr const char* kElbowHidden = "The plate hides the elbow at that moment; judge it by eye.";
// Hip and knee hang on one chain, and what shifts one shifts the other: of the height of one over the other, 1.8 cm of
// error were seen on five clips from two kinds of room where the two together say 2.8 and more.
constexpr double kTogether = 0.7;

Measure trunkAt(const RepLook& k, double t) {
  const auto lean = k.trunk(t);
  if (!lean) return Absent{kHidden};
  return Measured{*lean, k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, t, false), t};
}

Measure momentArm(const RepLook& k, Landmark joint) {
  const auto bar = k.place(Landmark::Bar, k.rep.bottom_t()), at = k.place(joint, k.rep.bottom_t());
  if (!bar || !at) return Absent{kHidden};
  return Measured{std::abs(bar->x - at->x),
                  std::hypot(k.m.calibration.bar_to_foot_sigma_m, k.sigma(joint, k.rep.bottom_t())), k.rep.bottom_t()};
}

// The upper arm against the trunk near a moment; nullopt when the elbow is not made out then.
std::optional<Measured> armAt(const RepLook& k, double t) {
  constexpr double kNear_s = 0.15;
  std::optional<std::size_t> best;
  const auto& elbow = k.m.path(Landmark::Elbow);
  const auto away = [&](std::size_t i) { return std::abs(k.m.times_s[i] - t); };
  const double reach = kNear_s * k.m.slow_factor;
  for (std::size_t i = k.m.frameAt(t - reach); i <= k.m.frameAt(t + reach); ++i)
    if (elbow.at[i] && (!best || away(i) < away(*best))) best = i;
  if (!best) return std::nullopt;
  const auto &shoulder = k.m.path(Landmark::Shoulder).at[*best], &hip = k.m.path(Landmark::Hip).at[*best];
  if (!shoulder || !hip) return std::nullopt;
  const MetrePoint arm = *elbow.at[*best] - *shoulder;
  const double at_t = k.m.times_s[*best];
  const double arm_deg = degrees(std::atan2(arm.x, -arm.z));
  const double back_deg = k.angles(at_t).torso_deg.value_or(0) + arm_deg;
  const double scatter = std::hypot(elbow.sigma_m[*best], k.sigma(Landmark::Shoulder, at_t));
  return Measured{-std::remainder(back_deg, 360.0),
                  std::hypot(degrees(scatter / std::max(0.15, length(arm))),
                             k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, at_t, false)),
                  at_t};
}

// An included angle; its limbs err alike, each by about what the one from `lower` to `upper` does.
Measure jointAngle(const RepLook& k, std::optional<double> angle_deg, Landmark lower, Landmark upper, double t) {
  if (!angle_deg) return Absent{kHidden};
  return Measured{*angle_deg, 1.4 * k.leanSigma_deg(lower, upper, t, false), t};
}

}  // namespace

Measure depth(const RepLook& k) {
  if (const Carried heights = heightsFrom(k.m.calibration); heights.can == Can::No && !k.m.calibration.accepts("depth"))
    return Absent{std::string(absentFor(heights.why))};
  // Elsewhere in the rep they are higher.
  if (!k.seenAtBottom(Landmark::HipCrease) || !k.seenAtBottom(Landmark::KneeTop)) return Absent{kHidden};
  std::optional<Measured> deepest;
  for (std::size_t i = k.first(); i <= k.last(); ++i) {
    const auto &crease = k.m.path(Landmark::HipCrease).at[i], &top = k.m.path(Landmark::KneeTop).at[i];
    if (!crease || !top) continue;
    const double value = crease->z - top->z;
    if (deepest && value >= deepest->value) continue;
    const double apart = std::abs(crease->x - top->x);
    const double sigma = std::hypot(kTogether * std::hypot(k.sigma(Landmark::HipCrease, k.m.times_s[i]),
                                                           k.sigma(Landmark::KneeTop, k.m.times_s[i])),
                                    apart * k.m.calibration.roll_sigma_rad, k.m.calibration.height_sigma_m);
    // At an angle the thigh is seen from its end, and how high its upper side lies is guessed.
    constexpr double kTurned_m = 0.045;
    deepest = Measured{value, std::hypot(sigma, value * k.m.calibration.scale_sigma_rel, kTurned_m * k.turnedAway()),
                       k.m.times_s[i]};
  }
  if (!deepest) return Absent{kHidden};
  return *deepest;
}

Measure trunkStart(const RepLook& k) {
  return trunkAt(k, k.rep.start_t());
}

Measure trunkBottom(const RepLook& k) {
  return trunkAt(k, k.rep.bottom_t());
}

Measure trunkGain(const RepLook& k) {
  const auto bottom = k.trunk(k.rep.bottom_t());
  if (!bottom) return Absent{kHidden};
  const double until = k.riseTime(1.0 / 3);
  if (!k.seenThrough(Landmark::Hip, k.rep.bottom_t(), until) ||
      !k.seenThrough(Landmark::Shoulder, k.rep.bottom_t(), until))
    return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  for (std::size_t i = k.m.frameAt(k.rep.bottom_t()); i <= k.m.frameAt(until); ++i) {
    const auto lean = k.trunk(k.m.times_s[i]);
    if (lean && *lean - *bottom > most.value) most = {*lean - *bottom, 0, k.m.times_s[i]};
  }
  // Well off the side hips and shoulders turn apart in the picture: at 42 degrees a gain of 8 was seen as 3.5.
  constexpr double kTurned_deg = 1.8;
  most.sigma =
      std::hypot(k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, most.t_s, true), kTurned_deg * k.turnedAway());
  return most;
}

Measure leanMismatch(const RepLook& k) {
  auto m = k.mirrored([&](double t) { return k.trunk(t); });
  if (!m) return Absent{kHidden};
  m->sigma = 0.7 * k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, m->t_s, true);
  return *m;
}

Measure riseRatio(const RepLook& k) {
  const double t = k.riseTime(0.25);
  const auto hip0 = k.place(Landmark::Hip, k.rep.bottom_t()), hip1 = k.place(Landmark::Hip, t);
  const auto s0 = k.place(Landmark::Shoulder, k.rep.bottom_t()), s1 = k.place(Landmark::Shoulder, t);
  if (!hip0 || !hip1 || !s0 || !s1 || s1->z - s0->z < 0.02) return Absent{kHidden};
  const double up = s1->z - s0->z, ratio = (hip1->z - hip0->z) / up;
  const double hip = k.wander(Landmark::Hip, t), shoulder = k.wander(Landmark::Shoulder, t);
  return Measured{ratio, std::hypot(hip, ratio * shoulder) / up, t};
}

Measure kneeSlide(const RepLook& k) {
  const auto bottom = k.place(Landmark::Knee, k.rep.bottom_t());
  if (!bottom) return Absent{kHidden};
  const double until = k.riseTime(1.0 / 3);
  if (!k.seenThrough(Landmark::Knee, k.rep.bottom_t(), until)) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t()};
  for (std::size_t i = k.m.frameAt(k.rep.bottom_t()); i <= k.m.frameAt(until); ++i)
    if (const auto& knee = k.m.path(Landmark::Knee).at[i]; knee && bottom->x - knee->x > most.value)
      most = {bottom->x - knee->x, 0, k.m.times_s[i]};
  most.sigma = std::sqrt(2.0) * k.wander(Landmark::Knee, most.t_s);
  return most;
}

Measure kneeSlidePct(const RepLook& k) {
  const Measure slide = kneeSlide(k);
  const auto* m = std::get_if<Measured>(&slide);
  const auto ankle = k.place(Landmark::Ankle, k.rep.start_t()), knee = k.place(Landmark::Knee, k.rep.start_t());
  if (!m || !ankle || !knee) return Absent{kHidden};
  const double shin = length(*knee - *ankle);
  return Measured{100 * m->value / shin, 100 * m->sigma / shin, m->t_s};
}

// The share of the descent by which the knee has made 95 % of its way, and how much that share changes when the knee is
// taken to be as much nearer or further as it may be: a knee that stops at once says it sharply; one that creeps, or
// stops just short and wanders there, does not.
Measure kneeArrival(const RepLook& k) {
  const auto start = k.place(Landmark::Knee, k.rep.start_t()), bottom = k.place(Landmark::Knee, k.rep.bottom_t());
  const auto high = k.place(Landmark::Bar, k.rep.start_t()), low = k.place(Landmark::Bar, k.rep.bottom_t());
  if (!start || !bottom || !high || !low || bottom->x - start->x < 0.03)
    return Absent{"The knee hardly travels forward."};
  if (!k.seenThrough(Landmark::Knee, k.rep.start_t(), k.rep.bottom_t())) return Absent{kHidden};
  struct Arrival {
    double pct = 100, t_s = 0;
  };
  const auto arrivalAt = [&](double share) {
    const double there = start->x + share * (bottom->x - start->x);
    for (std::size_t i = k.first(); i <= k.m.frameAt(k.rep.bottom_t()); ++i) {
      const auto &knee = k.m.path(Landmark::Knee).at[i], &bar = k.m.path(Landmark::Bar).at[i];
      if (!knee || !bar || knee->x < there) continue;
      return Arrival{std::clamp(100 * (high->z - bar->z) / (high->z - low->z), 0.0, 100.0), k.m.times_s[i]};
    }
    return Arrival{100, k.rep.bottom_t()};
  };
  constexpr double kThere = 0.95, kAll = 0.995, kLeast_pct = 5;
  const Arrival at = arrivalAt(kThere);
  const double slack = k.wander(Landmark::Knee, at.t_s) / (bottom->x - start->x);
  const double sooner = at.pct - arrivalAt(kThere - slack).pct,
               later = arrivalAt(std::min(kAll, kThere + slack)).pct - at.pct;
  const double sigma_pct = std::hypot(kLeast_pct, (sooner + later) / 2);
  // Anywhere from the start of the way to its end is no answer.
  constexpr double kTells_pct = 20;
  if (sigma_pct > kTells_pct) return Absent{"Can't tell when the knees are set. Check by eye."};
  return Measured{at.pct, sigma_pct, at.t_s};
}

Measure kneePastToe(const RepLook& k) {
  if (!k.seenAtBottom(Landmark::Knee)) return Absent{kHidden};
  std::optional<Measured> most;
  for (std::size_t i = k.first(); i <= k.last(); ++i) {
    const auto &knee = k.m.path(Landmark::Knee).at[i], &toe = k.m.path(Landmark::Toe).at[i];
    if (knee && toe && (!most || knee->x - toe->x > most->value))
      most = Measured{knee->x - toe->x,
                      std::hypot(k.sigma(Landmark::Knee, k.m.times_s[i]), k.sigma(Landmark::Toe, k.m.times_s[i])),
                      k.m.times_s[i]};
  }
  if (!most) return Absent{kHidden};
  return *most;
}

Measure shinBottom(const RepLook& k) {
  const auto a = k.place(Landmark::Ankle, k.rep.bottom_t()), b = k.place(Landmark::Knee, k.rep.bottom_t());
  if (!a || !b) return Absent{kHidden};
  return Measured{lean_deg(*a, *b), k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, k.rep.bottom_t(), false),
                  k.rep.bottom_t()};
}

Measure momentArmHip(const RepLook& k) {
  return momentArm(k, Landmark::Hip);
}

Measure momentArmKnee(const RepLook& k) {
  return momentArm(k, Landmark::Knee);
}

// A knee's angle is off by much the same in all standing frames of a film, and in some of them almost everybody stands
// straight: what the straightest is off from that takes most of the error with it. Of a film whose straightest posture
// is nowhere near, nothing is assumed.
Measure standingKnee(const RepLook& k) {
  constexpr double kStraight_deg = 176, kStraightSigma_deg = 3;  // of people who stand under a bar, knees locked
  const double t = k.rep.start_t();
  const Measure raw = jointAngle(k, k.angles(t).knee_deg, Landmark::Ankle, Landmark::Knee, t);
  const auto* m = std::get_if<Measured>(&raw);
  if (!m) return raw;
  std::vector<double> all;
  for (const motion::Angles& a : k.m.angles)
    if (a.knee_deg) all.push_back(*a.knee_deg);
  std::sort(all.begin(), all.end());
  // The middle of the straightest fifth: the most is one frame's chance.
  const double off_deg = all[all.size() * 9 / 10] - kStraight_deg;
  const double together = std::hypot(m->sigma, kStraightSigma_deg);
  if (std::abs(off_deg) > 1.64 * together) return raw;
  const double share = m->sigma * m->sigma / (together * together);
  const double change = 1.4 * k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, t, true);
  return Measured{std::min(180.0, m->value - share * off_deg),
                  std::min(m->sigma, std::hypot(m->sigma * kStraightSigma_deg / together, change)), t};
}

Measure trunkHalfDown(const RepLook& k) {
  return trunkAt(k, k.fallTime(0.5));
}
Measure trunkQuarterUp(const RepLook& k) {
  return trunkAt(k, k.riseTime(0.25));
}
Measure trunkHalfUp(const RepLook& k) {
  return trunkAt(k, k.riseTime(0.5));
}
Measure trunkThreeQuartersUp(const RepLook& k) {
  return trunkAt(k, k.riseTime(0.75));
}

Measure trunkMinusShin(const RepLook& k) {
  const auto trunk = k.trunk(k.rep.bottom_t());
  const auto a = k.place(Landmark::Ankle, k.rep.bottom_t()), b = k.place(Landmark::Knee, k.rep.bottom_t());
  if (!trunk || !a || !b) return Absent{kHidden};
  return Measured{*trunk - lean_deg(*a, *b),
                  std::hypot(k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, k.rep.bottom_t(), false),
                             k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, k.rep.bottom_t(), false)),
                  k.rep.bottom_t()};
}

Measure momentArmRatio(const RepLook& k) {
  const Measure hip = momentArmHip(k), knee = momentArmKnee(k);
  const auto *h = std::get_if<Measured>(&hip), *n = std::get_if<Measured>(&knee);
  if (!h || !n) return Absent{kHidden};
  if (n->value < 2 * n->sigma) return Absent{"The bar is right over the knee, as far as this clip shows."};
  const double ratio = h->value / n->value;
  return Measured{ratio, ratio * std::hypot(h->sigma / h->value, n->sigma / n->value), k.rep.bottom_t()};
}

Measure shoulderLurch(const RepLook& k) {
  const double t = k.riseTime(0.20);
  const auto low = k.place(Landmark::Shoulder, k.rep.bottom_t()), later = k.place(Landmark::Shoulder, t);
  if (!low || !later) return Absent{kHidden};
  const double sigma = std::hypot(std::sqrt(2.0) * k.wander(Landmark::Shoulder, t),
                                  (later->z - low->z) * k.m.calibration.roll_sigma_rad);
  return Measured{later->x - low->x, sigma, t};
}

Measure standingHip(const RepLook& k) {
  return jointAngle(k, k.angles(k.rep.start_t()).hip_deg, Landmark::Hip, Landmark::Shoulder, k.rep.start_t());
}
Measure lockoutKnee(const RepLook& k) {
  return jointAngle(k, k.angles(k.rep.lockout_t()).knee_deg, Landmark::Ankle, Landmark::Knee, k.rep.lockout_t());
}
Measure lockoutHip(const RepLook& k) {
  return jointAngle(k, k.angles(k.rep.lockout_t()).hip_deg, Landmark::Hip, Landmark::Shoulder, k.rep.lockout_t());
}

Measure upperArm(const RepLook& k) {
  if (const auto arm = armAt(k, k.rep.bottom_t())) return *arm;
  return Absent{kElbowHidden};
}

// Along the trunk, before the descent: a high bar lies about level with the joint, a low one a hand's breadth under it.
Measure barBelowShoulder(const RepLook& k) {
  const double t = k.rep.start_t();
  const auto bar = k.place(Landmark::Bar, t), shoulder = k.place(Landmark::Shoulder, t);
  const auto lean_deg = k.angles(t).torso_deg;
  if (!bar || !shoulder || !lean_deg) return Absent{kHidden};
  const MetrePoint down = *shoulder - *bar;
  const double lean = radians(*lean_deg);
  return Measured{down.x * std::sin(lean) + down.z * std::cos(lean),
                  std::hypot(k.sigma(Landmark::Shoulder, t), k.sigma(Landmark::Bar, t),
                             std::sin(lean) * k.m.calibration.bar_to_foot_sigma_m),
                  t};
}

Measure upperArmSwing(const RepLook& k) {
  const double sticking = k.rep.when(motion::EventKind::Sticking).value_or(k.riseTime(0.5));
  std::optional<Measured> least, most;
  int seen = 0;
  for (double t : {k.rep.start_t(), k.rep.bottom_t(), sticking}) {
    const auto arm = armAt(k, t);
    if (!arm) continue;
    ++seen;
    if (!least || arm->value < least->value) least = arm;
    if (!most || arm->value > most->value) most = arm;
  }
  if (seen < 2) return Absent{kElbowHidden};
  // Placing and definition err alike at both moments; about half of the rest does not.
  constexpr double kTurned_deg = 25;
  return Measured{most->value - least->value,
                  std::hypot(0.7 * std::max(least->sigma, most->sigma), kTurned_deg * k.turnedAway()), most->t_s};
}

}  // namespace jib::lifts::squat
