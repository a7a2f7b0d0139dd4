// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/squat.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/base/angle.h"

namespace jib::lifts {
namespace {

using motion::Motion;
using motion::Rep;
using tracing::Landmark;

constexpr double kSteepest_deg = 15;  // a camera that looks down on the hip more steeply cannot show depth
constexpr double kStraight_deg = 170;
constexpr double kNearFinal_deg = 4;  // or this close to the joint's own final angle, for those who never reach 170

constexpr const char* kNoBody = "The body points are not placed yet.";
constexpr const char* kNoForward = "It is not known which way the athlete faces; place toe and heel.";
constexpr const char* kNoFeet = "The feet are not in the picture; film so that the whole shoe shows.";
constexpr const char* kGap = "The plate is hidden for part of the way.";
constexpr double kLongestGap_s = 0.12;
constexpr const char* kHidden = "Not seen at that moment.";

// One rep of one motion, with the questions all measures ask.
struct Look {
  const Motion& m;
  const Rep& rep;

  std::optional<MetrePoint> place(Landmark l, double t) const { return m.placeAt(l, t); }
  const motion::Angles& angles(double t) const { return m.angles[m.frameAt(t)]; }
  double sigma(Landmark l, double t) const { return m.path(l).sigma_m[m.frameAt(t)]; }
  double wander(Landmark l, double t) const { return m.path(l).wander_m[m.frameAt(t)]; }
  std::size_t first() const { return m.frameAt(rep.start_t); }
  std::size_t last() const { return m.frameAt(rep.lockout_t); }
  bool hasBody() const { return m.path(Landmark::Hip).at[m.frameAt(rep.bottom_t)].has_value(); }

  // When the bar has risen by this share of the way from bottom to lockout.
  double riseTime(double share) const {
    const auto low = place(Landmark::Bar, rep.ascent_t), high = place(Landmark::Bar, rep.lockout_t);
    if (!low || !high) return rep.ascent_t;
    const double level = low->z + share * (high->z - low->z);
    for (std::size_t i = m.frameAt(rep.ascent_t); i < last(); ++i) {
      const auto &a = m.path(Landmark::Bar).at[i], &b = m.path(Landmark::Bar).at[i + 1];
      if (a && b && a->z <= level && b->z > level)
        return m.times_s[i] + (m.times_s[i + 1] - m.times_s[i]) * (level - a->z) / (b->z - a->z);
    }
    return rep.ascent_t;
  }

