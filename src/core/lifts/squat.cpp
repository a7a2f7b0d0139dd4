// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/squat.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/median.h"
#include "core/lifts/bar_path.h"
#include "core/lifts/bar_timing.h"
#include "core/lifts/foot.h"
#include "core/lifts/front_body.h"
#include "core/lifts/measure_set.h"
#include "core/lifts/squat_joints.h"
#include "core/lifts/squat_posture.h"
#include "core/lifts/view_assessor.h"

namespace jib::lifts {
namespace {

using motion::EventKind;
using motion::Motion;
using motion::Rep;
using tracing::Landmark;
using D = Drawing;

constexpr RepMeasure kRepMeasures[]{
    {{"stands_still_s", "Pause before descent", "s", "Set-up", D::BarPath}, Needs::Bar, bar::standsStill},
    {{"standing_knee_deg", "Knee angle standing", "deg", "Set-up", D::Chain}, Needs::Body, squat::standingKnee, "lean"},
    {{"standing_hip_deg", "Hip angle standing", "deg", "Set-up", D::Chain}, Needs::Body, squat::standingHip, "lean"},
    {{"trunk_lean_start_deg", "Torso angle at the start", "deg", "Set-up", D::Trunk},
     Needs::Body,
     squat::trunkStart,
     "lean"},
    {{"bar_below_shoulder_m", "Bar below shoulder", "m", "Set-up", D::Trunk},
     Needs::Body,
     squat::barBelowShoulder,
     "lean"},
    {{"descent_s", "Descent", "s", "Descent", D::BarPath}, Needs::Bar, bar::descent},
    {{"bar_peak_descent_mps", "Peak eccentric velocity", "m/s", "Descent", D::BarPath}, Needs::Bar, bar::peakDescent},
    {{"peak_drop_g", "Peak drop", "g", "Descent", D::BarPath}, Needs::Bar, bar::peakDrop},
    {{"braking_height_pct", "Braking starts at", "%", "Descent", D::BarPath}, Needs::Bar, bar::brakingHeight},
    {{"hips_before_knees_s", "Hips break before knees", "s", "Descent", D::Chain},
     Needs::Body,
     squat::hipsBeforeKnees,
     "lean"},
    {{"knee_arrival_pct", "Knees set by", "%", "Descent", D::Shin}, Needs::Body, squat::kneeArrival, "lean"},
    {{"trunk_lean_half_down_deg", "Torso angle halfway down", "deg", "Descent", D::Trunk},
     Needs::Body,
     squat::trunkHalfDown,
     "lean"},
    {{"hip_crease_above_knee_m", "Hip crease above knee", "m", "Bottom", D::Depth}, Needs::Body, squat::depth, "depth"},
    {{"trunk_lean_bottom_deg", "Torso angle in the hole", "deg", "Bottom", D::Trunk},
     Needs::Body,
     squat::trunkBottom,
     "lean"},
    {{"shin_bottom_deg", "Shin angle at the bottom", "deg", "Bottom", D::Shin}, Needs::Body, squat::shinBottom, "lean"},
    {{"upper_arm_to_trunk_deg", "Upper arm behind torso", "deg", "Bottom", D::Chain},
     Needs::Body,
     squat::upperArm,
     "lean"},
    {{"trunk_minus_shin_deg", "Torso minus shin", "deg", "Bottom", D::Chain},
     Needs::Body,
     squat::trunkMinusShin,
     "lean"},
    {{"knee_past_toe_m", "Knee past toe", "m", "Bottom", D::Knee}, Needs::Body, squat::kneePastToe, "lean"},
    {{"heel_lift_m", "Heel lift", "m", "Bottom", D::Heel}, Needs::Body, foot::heelLift, "feet"},
    {{"toe_lift_m", "Toe lift", "m", "Bottom", D::Heel}, Needs::Body, foot::toeLift, "feet"},
    {{"moment_arm_hip_m", "Hip moment arm", "m", "Bottom", D::Chain}, Needs::Body, squat::momentArmHip, "lean"},
    {{"moment_arm_knee_m", "Knee moment arm", "m", "Bottom", D::Chain}, Needs::Body, squat::momentArmKnee, "lean"},
    {{"moment_arm_ratio", "Hip : knee moment arm", "ratio", "Bottom", D::Chain},
     Needs::Body,
     squat::momentArmRatio,
     "lean"},
    {{"reversal_s", "Time at turnaround", "s", "Bottom", D::BarPath}, Needs::Bar, bar::reversal},
    {{"pause_s", "Pause", "s", "Bottom", D::BarPath}, Needs::Bar, bar::pause},
    {{"trunk_lean_gain_deg", "Lean gained out of the hole", "deg", "Ascent", D::Trunk},
     Needs::Body,
     squat::trunkGain,
     "lean"},
    {{"hip_shoulder_rise_ratio", "Hip rise over shoulder rise", "ratio", "Ascent", D::Chain},
     Needs::Body,
     squat::riseRatio,
     "lean"},
    {{"knee_slide_back_m", "Knees slide back", "m", "Ascent", D::Knee}, Needs::Body, squat::kneeSlide, "lean"},
    {{"knee_slide_back_pct_shin", "Knees slide back, of shin", "%", "Ascent", D::Knee},
     Needs::Body,
     squat::kneeSlidePct,
     "lean"},
    {{"bar_drift_reversal_m", "Bar drift out of the hole", "m", "Ascent", D::MidFoot},
     Needs::BarForward,
     bar::driftAtReversal},
    {{"shoulder_lurch_m", "Shoulder lurch", "m", "Ascent", D::Chain}, Needs::Body, squat::shoulderLurch, "lean"},
    {{"trunk_lean_quarter_up_deg", "Torso angle a quarter up", "deg", "Ascent", D::Trunk},
     Needs::Body,
     squat::trunkQuarterUp,
     "lean"},
    {{"trunk_lean_half_up_deg", "Torso angle halfway up", "deg", "Ascent", D::Trunk},
     Needs::Body,
     squat::trunkHalfUp,
     "lean"},
    {{"trunk_lean_three_quarters_up_deg", "Torso angle three quarters up", "deg", "Ascent", D::Trunk},
     Needs::Body,
     squat::trunkThreeQuartersUp,
     "lean"},
    {{"upper_arm_swing_deg", "Upper arm swing", "deg", "Ascent", D::Chain}, Needs::Body, squat::upperArmSwing, "lean"},
    {{"lean_mismatch_deg", "Lean, down vs up", "deg", "Ascent", D::Trunk}, Needs::Body, squat::leanMismatch, "lean"},
    {{"ascent_s", "Ascent", "s", "Ascent", D::BarPath}, Needs::Bar, bar::ascent},
    {{"bar_mean_ascent_mps", "Mean concentric velocity", "m/s", "Ascent", D::BarPath}, Needs::Bar, bar::meanAscent},
    {{"bar_peak_ascent_mps", "Peak concentric velocity", "m/s", "Ascent", D::BarPath}, Needs::Bar, bar::peakAscent},
    {{"sticking_height_pct", "Sticking point", "%", "Ascent", D::BarPath}, Needs::Bar, bar::stickingHeight},
    {{"lockout_gap_s", "Knees lock before hips", "s", "Lockout", D::Chain}, Needs::Body, squat::lockoutGap, "lockout"},
    {{"lockout_knee_deg", "Knee angle at lockout", "deg", "Lockout", D::Chain},
     Needs::Body,
     squat::lockoutKnee,
     "lockout"},
    {{"lockout_hip_deg", "Hip angle at lockout", "deg", "Lockout", D::Chain},
     Needs::Body,
     squat::lockoutHip,
     "lockout"},
    {{"lockout_hold_s", "Lockout held", "s", "Lockout", D::BarPath}, Needs::Bar, bar::lockoutHold},
    {{"bar_to_midfoot_mean_m", "Bar to mid-foot, mean", "m", "Bar", D::MidFoot},
     Needs::Body,
     bar::barToMidFootMean,
     "lean"},
    {{"bar_to_midfoot_max_m", "Bar to mid-foot, furthest", "m", "Bar", D::MidFoot},
     Needs::Body,
     bar::barToMidFootMax,
     "lean"},
    {{"bar_x_range_m", "Bar fore-aft travel", "m", "Bar", D::BarPath}, Needs::Bar, bar::barRange},
    {{"path_mirror_m", "Bar path, down vs up", "m", "Bar", D::BarPath}, Needs::Bar, bar::pathMirror},
    {{"stroke_m", "Range of motion", "m", "Bar", D::BarPath}, Needs::Bar, bar::stroke},
};

// Of one limb over another, where both lie in the picture's plane: standing before a rep.
Measure limbRatio(const Motion& m, const std::vector<Rep>& reps, std::array<Landmark, 2> limb,
                  std::array<Landmark, 2> other) {
  if (reps.empty()) return Absent{kHidden};
  const double t = reps.front().start_t();
  const auto a = m.placeAt(limb[0], t), b = m.placeAt(limb[1], t), c = m.placeAt(other[0], t),
             d = m.placeAt(other[1], t);
  if (!a || !b || !c || !d) return Absent{kHidden};
  const std::size_t i = m.frameAt(t);
  const double l = length(*b - *a), o = std::max(0.1, length(*d - *c));
  const auto sigma = [&](Landmark at) { return m.path(at).sigma_m[i]; };
  if (const Carried places = placesFrom(m.calibration); places.can == Can::No)
    return Absent{std::string(absentFor(places.why))};
  return Measured{
      l / o,
      l / o *
          std::hypot(std::hypot(sigma(limb[0]), sigma(limb[1])) / l, std::hypot(sigma(other[0]), sigma(other[1])) / o),
      t};
}

// Steps and seconds from the first foot that leaves its place to the last one put down.
std::array<Measure, 2> walkOut(const Motion& m, const std::vector<Rep>& reps) {
  const double until_t = reps.empty() ? m.times_s.back() : reps.front().start_t();
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

// A squat is ranked by height, lean added, knees sliding and the bar drifting.
constexpr RankTerm kRanking[]{{"hip_crease_above_knee_m", 0.03, false},
                              {"trunk_lean_gain_deg", 7, false},
                              {"knee_slide_back_pct_shin", 12, false},
                              {"bar_drift_reversal_m", 0.03, true}};

constexpr SetMeasure kSetMeasures[]{
    {{"walk_out_steps", "Steps of the walk-out", "steps", "Walk-out", D::None},
     [](const SetLook& k) { return walkOut(k.m, k.reps)[0]; }},
    {{"walk_out_s", "Time of the walk-out", "s", "Walk-out", D::None},
     [](const SetLook& k) { return walkOut(k.m, k.reps)[1]; }},
    {{"speed_loss_pct", "Velocity loss", "%", "Set", D::None}, speedLoss},
    {{"descent_change_s", "Descent, last against first", "s", "Set", D::None}, descentChange},
    {{"rep_spread_depth_m", "Rep variation, depth", "m", "Set", D::Depth},
     [](const SetLook& k) { return spread(k, "hip_crease_above_knee_m"); }},
    {{"rep_spread_trunk_lean_deg", "Rep spread, torso angle", "deg", "Set", D::Trunk},
     [](const SetLook& k) { return spread(k, "trunk_lean_bottom_deg"); }},
    {{"rep_spread_descent_s", "Rep variation, descent", "s", "Set", D::None},
     [](const SetLook& k) { return spread(k, "descent_s"); }},
    {{"rep_spread_bar_to_midfoot_m", "Rep variation, bar to mid-foot", "m", "Set", D::MidFoot},
     [](const SetLook& k) { return spread(k, "bar_to_midfoot_mean_m"); }},
    {{"thigh_to_trunk_ratio", "Thigh to torso", "ratio", "Set", D::Chain},
     [](const SetLook& k) {
       return limbRatio(k.m, k.reps, {Landmark::Knee, Landmark::Hip}, {Landmark::Hip, Landmark::Shoulder});
     }},
    {{"thigh_to_shin_ratio", "Thigh to shin", "ratio", "Set", D::Chain},
     [](const SetLook& k) {
       return limbRatio(k.m, k.reps, {Landmark::Knee, Landmark::Hip}, {Landmark::Ankle, Landmark::Knee});
     }},
    {{"best_rep", "Best rep", "rep", "Set", D::None}, [](const SetLook& k) { return bestRep(k, kRanking); }},
    {{"worst_rep", "Worst rep", "rep", "Set", D::None}, [](const SetLook& k) { return worstRep(k, kRanking); }},
};

constexpr NamedVariant kPositions[]{{"low-bar", "low bar"}, {"high-bar", "high bar"}, {"front", "front"}};
constexpr NamedVariant kTempos[]{{"paused", "paused"}};
constexpr std::string_view kWords[]{"squat", "sq"};
constexpr EventName kEvents[]{{EventKind::Start, "Start of the descent", "start_t"},
                              {EventKind::Bottom, "Bottom", "bottom_t"},
                              {EventKind::Ascent, "Start of the ascent", "ascent_t"},
                              {EventKind::Highest, "Highest point of a miss", "highest_t"},
                              {EventKind::Sticking, "Sticking point", "sticking_t"},
                              {EventKind::Lockout, "Lockout", "lockout_t"},
                              {EventKind::End, "End", "end_t"}};
constexpr SignalName kSignals[]{{motion::SignalPlace::BeforeDescent, "Squat"}, {motion::SignalPlace::AtTop, "Rack"}};
constexpr ClaimRow kClaims[]{
    {"depth", "Depth", Can::Yes, Can::No, Can::No, Can::No},
    {"bar_path", "Bar path and speed", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"lean", "Lean, shins, hips early", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"lockout", "Lockout", Can::Yes, Can::Weakly, Can::Weakly, Can::No},
    {"feet", "Heels and toes on the floor", Can::Yes, Can::Weakly, Can::Weakly, Can::Weakly},
    {"knee_line", "Knees in line, stance, toes out", Can::No, Can::Weakly, Can::Yes, Can::Weakly},
    {"bar_level", "Bar level, hips shifting", Can::No, Can::Weakly, Can::Yes, Can::Yes},
    {"sameness", "Reps alike", Can::Yes, Can::Weakly, Can::Yes, Can::Yes},
};

}  // namespace

LiftDefinition squatDefinition() {
  return {.id = LiftId::Squat,
          .name = "squat",
          .title = "squat",
          .words = kWords,
          .positions = kPositions,
          .tempos = kTempos,
          .usual = "low-bar",
          .pattern = motion::RepPattern::DownFirst,
          .rep_measures = kRepMeasures,
          .front_measures = front::standingMeasures(),
          .set_measures = kSetMeasures,
          .ranking = kRanking,
          .claims = kClaims,
          .events = kEvents,
          .referee_signals = kSignals,
          .way = "goes down and up again",
          .lens = "at hip height in the hole",
          .seen = "the whole shoe",
          .across_shows = "knees, hips, stance and the bar's level",
          .side_shows = "lean, depth and the bar's path",
          .safely = "in the rack with the safeties set, or with spotters",
          .body = {tracing::BarContact::Back, false, false},
          .racks_ahead = "front",
          // Squatters' bests were seen to move at 0.30 m/s: Izquierdo and others 2006, Conceicao and others 2016.
          .best_mps = 0.30,
          .best_sigma_mps = 0.05};
}

}  // namespace jib::lifts
