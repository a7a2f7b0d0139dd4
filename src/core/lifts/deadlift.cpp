// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/deadlift.h"

#include "core/lifts/bar_path.h"
#include "core/lifts/bar_timing.h"
#include "core/lifts/between_reps.h"
#include "core/lifts/front_body.h"
#include "core/lifts/measure_set.h"
#include "core/lifts/pull_bar.h"
#include "core/lifts/pull_body.h"
#include "core/lifts/pull_speed.h"

namespace jib::lifts {
namespace {

using motion::EventKind;
using D = Drawing;

constexpr RepMeasure kRepMeasures[]{
    {{"bar_still_before_liftoff_s", "Bar still before lift-off", "s", "Set-up", D::BarPath},
     Needs::Bar,
     pull::stillBeforeLiftOff},
    {{"floor_rest_s", "Rest on the floor", "s", "Set-up", D::BarPath}, Needs::Bar, between::restOnFloor},
    {{"start_shift_m", "Bar start vs last rep, fwd +", "m", "Set-up", D::BarPath},
     Needs::BarForward,
     between::startShift},
    {{"trunk_lean_set_deg", "Torso when set", "deg", "Set-up", D::Trunk}, Needs::Body, pull::trunkAtSet, "trunk"},
    {{"hip_rise_before_liftoff_m", "Hips rise first", "m", "Lift-off", D::Chain},
     Needs::Body,
     pull::hipRiseBeforeLiftOff,
     "hips"},
    {{"hip_height_liftoff_pct", "Hip height at start", "%", "Lift-off", D::Chain},
     Needs::Body,
     pull::hipHeightAtLiftOff,
     "hips"},
    {{"shoulder_ahead_of_bar_m", "Shoulder past bar", "m", "Lift-off", D::Chain},
     Needs::Body,
     pull::shoulderAheadOfBar,
     "trunk"},
    {{"trunk_lean_liftoff_deg", "Torso at lift-off", "deg", "Lift-off", D::Trunk},
     Needs::Body,
     pull::trunkAtLiftOff,
     "trunk"},
    {{"trunk_change_liftoff_deg", "Torso change, set to lift-off", "deg", "Lift-off", D::Trunk},
     Needs::Body,
     pull::trunkChange,
     "trunk"},
    {{"shin_liftoff_deg", "Shin at lift-off", "deg", "Lift-off", D::Shin}, Needs::Body, pull::shinAtLiftOff, "shins"},
    {{"bar_to_midfoot_liftoff_m", "Bar past mid-foot", "m", "Lift-off", D::MidFoot},
     Needs::Body,
     pull::barToMidFootAtLiftOff,
     "bar_over_foot"},
    {{"trunk_lean_knee_deg", "Torso, bar at knee", "deg", "Pull", D::Trunk}, Needs::Body, pull::trunkAtKnee, "trunk"},
    {{"ascent_s", "Pull", "s", "Pull", D::BarPath}, Needs::Bar, bar::ascent},
    {{"bar_mean_ascent_mps", "Mean concentric velocity", "m/s", "Pull", D::BarPath}, Needs::Bar, bar::meanAscent},
    {{"bar_peak_ascent_mps", "Peak concentric velocity", "m/s", "Pull", D::BarPath}, Needs::Bar, bar::peakAscent},
    {{"floor_speed_mps", "Speed off the floor", "m/s", "Pull", D::BarPath}, Needs::Bar, pull::floorSpeed},
    {{"middle_speed_mps", "Speed half-way up", "m/s", "Pull", D::BarPath}, Needs::Bar, pull::middleSpeed},
    {{"top_speed_mps", "Speed near the top", "m/s", "Pull", D::BarPath}, Needs::Bar, pull::topSpeed},
    {{"sticking_height_pct", "Sticking point", "%", "Pull", D::BarPath}, Needs::Bar, bar::stickingHeight},
    {{"top_to_floor_speed_ratio", "Top over floor speed", "ratio", "Pull", D::BarPath},
     Needs::Bar,
     pull::topOverFloorSpeed},
    {{"stall_s", "Stall", "s", "Pull", D::BarPath}, Needs::Bar, pull::stall},
    {{"dip_m", "Bar dips", "m", "Pull", D::BarPath}, Needs::Bar, pull::dip},
    {{"hips_lock_after_knees_s", "Hips after knees", "s", "Lockout", D::Chain},
     Needs::Body,
     pull::hipsLockAfterKnees,
     "lockout"},
    {{"lockout_hip_deg", "Hip angle", "deg", "Lockout", D::Chain}, Needs::Body, pull::lockoutHip, "lockout"},
    {{"lockout_knee_deg", "Knee angle", "deg", "Lockout", D::Chain}, Needs::Body, pull::lockoutKnee, "lockout"},
    {{"lockout_hold_s", "Lockout held", "s", "Lockout", D::BarPath}, Needs::Bar, bar::lockoutHold},
    {{"lowering_s", "Lowering", "s", "Lowering", D::BarPath}, Needs::Bar, pull::lowering},
    {{"bar_peak_descent_mps", "Peak eccentric velocity", "m/s", "Lowering", D::BarPath},
     Needs::Bar,
     pull::peakLowering},
    {{"bar_loop_m", "Bar loops in front", "m", "Bar", D::BarPath}, Needs::BarForward, pull::loop},
    {{"bar_forward_drift_m", "Bar drift forward", "m", "Bar", D::BarPath}, Needs::BarForward, pull::forwardDrift},
    {{"bar_x_range_m", "Bar fore-aft travel", "m", "Bar", D::BarPath}, Needs::Bar, bar::barRange},
    {{"stroke_m", "Range of motion", "m", "Bar", D::BarPath}, Needs::Bar, bar::stroke},
};

constexpr RankTerm kRanking[]{{"bar_loop_m", 0.03, false}, {"stall_s", 0.5, false}, {"dip_m", 0.02, false}};

constexpr SetMeasure kSetMeasures[]{
    {{"speed_loss_pct", "Velocity loss", "%", "Set", D::None}, speedLoss},
    {{"rep_spread_ascent_s", "Rep variation, the pull", "s", "Set", D::None},
     [](const SetLook& k) { return spread(k, "ascent_s"); }},
    {{"rep_spread_stroke_m", "Rep variation, range of motion", "m", "Set", D::None},
     [](const SetLook& k) { return spread(k, "stroke_m"); }},
    {{"rep_spread_loop_m", "Rep variation, the loop", "m", "Set", D::None},
     [](const SetLook& k) { return spread(k, "bar_loop_m"); }},
    {{"best_rep", "Best rep", "rep", "Set", D::None}, [](const SetLook& k) { return bestRep(k, kRanking); }},
    {{"worst_rep", "Worst rep", "rep", "Set", D::None}, [](const SetLook& k) { return worstRep(k, kRanking); }},
};

constexpr NamedVariant kPositions[]{{"conventional", "conventional"}, {"sumo", "sumo"}, {"hex", "hex bar"}};
constexpr NamedVariant kTempos[]{{"touch-and-go", "touch and go"}, {"paused", "paused"}};
constexpr std::string_view kWords[]{"deadlift", "dl"};
constexpr EventName kEvents[]{{EventKind::HandsOn, "Hands on the bar", "hands_t"},
                              {EventKind::Start, "Start of the pull", "start_t"},
                              {EventKind::LiftOff, "Lift-off", "liftoff_t"},
                              {EventKind::Highest, "Highest point of a miss", "highest_t"},
                              {EventKind::Sticking, "Sticking point", "sticking_t"},
                              {EventKind::Lockout, "Lockout", "lockout_t"},
                              {EventKind::Lowering, "Start of the lowering", "lowering_t"},
                              {EventKind::End, "Plates down", "end_t"}};
constexpr SignalName kSignals[]{{motion::SignalPlace::AtTop, "Down"}};
constexpr ClaimRow kClaims[]{
    {"bar_path", "Bar path and speed", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"hips", "Hips against bar and shoulders", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"trunk", "Torso and shoulder over the bar", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"shins", "Shins", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"bar_over_foot", "Bar over mid-foot", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"lockout", "Lockout of knees and hips", Can::Yes, Can::Weakly, Can::Weakly, Can::Weakly},
    {"knee_line", "Knees in line, stance", Can::No, Can::Weakly, Can::Yes, Can::Weakly},
    {"bar_level", "Bar level, hips shifting", Can::No, Can::Weakly, Can::Yes, Can::Yes},
    {"sameness", "Reps alike", Can::Yes, Can::Weakly, Can::Yes, Can::Yes},
};

}  // namespace

LiftDefinition deadliftDefinition() {
  return {.id = LiftId::Deadlift,
          .name = "deadlift",
          .title = "deadlift",
          .words = kWords,
          .positions = kPositions,
          .tempos = kTempos,
          .usual = "conventional",
          .pattern = motion::RepPattern::UpFirst,
          .rep_measures = kRepMeasures,
          .front_measures = front::hangingMeasures(),
          .set_measures = kSetMeasures,
          .ranking = kRanking,
          .claims = kClaims,
          .events = kEvents,
          .referee_signals = kSignals,
          .way = "leaves the floor and comes to lockout",
          .lens = "at knee height",
          .seen = "the near plate and the floor under your shoes",
          .across_shows = "knees, hips, hands and the bar's level",
          .side_shows = "lean, hip height and the bar's path",
          .body = {tracing::BarContact::Hands, false, true},
          .stands_inside = "hex",
          .stands_wide = "sumo",
          // Bests move at about 0.15 m/s, with wide scatter between people: Lake and others 2017.
          .best_mps = 0.15,
          .best_sigma_mps = 0.05};
}

}  // namespace jib::lifts