  // Interpolated lean of the trunk at a moment.
  std::optional<double> trunk(double t) const {
    const auto hip = place(Landmark::Hip, t), shoulder = place(Landmark::Shoulder, t);
    if (!hip || !shoulder) return std::nullopt;
    return lean_deg(*hip, *shoulder);
  }
  double leanSigma_deg(Landmark lower, Landmark upper, double t, bool change) const {
    const auto a = place(lower, t), b = place(upper, t);
    const double l = a && b ? std::max(0.1, length(*b - *a)) : 0.4;
    const double ends =
        change ? std::hypot(wander(lower, t), wander(upper, t)) : std::hypot(sigma(lower, t), sigma(upper, t));
    return degrees(std::hypot(ends / l, change ? 0.0 : m.calibration.roll_sigma_rad));
  }
  double eventSigma_s() const {
    // Half a frame at either end of the filter's smear.
    const std::size_t i = std::max<std::size_t>(1, first());
    return 0.5 * (m.times_s[i] - m.times_s[i - 1]) / m.slow_factor;
  }
};

using Answer = Measure;

Answer depth(const Look& k) {
  if (k.m.calibration.look_down_deg > kSteepest_deg)
    return Absent{"The camera looks down on the hip; film with the lens level with the hip to judge depth."};
  std::optional<Measured> deepest;
  for (std::size_t i = k.first(); i <= k.last(); ++i) {
    const auto &crease = k.m.path(Landmark::HipCrease).at[i], &top = k.m.path(Landmark::KneeTop).at[i];
    if (!crease || !top) continue;
    const double value = crease->z - top->z;
    if (deepest && value >= deepest->value) continue;
    const double apart = std::abs(crease->x - top->x);
    const double sigma =
        std::hypot(std::hypot(k.sigma(Landmark::HipCrease, k.m.times_s[i]), k.sigma(Landmark::KneeTop, k.m.times_s[i])),
                   apart * k.m.calibration.roll_sigma_rad, k.m.calibration.height_sigma_m);
    deepest = Measured{value, std::hypot(sigma, value * k.m.calibration.scale_sigma_rel), k.m.times_s[i]};
  }
  if (!deepest) return Absent{kHidden};
  return *deepest;
}

bool feetSeen(const Look& k) {
  return k.place(Landmark::Toe, k.rep.bottom_t) && k.place(Landmark::Heel, k.rep.bottom_t);
}

Answer barToMidFootMean(const Look& k) {
  if (!feetSeen(k)) return Absent{kNoFeet};
  double sum = 0, n = 0;
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& bar = k.m.path(Landmark::Bar).at[i]) {
      sum += bar->x;
      n += 1;
    }
  if (n < 1) return Absent{kHidden};
  return Measured{sum / n, k.m.calibration.bar_to_foot_sigma_m, k.rep.bottom_t};
}

Answer barToMidFootMax(const Look& k) {
  if (!feetSeen(k)) return Absent{kNoFeet};
  std::optional<Measured> most;
  for (std::size_t i = k.first(); i <= k.last(); ++i) {
    const auto& bar = k.m.path(Landmark::Bar).at[i];
    if (bar && (!most || std::abs(bar->x) > std::abs(most->value)))
      most = Measured{bar->x, std::hypot(k.m.calibration.bar_to_foot_sigma_m, k.sigma(Landmark::Bar, k.m.times_s[i])),
                      k.m.times_s[i]};
  }
  if (!most) return Absent{kHidden};
  return *most;
}

Answer driftAtReversal(const Look& k) {
  const double t = k.riseTime(0.20);
  const auto low = k.place(Landmark::Bar, k.rep.bottom_t), later = k.place(Landmark::Bar, t);
  if (!low || !later) return Absent{kHidden};
  // A roll of the camera turns some of the rise into drift.
  const double sigma = std::hypot(std::sqrt(2.0) * k.wander(Landmark::Bar, t),
                                  (later->z - low->z) * k.m.calibration.roll_sigma_rad, 0.002);
  return Measured{later->x - low->x, sigma, t};
}

Answer trunkAt(const Look& k, double t) {
  const auto lean = k.trunk(t);
  if (!lean) return Absent{kHidden};
  return Measured{*lean, k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, t, false), t};
}

Answer trunkStart(const Look& k) {
  return trunkAt(k, k.rep.start_t);
}
Answer trunkBottom(const Look& k) {
  return trunkAt(k, k.rep.bottom_t);
}

Answer trunkGain(const Look& k) {
  const auto bottom = k.trunk(k.rep.bottom_t);
  if (!bottom) return Absent{kHidden};
  const double until = k.riseTime(1.0 / 3);
  Measured most{0, 0, k.rep.bottom_t};
  for (std::size_t i = k.m.frameAt(k.rep.bottom_t); i <= k.m.frameAt(until); ++i) {
    const auto lean = k.trunk(k.m.times_s[i]);
    if (lean && *lean - *bottom > most.value) most = {*lean - *bottom, 0, k.m.times_s[i]};
  }
  most.sigma = k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, most.t_s, true);
  return most;
}

// Mean absolute difference between descent and ascent at equal bar heights, of whatever `value` gives.
template <class Value>
std::optional<Measured> mirrored(const Look& k, Value value) {
  const auto low = k.place(Landmark::Bar, k.rep.bottom_t), high = k.place(Landmark::Bar, k.rep.start_t);
  if (!low || !high) return std::nullopt;
  constexpr int kHeights = 24;
  double sum = 0, n = 0, worst = 0, worst_t = k.rep.bottom_t;
  for (int h = 0; h < kHeights; ++h) {
    const double level = low->z + (0.08 + 0.84 * h / (kHeights - 1)) * (high->z - low->z);
    std::optional<double> down, up;
    double up_t = 0;
    for (std::size_t i = k.first(); i < k.last(); ++i) {
      const auto &a = k.m.path(Landmark::Bar).at[i], &b = k.m.path(Landmark::Bar).at[i + 1];
      if (!a || !b) continue;
      const double t = k.m.times_s[i] + (k.m.times_s[i + 1] - k.m.times_s[i]) * (level - a->z) / (b->z - a->z);
      if (a->z > level && b->z <= level && !down) down = value(t);
      if (a->z <= level && b->z > level && t > k.rep.bottom_t && !up) {
        up = value(t);
        up_t = t;
      }
    }
    if (!down || !up) continue;
    sum += std::abs(*down - *up);
    n += 1;
    if (std::abs(*down - *up) > worst) {
      worst = std::abs(*down - *up);
      worst_t = up_t;
    }
  }
  if (n < kHeights / 2) return std::nullopt;
  return Measured{sum / n, 0, worst_t};
}

