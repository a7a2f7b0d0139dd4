// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/overhead.h"

#include "core/lifts/bar_path.h"
#include "core/lifts/bar_timing.h"
#include "core/lifts/measure_set.h"
#include "core/lifts/overhead_body.h"
#include "core/lifts/pull_bar.h"

namespace jib::lifts {
namespace {

using motion::EventKind;
using D = Drawing;

constexpr RepMeasure kRepMeasures[]{
    {{"bar_over_shoulder_start_m", "Bar above shoulder", "m", "Set-up", D::Chain},
     Needs::Body,
     overhead::barOverShoulder,
     "start"},
    {{"knee_dip_deg", "Knee dip", "deg", "Press", D::Knee}, Needs::Body, overhead::kneeDip, "trunk"},
    {{"lean_back_gain_deg", "Lean back vs lockout", "deg", "Press", D::Trunk},
     Needs::Body,
     overhead::leanBackGain,
     "trunk"},
    {{"ascent_s", "Press", "s", "Press", D::BarPath}, Needs::Bar, bar::ascent},
    {{"bar_mean_ascent_mps", "Mean concentric velocity", "m/s", "Press", D::BarPath}, Needs::Bar, bar::meanAscent},
    {{"bar_peak_ascent_mps", "Peak concentric velocity", "m/s", "Press", D::BarPath}, Needs::Bar, bar::peakAscent},
    {{"sticking_height_pct", "Sticking point", "%", "Press", D::BarPath}, Needs::Bar, bar::stickingHeight},
    {{"stall_s", "Stall", "s", "Press", D::BarPath}, Needs::Bar, pull::stall},
    {{"bar_to_midfoot_lockout_m", "Bar past mid-foot", "m", "Lockout", D::MidFoot},
     Needs::Body,
     overhead::barPastMidFoot,
     "bar_over_foot"},
    {{"lockout_hold_s", "Lockout held", "s", "Lockout", D::BarPath}, Needs::Bar, bar::lockoutHold},
    {{"lowering_s", "Lowering", "s", "Lowering", D::BarPath}, Needs::Bar, pull::lowering},
    {{"bar_peak_descent_mps", "Peak eccentric velocity", "m/s", "Lowering", D::BarPath},
     Needs::Bar,
     pull::peakLowering},
    {{"bar_forward_drift_m", "Bar drift forward", "m", "Bar", D::BarPath}, Needs::BarForward, pull::forwardDrift},
    {{"bar_x_range_m", "Bar fore-aft travel", "m", "Bar", D::BarPath}, Needs::Bar, bar::barRange},
    {{"stroke_m", "Range of motion", "m", "Bar", D::BarPath}, Needs::Bar, bar::stroke},
};

constexpr RankTerm kRanking[]{
    {"bar_forward_drift_m", 0.04, false}, {"lean_back_gain_deg", 10, false}, {"stall_s", 0.5, false}};

constexpr SetMeasure kSetMeasures[]{
    {{"speed_loss_pct", "Velocity loss", "%", "Set", D::None}, speedLoss},
    {{"rep_spread_ascent_s", "Rep variation, the press", "s", "Set", D::None},
     [](const SetLook& k) { return spread(k, "ascent_s"); }},
    {{"rep_spread_stroke_m", "Rep variation, range of motion", "m", "Set", D::None},
     [](const SetLook& k) { return spread(k, "stroke_m"); }},
    {{"best_rep", "Best rep", "rep", "Set", D::None}, [](const SetLook& k) { return bestRep(k, kRanking); }},
    {{"worst_rep", "Worst rep", "rep", "Set", D::None}, [](const SetLook& k) { return worstRep(k, kRanking); }},
};

constexpr NamedVariant kPositions[]{{"strict", "strict"}, {"push", "push press"}};
constexpr NamedVariant kTempos[]{{"paused", "paused"}, {"touch-and-go", "touch and go"}};
constexpr std::string_view kWords[]{"ohp"};
constexpr EventName kEvents[]{{EventKind::LiftOff, "Start of the press", "press_t"},
                              {EventKind::Highest, "Highest point of a miss", "highest_t"},
                              {EventKind::Sticking, "Sticking point", "sticking_t"},
                              {EventKind::Lockout, "Lockout", "lockout_t"},
                              {EventKind::Lowering, "Start of the lowering", "lowering_t"},
                              {EventKind::End, "Back on the shoulders", "end_t"}};
constexpr ClaimRow kClaims[]{
    {"bar_path", "Bar path and speed", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"start", "Bar on the shoulders at the start", Can::Yes, Can::Weakly, Can::Weakly, Can::No},
    {"trunk", "Torso, hips and knees", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"bar_over_foot", "Bar over mid-foot", Can::Yes, Can::Weakly, Can::No, Can::No},
    {"bar_level", "Bar level, grip even", Can::No, Can::Weakly, Can::Yes, Can::Yes},
    {"sameness", "Reps alike", Can::Yes, Can::Weakly, Can::Yes, Can::Yes},
};

}  // namespace

LiftDefinition overheadDefinition() {
  return {.id = LiftId::Overhead,
          .name = "overhead",
          .title = "overhead press",
          .words = kWords,
          .positions = kPositions,
          .tempos = kTempos,
          .usual = "strict",
          .pattern = motion::RepPattern::UpFromShoulders,
          .rep_measures = kRepMeasures,
          .front_measures = {},  // tried: ends of the bar behind and before the body were off by 4 to 11 cm
          .set_measures = kSetMeasures,
          .ranking = kRanking,
          .claims = kClaims,
          .events = kEvents,
          .referee_signals = {},
          .way = "leaves the shoulders and comes to lockout overhead",
          .lens = "at chest height",
          .seen = "the near plate, overhead too, and the floor under your shoes",
          .across_shows = "the bar's level and the hands",
          .side_shows = "the bar's path, the torso and the knees",
          .safely = "in the rack, with the safeties set",
          .body = {.contact = tracing::BarContact::Hands, .starts_low = true, .overhead = true},
          .contested = false,
          // Bests move at about 0.19 m/s: Balsalobre-Fernandez and others 2018.
          .best_mps = 0.19,
          .best_sigma_mps = 0.05};
}

}  // namespace jib::lifts
