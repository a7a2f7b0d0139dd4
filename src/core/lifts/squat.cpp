// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/squat.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/median.h"
#include "core/lifts/squat_bar.h"
#include "core/lifts/squat_posture.h"
#include "core/lifts/squat_timing.h"

namespace jib::lifts {
namespace {

using motion::Motion;
using motion::Rep;
using tracing::Landmark;

constexpr const char* kNoBody = "The body points are not placed yet.";
constexpr const char* kOblique =
    "The camera stands too far from the side for places and angles of the body; film square to the lift.";
constexpr const char* kNoForward = "It is not known which way the athlete faces; place toe and heel.";

enum class Needs { Bar, BarForward, Body };

struct Row {
  MeasureKind kind;
  Needs needs;
  Measure (*answer)(const RepLook&);
};

const std::vector<Row>& rows() {
  using D = Drawing;
  static const std::vector<Row> kRows{
      {{"stands_still_s", "Stands still before", "s", "Set-up", D::BarPath}, Needs::Bar, squat::standsStill},
      {{"standing_knee_deg", "Knee when standing", "deg", "Set-up", D::Chain}, Needs::Body, squat::standingKnee},
      {{"standing_hip_deg", "Hip when standing", "deg", "Set-up", D::Chain}, Needs::Body, squat::standingHip},
      {{"trunk_lean_start_deg", "Trunk lean at the start", "deg", "Set-up", D::Trunk}, Needs::Body, squat::trunkStart},
      {{"bar_below_shoulder_m", "Bar below shoulder", "m", "Set-up", D::Trunk}, Needs::Body, squat::barBelowShoulder},
      {{"descent_s", "Descent", "s", "Descent", D::BarPath}, Needs::Bar, squat::descent},
      {{"bar_peak_descent_mps", "Fastest down", "m/s", "Descent", D::BarPath}, Needs::Bar, squat::peakDescent},
      {{"peak_drop_g", "Hardest drop", "g", "Descent", D::BarPath}, Needs::Bar, squat::peakDrop},
      {{"braking_height_pct", "Brakes from, of the way", "%", "Descent", D::BarPath}, Needs::Bar, squat::brakingHeight},
      {{"hips_before_knees_s", "Hips move before knees", "s", "Descent", D::Chain},
       Needs::Body,
       squat::hipsBeforeKnees},
      {{"knee_arrival_pct", "Knee in place after", "%", "Descent", D::Shin}, Needs::Body, squat::kneeArrival},
      {{"trunk_lean_half_down_deg", "Trunk lean half-way down", "deg", "Descent", D::Trunk},
       Needs::Body,
       squat::trunkHalfDown},
      {{"hip_crease_above_knee_m", "Hip crease above knee", "m", "Bottom", D::Depth}, Needs::Body, squat::depth},
      {{"trunk_lean_bottom_deg", "Trunk lean at the bottom", "deg", "Bottom", D::Trunk},
       Needs::Body,
       squat::trunkBottom},
      {{"shin_bottom_deg", "Shin at the bottom", "deg", "Bottom", D::Shin}, Needs::Body, squat::shinBottom},
      {{"upper_arm_to_trunk_deg", "Upper arm behind trunk", "deg", "Bottom", D::Chain}, Needs::Body, squat::upperArm},
      {{"trunk_minus_shin_deg", "Trunk lean beyond shin", "deg", "Bottom", D::Chain},
       Needs::Body,
       squat::trunkMinusShin},
      {{"knee_past_toe_m", "Knee ahead of toe", "m", "Bottom", D::Knee}, Needs::Body, squat::kneePastToe},
      {{"heel_lift_m", "Heel lift", "m", "Bottom", D::Heel}, Needs::Body, squat::heelLift},
      {{"toe_lift_m", "Toe lift", "m", "Bottom", D::Heel}, Needs::Body, squat::toeLift},
      {{"moment_arm_hip_m", "Bar to hip, level", "m", "Bottom", D::Chain}, Needs::Body, squat::momentArmHip},
      {{"moment_arm_knee_m", "Bar to knee, level", "m", "Bottom", D::Chain}, Needs::Body, squat::momentArmKnee},
      {{"moment_arm_ratio", "Hip arm over knee arm", "ratio", "Bottom", D::Chain}, Needs::Body, squat::momentArmRatio},
      {{"reversal_s", "Turn, below 10 cm/s", "s", "Bottom", D::BarPath}, Needs::Bar, squat::reversal},
      {{"pause_s", "Pause", "s", "Bottom", D::BarPath}, Needs::Bar, squat::pause},
      {{"trunk_lean_gain_deg", "Lean added rising", "deg", "Ascent", D::Trunk}, Needs::Body, squat::trunkGain},
      {{"hip_shoulder_rise_ratio", "Hip rise over shoulder rise", "ratio", "Ascent", D::HipAndShoulder},
       Needs::Body,
       squat::riseRatio},
      {{"knee_slide_back_m", "Knee slides back", "m", "Ascent", D::Knee}, Needs::Body, squat::kneeSlide},
      {{"knee_slide_back_pct_shin", "Knee slide, of shin", "%", "Ascent", D::Knee}, Needs::Body, squat::kneeSlidePct},
      {{"bar_drift_reversal_m", "Bar drifts at the turn", "m", "Ascent", D::MidFoot},
       Needs::BarForward,
       squat::driftAtReversal},
      {{"shoulder_lurch_m", "Shoulder lurches at the turn", "m", "Ascent", D::HipAndShoulder},
       Needs::Body,
       squat::shoulderLurch},
      {{"trunk_lean_quarter_up_deg", "Trunk lean a quarter up", "deg", "Ascent", D::Trunk},
       Needs::Body,
       squat::trunkQuarterUp},
      {{"trunk_lean_half_up_deg", "Trunk lean half-way up", "deg", "Ascent", D::Trunk},
       Needs::Body,
       squat::trunkHalfUp},
      {{"trunk_lean_three_quarters_up_deg", "Trunk lean three quarters up", "deg", "Ascent", D::Trunk},
       Needs::Body,
       squat::trunkThreeQuartersUp},
      {{"upper_arm_swing_deg", "Upper arm swings", "deg", "Ascent", D::Chain}, Needs::Body, squat::upperArmSwing},
      {{"lean_mismatch_deg", "Lean, down against up", "deg", "Ascent", D::Trunk}, Needs::Body, squat::leanMismatch},
      {{"ascent_s", "Ascent", "s", "Ascent", D::BarPath}, Needs::Bar, squat::ascent},
      {{"bar_mean_ascent_mps", "Mean speed up", "m/s", "Ascent", D::BarPath}, Needs::Bar, squat::meanAscent},
      {{"bar_peak_ascent_mps", "Fastest up", "m/s", "Ascent", D::BarPath}, Needs::Bar, squat::peakAscent},
      {{"sticking_height_pct", "Slowest at, of the way", "%", "Ascent", D::BarPath}, Needs::Bar, squat::stickingHeight},
      {{"lockout_gap_s", "Knees lock before hips", "s", "Lockout", D::Chain}, Needs::Body, squat::lockoutGap},
      {{"lockout_knee_deg", "Knee at lockout", "deg", "Lockout", D::Chain}, Needs::Body, squat::lockoutKnee},
      {{"lockout_hip_deg", "Hip at lockout", "deg", "Lockout", D::Chain}, Needs::Body, squat::lockoutHip},
      {{"lockout_hold_s", "Lockout held", "s", "Lockout", D::BarPath}, Needs::Bar, squat::lockoutHold},
      {{"bar_to_midfoot_mean_m", "Bar to mid-foot, mean", "m", "Bar", D::MidFoot},
       Needs::Body,
       squat::barToMidFootMean},
      {{"bar_to_midfoot_max_m", "Bar to mid-foot, furthest", "m", "Bar", D::MidFoot},
       Needs::Body,
       squat::barToMidFootMax},
      {{"bar_x_range_m", "Bar's sideways range", "m", "Bar", D::BarPath}, Needs::Bar, squat::barRange},
      {{"path_mirror_m", "Path, down against up", "m", "Bar", D::BarPath}, Needs::Bar, squat::pathMirror},
      {{"stroke_m", "Stroke", "m", "Bar", D::BarPath}, Needs::Bar, squat::stroke},
  };
  return kRows;
}

const std::vector<MeasureKind>& setKinds() {
  static const std::vector<MeasureKind> kKinds{
      {"walk_out_steps", "Steps of the walk-out", "steps", "Walk-out", Drawing::None},
      {"walk_out_s", "Time of the walk-out", "s", "Walk-out", Drawing::None},
      {"speed_loss_pct", "Speed lost, first to last rep", "%", "Set", Drawing::None},
      {"descent_change_s", "Descent, last against first", "s", "Set", Drawing::None},
      {"rep_spread_depth_m", "Spread of depth", "m", "Set", Drawing::Depth},
      {"rep_spread_trunk_lean_deg", "Spread of trunk lean", "deg", "Set", Drawing::Trunk},
      {"rep_spread_descent_s", "Spread of descent", "s", "Set", Drawing::None},
      {"rep_spread_bar_to_midfoot_m", "Spread of bar to mid-foot", "m", "Set", Drawing::MidFoot},
      {"thigh_to_trunk_ratio", "Thigh over trunk", "ratio", "Set", Drawing::Chain},
      {"thigh_to_shin_ratio", "Thigh over shin", "ratio", "Set", Drawing::Chain},
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

Measure spread(const std::vector<MeasureList>& reps, std::string_view id) {
  const auto all = over(reps, id);
  if (reps.size() < 2) return Absent{"One rep has no spread."};
  if (all.size() < 2) {
    // Then it is absent for what it is absent in the reps for.
    for (const MeasureList& rep : reps)
      if (const auto* m = find(rep, id); m && !m->measured()) return std::get<Absent>(m->measure);
    return Absent{kHidden};
  }
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

Measure speedLoss(const std::vector<MeasureList>& reps) {
  const auto v = over(reps, "bar_mean_ascent_mps");
  if (v.size() < 2 || v.front().value <= 0) return Absent{"One rep shows no loss."};
  const double loss = 100 * (1 - v.back().value / v.front().value);
  return Measured{loss, 100 * 1.4 * std::max(v.front().sigma, v.back().sigma) / v.front().value, v.back().t_s};
}

Measure descentChange(const std::vector<MeasureList>& reps) {
  const auto v = over(reps, "descent_s");
  if (v.size() < 2) return Absent{"One rep shows no change."};
  return Measured{v.back().value - v.front().value, 1.4 * v.back().sigma, v.back().t_s};
}

// Of one limb over another, where both lie in the picture's plane: standing before a rep.
Measure limbRatio(const Motion& m, const std::vector<Rep>& reps, std::array<Landmark, 2> limb,
                  std::array<Landmark, 2> other) {
  if (reps.empty()) return Absent{kHidden};
  const double t = reps.front().start_t;
  const auto a = m.placeAt(limb[0], t), b = m.placeAt(limb[1], t), c = m.placeAt(other[0], t),
             d = m.placeAt(other[1], t);
  if (!a || !b || !c || !d) return Absent{kHidden};
  const std::size_t i = m.frameAt(t);
  const double l = length(*b - *a), o = std::max(0.1, length(*d - *c));
  const auto sigma = [&](Landmark at) { return m.path(at).sigma_m[i]; };
  if (m.calibration.oblique) return Absent{kOblique};
  return Measured{
      l / o,
      l / o *
          std::hypot(std::hypot(sigma(limb[0]), sigma(limb[1])) / l, std::hypot(sigma(other[0]), sigma(other[1])) / o),
      t};
}

// Steps and seconds from the first foot that leaves its place to the last one put down.
std::array<Measure, 2> walkOut(const Motion& m, const std::vector<Rep>& reps) {
  const double until_t = reps.empty() ? m.times_s.back() : reps.front().start_t;
  const auto found = motion::findWalkOut(m.feet, until_t);
  if (const auto* reason = std::get_if<std::string>(&found)) return {Absent{*reason}, Absent{*reason}};
  const auto& walk = std::get<motion::WalkOut>(found);
  // Both ends lie between two looks at the feet.
  std::vector<double> apart_s;
  for (std::size_t i = 1; i < m.feet.size() && m.feet[i].t_s <= walk.settled_t; ++i)
    apart_s.push_back(m.feet[i].t_s - m.feet[i - 1].t_s);
  const double look_s = apart_s.empty() ? 0 : median(apart_s) / m.slow_factor;
  return {Measured{static_cast<double>(walk.landings_t.size()), 0.3, walk.settled_t},
          Measured{m.real_s(walk.begins_t, walk.settled_t), look_s, walk.settled_t}};
}

// Reps ranked by what costs most: height, lean added, knees sliding, in units of usual limits. The units are written
// here and not in the styles, so that a measure never changes with the style.
Measure ranked(const std::vector<MeasureList>& reps, bool best) {
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

// The claim about a clip (coaching/clip_check.h) that a measure of the body falls under.
std::string_view claimOf(const MeasureKind& kind) {
  if (kind.id == "hip_crease_above_knee_m") return "depth";
  if (kind.id == "heel_lift_m" || kind.id == "toe_lift_m") return "feet";
  return kind.group == "Lockout" ? "lockout" : "lean";
}

}  // namespace

SetMeasures measureSquat(const Motion& m, const std::vector<Rep>& reps) {
  SetMeasures out;
  for (const Rep& rep : reps) {
    const RepLook look{m, rep};
    MeasureList list;
    for (const Row& row : rows()) {
      const bool oblique = m.calibration.oblique && !m.calibration.accepts(claimOf(row.kind));
      Measure measure = Absent{look.hasBody() && oblique ? kOblique : kNoBody};
      if (row.needs == Needs::BarForward && !m.calibration.forward_known)
        measure = Absent{kNoForward};
      else if (row.needs != Needs::Body || (look.hasBody() && !oblique))
        measure = row.answer(look);
      list.push_back({&row.kind, std::move(measure)});
    }
    out.reps.push_back(std::move(list));
  }
  const auto walked = walkOut(m, reps);
  const Measure answers[] = {walked[0],
                             walked[1],
                             speedLoss(out.reps),
                             descentChange(out.reps),
                             spread(out.reps, "hip_crease_above_knee_m"),
                             spread(out.reps, "trunk_lean_bottom_deg"),
                             spread(out.reps, "descent_s"),
                             spread(out.reps, "bar_to_midfoot_mean_m"),
                             limbRatio(m, reps, {Landmark::Knee, Landmark::Hip}, {Landmark::Hip, Landmark::Shoulder}),
                             limbRatio(m, reps, {Landmark::Knee, Landmark::Hip}, {Landmark::Ankle, Landmark::Knee}),
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