Answer leanMismatch(const Look& k) {
  auto m = mirrored(k, [&](double t) { return k.trunk(t); });
  if (!m) return Absent{kHidden};
  m->sigma = 0.7 * k.leanSigma_deg(Landmark::Hip, Landmark::Shoulder, m->t_s, true);
  return *m;
}

Answer pathMirror(const Look& k) {
  auto m = mirrored(k, [&](double t) -> std::optional<double> {
    const auto bar = k.place(Landmark::Bar, t);
    return bar ? std::optional(bar->x) : std::nullopt;
  });
  if (!m) return Absent{kHidden};
  m->sigma = std::hypot(k.wander(Landmark::Bar, m->t_s), 0.002);
  return *m;
}

Answer riseRatio(const Look& k) {
  const double t = k.riseTime(0.25);
  const auto hip0 = k.place(Landmark::Hip, k.rep.bottom_t), hip1 = k.place(Landmark::Hip, t);
  const auto s0 = k.place(Landmark::Shoulder, k.rep.bottom_t), s1 = k.place(Landmark::Shoulder, t);
  if (!hip0 || !hip1 || !s0 || !s1 || s1->z - s0->z < 0.02) return Absent{kHidden};
  const double up = s1->z - s0->z, ratio = (hip1->z - hip0->z) / up;
  const double hip = k.wander(Landmark::Hip, t), shoulder = k.wander(Landmark::Shoulder, t);
  return Measured{ratio, std::hypot(hip, ratio * shoulder) / up, t};
}

Answer kneeSlide(const Look& k) {
  const auto bottom = k.place(Landmark::Knee, k.rep.bottom_t);
  if (!bottom) return Absent{kHidden};
  const double until = k.riseTime(1.0 / 3);
  Measured most{0, 0, k.rep.bottom_t};
  for (std::size_t i = k.m.frameAt(k.rep.bottom_t); i <= k.m.frameAt(until); ++i)
    if (const auto& knee = k.m.path(Landmark::Knee).at[i]; knee && bottom->x - knee->x > most.value)
      most = {bottom->x - knee->x, 0, k.m.times_s[i]};
  most.sigma = std::sqrt(2.0) * k.wander(Landmark::Knee, most.t_s);
  return most;
}

Answer kneeSlidePct(const Look& k) {
  const Answer slide = kneeSlide(k);
  const auto* m = std::get_if<Measured>(&slide);
  const auto ankle = k.place(Landmark::Ankle, k.rep.start_t), knee = k.place(Landmark::Knee, k.rep.start_t);
  if (!m || !ankle || !knee) return Absent{kHidden};
  const double shin = length(*knee - *ankle);
  return Measured{100 * m->value / shin, 100 * m->sigma / shin, m->t_s};
}

Answer kneeArrival(const Look& k) {
  const auto start = k.place(Landmark::Knee, k.rep.start_t), bottom = k.place(Landmark::Knee, k.rep.bottom_t);
  const auto high = k.place(Landmark::Bar, k.rep.start_t), low = k.place(Landmark::Bar, k.rep.bottom_t);
  if (!start || !bottom || !high || !low || bottom->x - start->x < 0.03)
    return Absent{"The knee hardly travels forward."};
  const double there = start->x + 0.95 * (bottom->x - start->x);
  for (std::size_t i = k.first(); i <= k.m.frameAt(k.rep.bottom_t); ++i) {
    const auto &knee = k.m.path(Landmark::Knee).at[i], &bar = k.m.path(Landmark::Bar).at[i];
    if (!knee || !bar || knee->x < there) continue;
    const double pct = 100 * (high->z - bar->z) / (high->z - low->z);
    return Measured{std::clamp(pct, 0.0, 100.0),
                    std::hypot(6, 250 * k.wander(Landmark::Knee, k.m.times_s[i]) / (bottom->x - start->x)),
                    k.m.times_s[i]};
  }
  return Absent{kHidden};
}

