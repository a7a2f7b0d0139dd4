// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/bench.h"

#include "core/lifts/bar_path.h"
#include "core/lifts/bar_timing.h"
#include "core/lifts/between_reps.h"
#include "core/lifts/foot.h"
#include "core/lifts/measure_set.h"
#include "core/lifts/press_bar.h"
#include "core/lifts/press_body.h"
#include "core/lifts/press_front.h"

namespace jib::lifts {
namespace {

using motion::EventKind;
using D = Drawing;

constexpr RepMeasure kRepMeasures[]{
    {{"shoulder_rise_unrack_m", "Shoulder rise, unrack", "m", "Set-up", D::Chain},
     Needs::Body,
     press::shoulderRiseAtUnrack,
     "arms"},
    {{"shoulder_shift_m", "Shoulder vs last rep, feet +", "m", "Set-up", D::Chain},
     Needs::Body,
     between::shoulderShift,
     "arms"},
    {{"knee_below_hip_m", "Knee below hip", "m", "Set-up", D::Chain}, Needs::Body, press::kneeBelowHip, "base"},
    {{"stands_still_s", "Pause before descent", "s", "Set-up", D::BarPath}, Needs::Bar, bar::standsStill},
    {{"descent_s", "Descent", "s", "Descent", D::BarPath}, Needs::Bar, bar::descent},
    {{"bar_peak_descent_mps", "Peak eccentric velocity", "m/s", "Descent", D::BarPath}, Needs::Bar, bar::peakDescent},
    {{"peak_drop_g", "Peak drop", "g", "Descent", D::BarPath}, Needs::Bar, bar::peakDrop},
    {{"braking_height_pct", "Braking starts at", "%", "Descent", D::BarPath}, Needs::Bar, bar::brakingHeight},
    {{"touch_pause_s", "Pause on the chest", "s", "Touch", D::BarPath}, Needs::Bar, bar::pause, "pause"},
    {{"elbow_ahead_of_bar_touch_m", "Elbow ahead of bar", "m", "Touch", D::Forearm},
     Needs::Body,
     press::elbowAheadAtTouch,
     "arms"},
    {{"forearm_touch_deg", "Forearm lean", "deg", "Touch", D::Forearm}, Needs::Body, press::elbowAngleAtTouch, "arms"},
    {{"touch_from_shoulder_m", "Shoulder to touch", "m", "Touch", D::Forearm},
     Needs::Body,
     press::touchFromShoulder,
     "arms"},
    {{"rebound_ratio", "Bounce off the chest", "ratio", "Touch", D::BarPath}, Needs::Bar, press::rebound, "pause"},
    {{"bar_sink_m", "Bar sinks while paused", "m", "Touch", D::BarPath}, Needs::Bar, press::sink, "pause"},
    {{"flare_travel_deg", "Elbow flare", "deg", "Press", D::Forearm}, Needs::Body, press::flareTravel, "arms"},
    {{"hip_lift_m", "Hips off the pad", "m", "Press", D::Seat}, Needs::Body, press::hipLift, "base"},
    {{"heel_lift_m", "Heel lift", "m", "Press", D::Heel}, Needs::Body, press::heelLift, "base"},
    {{"ascent_s", "Press", "s", "Press", D::BarPath}, Needs::Bar, bar::ascent},
    {{"bar_mean_ascent_mps", "Mean concentric velocity", "m/s", "Press", D::BarPath}, Needs::Bar, bar::meanAscent},
    {{"bar_peak_ascent_mps", "Peak concentric velocity", "m/s", "Press", D::BarPath}, Needs::Bar, bar::peakAscent},
    {{"sticking_height_pct", "Sticking point", "%", "Press", D::BarPath}, Needs::Bar, bar::stickingHeight},
    {{"lockout_hold_s", "Lockout held", "s", "Lockout", D::BarPath}, Needs::Bar, bar::lockoutHold},
    {{"touch_to_lockout_shift_m", "Touch to lockout, fore-aft", "m", "Bar", D::BarPath},
     Needs::BarForward,
     press::touchToLockoutShift},
    {{"bar_x_range_m", "Bar fore-aft travel", "m", "Bar", D::BarPath}, Needs::Bar, bar::barRange},
    {{"path_mirror_m", "Bar path, down vs up", "m", "Bar", D::BarPath}, Needs::Bar, bar::pathMirror},
    {{"stroke_m", "Range of motion", "m", "Bar", D::BarPath}, Needs::Bar, bar::stroke},
};

constexpr RankTerm kRanking[]{{"bar_sink_m", 0.02, false},
                              {"hip_lift_m", 0.03, false},
                              {"elbow_ahead_of_bar_touch_m", 0.04, true},
                              {"bar_peak_descent_mps", 1.5, false}};

constexpr SetMeasure kSetMeasures[]{
    {{"speed_loss_pct", "Velocity loss", "%", "Set", D::None}, speedLoss},
    {{"descent_change_s", "Descent, last against first", "s", "Set", D::None}, descentChange},
    {{"rep_spread_descent_s", "Rep variation, descent", "s", "Set", D::None},
     [](const SetLook& k) { return spread(k, "descent_s"); }},
    {{"rep_spread_pause_s", "Rep variation, the pause", "s", "Set", D::None},
     [](const SetLook& k) { return spread(k, "touch_pause_s"); }},
    {{"rep_spread_stroke_m", "Rep variation, range of motion", "m", "Set", D::None},
     [](const SetLook& k) { return spread(k, "stroke_m"); }},
    {{"chest_drop_m", "Chest lower at the end", "m", "Set", D::None}, press::chestDrop},
    {{"best_rep", "Best rep", "rep", "Set", D::None}, [](const SetLook& k) { return bestRep(k, kRanking); }},
    {{"worst_rep", "Worst rep", "rep", "Set", D::None}, [](const SetLook& k) { return worstRep(k, kRanking); }},
};

constexpr NamedVariant kTempos[]{{"paused", "paused"}, {"touch-and-go", "touch and go"}};
constexpr std::string_view kWords[]{"bench", "bp"};
constexpr EventName kEvents[]{{EventKind::Start, "Start of the descent", "start_t"},
                              {EventKind::Bottom, "Touch", "touch_t"},
                              {EventKind::Ascent, "Press", "press_t"},
                              {EventKind::Highest, "Highest point of a miss", "highest_t"},
                              {EventKind::Sticking, "Sticking point", "sticking_t"},
                              {EventKind::Lockout, "Lockout", "lockout_t"},
                              {EventKind::End, "End", "end_t"}};
constexpr SignalName kSignals[]{{motion::SignalPlace::BeforeDescent, "Start"},
                                {motion::SignalPlace::AtTurn, "Press"},
                                {motion::SignalPlace::AtTop, "Rack"}};
constexpr ClaimRow kClaims[]{
    {"bar_path", "Bar path and speed", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"pause", "Pause on the chest", Can::Yes, Can::Yes, Can::Weakly, Can::Weakly},
    {"arms", "Forearms and elbows", Can::Yes, Can::No, Can::No, Can::Weakly},
    {"base", "Hips on the pad, heels, legs", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"bar_level", "Bar level, grip even", Can::No, Can::Weakly, Can::Yes, Can::Yes},
    {"sameness", "Reps alike", Can::Yes, Can::Weakly, Can::Yes, Can::Yes},
};

}  // namespace

LiftDefinition benchDefinition() {
  return {.id = LiftId::Bench,
          .name = "bench",
          .title = "bench press",
          .words = kWords,
          .positions = {},
          .tempos = kTempos,
          .usual = "paused",
          .pattern = motion::RepPattern::DownFirst,
          .rep_measures = kRepMeasures,
          .front_measures = press::benchEndMeasures(),
          .set_measures = kSetMeasures,
          .ranking = kRanking,
          .claims = kClaims,
          .events = kEvents,
          .referee_signals = kSignals,
          .way = "goes down and up again",
          .lens = "at bench height",
          .seen = "the near plate, your elbow, hips and feet",
          .across_shows = "the bar's level, hands and elbows",
          .side_shows = "the bar's path, the touch point and the hips",
          .safely = "with the safeties set, or with a spotter",
          .body = {tracing::BarContact::Hands, true, false},
          // Bests move at about 0.17 m/s: Gonzalez-Badillo and Sanchez-Medina 2010.
          .best_mps = 0.17,
          .best_sigma_mps = 0.04};
}

}  // namespace jib::lifts