Answer kneePastToe(const Look& k) {
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

Answer shinBottom(const Look& k) {
  const auto a = k.place(Landmark::Ankle, k.rep.bottom_t), b = k.place(Landmark::Knee, k.rep.bottom_t);
  if (!a || !b) return Absent{kHidden};
  return Measured{lean_deg(*a, *b), k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, k.rep.bottom_t, false),
                  k.rep.bottom_t};
}

Answer momentArm(const Look& k, Landmark joint) {
  const auto bar = k.place(Landmark::Bar, k.rep.bottom_t), at = k.place(joint, k.rep.bottom_t);
  if (!bar || !at) return Absent{kHidden};
  return Measured{std::abs(bar->x - at->x),
                  std::hypot(k.m.calibration.bar_to_foot_sigma_m, k.sigma(joint, k.rep.bottom_t)), k.rep.bottom_t};
}

Answer momentArmHip(const Look& k) {
  return momentArm(k, Landmark::Hip);
}
Answer momentArmKnee(const Look& k) {
  return momentArm(k, Landmark::Knee);
}

Answer footLift(const Look& k, Landmark end) {
  const auto start = k.place(end, k.rep.start_t);
  if (!start) return Absent{kHidden};
  Measured most{0, 0, k.rep.bottom_t};
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& p = k.m.path(end).at[i]; p && p->z - start->z > most.value)
      most = {p->z - start->z, 0, k.m.times_s[i]};
  // A shoe that tips by a centimetre or two hardly changes its picture: lifts of 2 cm were read as half of that and
  // less.
  most.sigma = std::hypot(std::sqrt(2.0) * k.wander(end, most.t_s), 0.002, std::min(0.012, 2 * most.value));
  return most;
}

Answer heelLift(const Look& k) {
  return footLift(k, Landmark::Heel);
}
Answer toeLift(const Look& k) {
  return footLift(k, Landmark::Toe);
}

Answer descent(const Look& k) {
  return Measured{k.m.real_s(k.rep.start_t, k.rep.bottom_t), 1.4 * k.eventSigma_s(), k.rep.bottom_t};
}
Answer pause(const Look& k) {
  return Measured{k.m.real_s(k.rep.bottom_t, k.rep.ascent_t), 1.4 * k.eventSigma_s(), k.rep.bottom_t};
}
// The end of the ascent is a slow creep; the filter smears it by about a frame.
Answer ascent(const Look& k) {
  return Measured{k.m.real_s(k.rep.ascent_t, k.rep.lockout_t),
                  std::hypot(2 * k.eventSigma_s(), k.rep.lockout_sigma_s / k.m.slow_factor), k.rep.lockout_t};
}

Answer peakSpeed(const Look& k, double from_t, double to_t, double sign) {
  std::optional<Measured> most;
  // The fastest moment may lie in a gap.
  double seen_t = from_t;
  for (std::size_t i = k.m.frameAt(from_t); i <= k.m.frameAt(to_t); ++i) {
    if (k.m.bar_vz_mps[i]) seen_t = k.m.times_s[i];
    if (k.m.times_s[i] - seen_t > kLongestGap_s * k.m.slow_factor) return Absent{kGap};
  }
  for (std::size_t i = k.m.frameAt(from_t); i <= k.m.frameAt(to_t); ++i)
    if (const auto& v = k.m.bar_vz_mps[i]; v && (!most || sign * *v > most->value))
      most = Measured{sign * *v, 0.015 + std::abs(*v) * k.m.calibration.scale_sigma_rel, k.m.times_s[i]};
  if (!most) return Absent{kHidden};
  return *most;
}

Answer peakDescent(const Look& k) {
  return peakSpeed(k, k.rep.start_t, k.rep.bottom_t, -1);
}
Answer peakAscent(const Look& k) {
  return peakSpeed(k, k.rep.ascent_t, k.rep.lockout_t, 1);
}

Answer meanAscent(const Look& k) {
  const auto low = k.place(Landmark::Bar, k.rep.ascent_t), high = k.place(Landmark::Bar, k.rep.lockout_t);
  const double time = k.m.real_s(k.rep.ascent_t, k.rep.lockout_t);
  if (!low || !high || time <= 0) return Absent{kHidden};
  const double v = (high->z - low->z) / time;
  const double time_sigma = std::hypot(2 * k.eventSigma_s(), k.rep.lockout_sigma_s / k.m.slow_factor);
  return Measured{v, v * std::hypot(k.m.calibration.scale_sigma_rel, time_sigma / time), k.rep.lockout_t};
}

Answer stickingHeight(const Look& k) {
  if (!k.rep.sticking_t) return Absent{"The bar does not slow down on the way up."};
  const auto low = k.place(Landmark::Bar, k.rep.ascent_t), high = k.place(Landmark::Bar, k.rep.lockout_t),
             at = k.place(Landmark::Bar, *k.rep.sticking_t);
  if (!low || !high || !at) return Absent{kHidden};
  return Measured{100 * (at->z - low->z) / (high->z - low->z), 4, *k.rep.sticking_t};
}

Answer lockoutGap(const Look& k) {
  const auto straight = [&](auto angle) -> std::optional<double> {
    double final_deg = 0;
    for (std::size_t i = k.m.frameAt(k.rep.ascent_t); i <= k.last(); ++i)
      if (const auto a = angle(k.m.angles[i])) final_deg = std::max(final_deg, *a);
    const double wanted = std::min(kStraight_deg, final_deg - kNearFinal_deg);
    for (std::size_t i = k.m.frameAt(k.rep.ascent_t); i < k.last(); ++i) {
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

Answer barRange(const Look& k) {
  double low = 1e9, high = -1e9, t = k.rep.bottom_t;
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& bar = k.m.path(Landmark::Bar).at[i]) {
      low = std::min(low, bar->x);
      if (bar->x > high) {
        high = bar->x;
        t = k.m.times_s[i];
      }
    }
  if (high < low) return Absent{kHidden};
  const double sigma =
      std::hypot(k.wander(Landmark::Bar, t) * 1.4, k.rep.stroke_m * k.m.calibration.roll_sigma_rad, 0.002);
  return Measured{high - low, sigma, t};
}

Answer stroke(const Look& k) {
  return Measured{k.rep.stroke_m, std::hypot(0.003, k.rep.stroke_m * k.m.calibration.scale_sigma_rel), k.rep.bottom_t};
}

Answer standingKnee(const Look& k) {
  const auto knee = k.angles(k.rep.start_t).knee_deg;
  if (!knee) return Absent{kHidden};
  return Measured{*knee, 1.4 * k.leanSigma_deg(Landmark::Ankle, Landmark::Knee, k.rep.start_t, false), k.rep.start_t};
}

enum class Needs { Bar, BarForward, Body };

struct Row {
  MeasureKind kind;
  Needs needs;
  Answer (*answer)(const Look&);
};

const std::vector<Row>& rows() {
  using D = Drawing;
  static const std::vector<Row> kRows{
      {{"standing_knee_deg", "Knee when standing", "deg", "Start", D::Chain}, Needs::Body, standingKnee},
      {{"trunk_lean_start_deg", "Trunk lean at the start", "deg", "Start", D::Trunk}, Needs::Body, trunkStart},
      {{"descent_s", "Descent", "s", "Descent", D::BarPath}, Needs::Bar, descent},
      {{"bar_peak_descent_mps", "Fastest down", "m/s", "Descent", D::BarPath}, Needs::Bar, peakDescent},
      {{"knee_arrival_pct", "Knee in place after", "%", "Descent", D::Shin}, Needs::Body, kneeArrival},
      {{"hip_crease_above_knee_m", "Hip crease above knee", "m", "Bottom", D::Depth}, Needs::Body, depth},
      {{"trunk_lean_bottom_deg", "Trunk lean at the bottom", "deg", "Bottom", D::Trunk}, Needs::Body, trunkBottom},
      {{"shin_bottom_deg", "Shin at the bottom", "deg", "Bottom", D::Shin}, Needs::Body, shinBottom},
      {{"knee_past_toe_m", "Knee ahead of toe", "m", "Bottom", D::Knee}, Needs::Body, kneePastToe},
      {{"heel_lift_m", "Heel lift", "m", "Bottom", D::Heel}, Needs::Body, heelLift},
      {{"toe_lift_m", "Toe lift", "m", "Bottom", D::Heel}, Needs::Body, toeLift},
      {{"moment_arm_hip_m", "Bar to hip, level", "m", "Bottom", D::Chain}, Needs::Body, momentArmHip},
      {{"moment_arm_knee_m", "Bar to knee, level", "m", "Bottom", D::Chain}, Needs::Body, momentArmKnee},
      {{"pause_s", "Pause", "s", "Bottom", D::BarPath}, Needs::Bar, pause},
      {{"trunk_lean_gain_deg", "Lean added rising", "deg", "Ascent", D::Trunk}, Needs::Body, trunkGain},
      {{"hip_shoulder_rise_ratio", "Hip rise over shoulder rise", "ratio", "Ascent", D::HipAndShoulder},
       Needs::Body,
       riseRatio},
      {{"knee_slide_back_m", "Knee slides back", "m", "Ascent", D::Knee}, Needs::Body, kneeSlide},
      {{"knee_slide_back_pct_shin", "Knee slide, of shin", "%", "Ascent", D::Knee}, Needs::Body, kneeSlidePct},
      {{"bar_drift_reversal_m", "Bar drifts at the turn", "m", "Ascent", D::MidFoot},
       Needs::BarForward,
       driftAtReversal},
      {{"lean_mismatch_deg", "Lean, down against up", "deg", "Ascent", D::Trunk}, Needs::Body, leanMismatch},
      {{"ascent_s", "Ascent", "s", "Ascent", D::BarPath}, Needs::Bar, ascent},
      {{"bar_mean_ascent_mps", "Mean speed up", "m/s", "Ascent", D::BarPath}, Needs::Bar, meanAscent},
      {{"bar_peak_ascent_mps", "Fastest up", "m/s", "Ascent", D::BarPath}, Needs::Bar, peakAscent},
      {{"sticking_height_pct", "Slowest at", "%", "Ascent", D::BarPath}, Needs::Bar, stickingHeight},
      {{"lockout_gap_s", "Knees lock before hips", "s", "Lockout", D::Chain}, Needs::Body, lockoutGap},
      {{"bar_to_midfoot_mean_m", "Bar to mid-foot, mean", "m", "Bar", D::MidFoot}, Needs::Body, barToMidFootMean},
      {{"bar_to_midfoot_max_m", "Bar to mid-foot, furthest", "m", "Bar", D::MidFoot}, Needs::Body, barToMidFootMax},
      {{"bar_x_range_m", "Bar's sideways range", "m", "Bar", D::BarPath}, Needs::Bar, barRange},
      {{"path_mirror_m", "Path, down against up", "m", "Bar", D::BarPath}, Needs::Bar, pathMirror},
      {{"stroke_m", "Stroke", "m", "Bar", D::BarPath}, Needs::Bar, stroke},
  };
  return kRows;
}

const std::vector<MeasureKind>& setKinds() {
  static const std::vector<MeasureKind> kKinds{
      {"speed_loss_pct", "Speed lost, first to last rep", "%", "Set", Drawing::None},
      {"descent_change_s", "Descent, last against first", "s", "Set", Drawing::None},
      {"rep_spread_depth_m", "Spread of depth", "m", "Set", Drawing::Depth},
      {"rep_spread_trunk_lean_deg", "Spread of trunk lean", "deg", "Set", Drawing::Trunk},
      {"rep_spread_descent_s", "Spread of descent", "s", "Set", Drawing::None},
      {"best_rep", "Best rep", "rep", "Set", Drawing::None},
      {"worst_rep", "Worst rep", "rep", "Set", Drawing::None},
  };
  return kKinds;
}

// Values of one measure over the reps that have it.
std::vector<Measured> over(const std::vector<MeasureList>& reps, std::string_view id) {
  std::vector<Measured> all;
  for (const MeasureList& rep : reps)
    if (const auto* m = find(rep, id); m && m->measured()) all.push_back(*m->measured());
  return all;
}

Answer spread(const std::vector<MeasureList>& reps, std::string_view id) {
  const auto all = over(reps, id);
  if (all.size() < 2) return Absent{"One rep has no spread."};
  double least = 1e9, most = -1e9, sigma = 0, t = all.front().t_s;
  for (const Measured& m : all) {
    least = std::min(least, m.value);
    if (m.value > most) {
      most = m.value;
      t = m.t_s;
    }
    sigma = std::max(sigma, m.sigma);
  }
  // The same systematic error is in every rep and cancels; a third of sigma is what was seen to differ.
  return Measured{most - least, sigma / 3 * std::sqrt(2.0), t};
}

Answer speedLoss(const std::vector<MeasureList>& reps) {
  const auto v = over(reps, "bar_mean_ascent_mps");
  if (v.size() < 2 || v.front().value <= 0) return Absent{"One rep shows no loss."};
  const double loss = 100 * (1 - v.back().value / v.front().value);
  return Measured{loss, 100 * 1.4 * std::max(v.front().sigma, v.back().sigma) / v.front().value, v.back().t_s};
}

Answer descentChange(const std::vector<MeasureList>& reps) {
  const auto v = over(reps, "descent_s");
  if (v.size() < 2) return Absent{"One rep shows no change."};
  return Measured{v.back().value - v.front().value, 1.4 * v.back().sigma, v.back().t_s};
}

// Reps ranked by what costs most: height, lean added, knees sliding, in units of usual limits.
Answer ranked(const std::vector<MeasureList>& reps, bool best) {
  std::optional<Measured> chosen;
  double chosen_cost = 0;
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const auto value = [&](std::string_view id) {
      const auto* m = find(reps[i], id);
      return m && m->measured() ? m->measured()->value : 0.0;
    };
    const double cost = std::max(0.0, value("hip_crease_above_knee_m")) / 0.03 + value("trunk_lean_gain_deg") / 7 +
                        value("knee_slide_back_pct_shin") / 12 + std::abs(value("bar_drift_reversal_m")) / 0.03;
    const auto* when = find(reps[i], "stroke_m");
    if (!chosen || (best ? cost < chosen_cost : cost > chosen_cost)) {
      chosen = Measured{static_cast<double>(i + 1), 0, when && when->measured() ? when->measured()->t_s : 0};
      chosen_cost = cost;
    }
  }
  if (!chosen || reps.size() < 2) return Absent{"There is one rep."};
  return *chosen;
}

}  // namespace

SetMeasures measureSquat(const Motion& m, const std::vector<Rep>& reps) {
  SetMeasures out;
  for (const Rep& rep : reps) {
    const Look look{m, rep};
    MeasureList list;
    for (const Row& row : rows()) {
      Measure measure = Absent{kNoBody};
      if (row.needs == Needs::BarForward && !m.calibration.forward_known)
        measure = Absent{kNoForward};
      else if (row.needs != Needs::Body || look.hasBody())
        measure = row.answer(look);
      list.push_back({&row.kind, std::move(measure)});
    }
    out.reps.push_back(std::move(list));
  }
  const Answer answers[] = {speedLoss(out.reps),
                            descentChange(out.reps),
                            spread(out.reps, "hip_crease_above_knee_m"),
                            spread(out.reps, "trunk_lean_bottom_deg"),
                            spread(out.reps, "descent_s"),
                            ranked(out.reps, true),
                            ranked(out.reps, false)};
  for (std::size_t i = 0; i < setKinds().size(); ++i) out.set.push_back({&setKinds()[i], answers[i]});
  return out;
}

const std::vector<MeasureKind>& squatKinds() {
  static const std::vector<MeasureKind> kAll = [] {
    std::vector<MeasureKind> all;
    for (const Row& row : rows()) all.push_back(row.kind);
    all.insert(all.end(), setKinds().begin(), setKinds().end());
    return all;
  }();
  return kAll;
}

const MeasureKind* squatKind(std::string_view id) {
  for (const MeasureKind& kind : squatKinds())
    if (kind.id == id) return &kind;
  return nullptr;
}

}  // namespace jib::lifts
