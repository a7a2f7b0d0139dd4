// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/deadlift_script.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kReady_s = 1.6;  // bent to the bar before the first pull
constexpr double kEnd_s = 0.8;
constexpr double kShinTop_deg = 2;
constexpr double kHipsUp_s = 0.35;                // hips that rise first take so long
constexpr double kStand_s = 0.8;                  // over the bar, before bending down to it
constexpr double kRoll_s = 0.5;                   // the bar rolls away and back
constexpr double kHitchFrom = 0.5, kHitch = 0.2;  // shares of the pull's time

}  // namespace

DeadliftScript::DeadliftScript(const ClipSpec& spec) : LiftScript(spec), rise_(spec.set.sticking) {
  // Inside a hex bar the hands are at the sides: shins lean further, shoulders stand over the handles.
  if (spec.set.variant == "hex") stance_ = {.shin_deg = 22, .shoulder_ahead_m = 0, .grip_m = 0.31};
  floor_z_m_ = spec.plate_mm / 2000;
  top_z_m_ = lockoutHeight();
  sunk_shin_deg_ = sunkShin_deg();
  const SetSpec& set = spec_.set;
  double t = (set.approach_s > 0 ? kStand_s + set.approach_s : 0) + kReady_s;
  for (int i = 0; i < set.reps; ++i) {
    const double up_s = set.ascent_s * std::pow(1 + set.fade_ascent, i);
    ScriptedRep rep;
    rep.start_s = rep.bottom_s = rep.ascent_s = t;
    rep.top_s = t + up_s;
    rep.bottom_z_m = floor_z_m_;
    rep.drift_m = set.faults.bar_drift_m * (1 + set.fade_fault * i);
    rep.floor_m = set.faults.wander_m * i;
    rep.share_up = set.missed_at > 0 && i + 1 == set.reps ? set.missed_at : 1;
    reps_.push_back(rep);
    t = rep.top_s + set.hold_s + set.descent_s + set.rest_s;
  }
  duration_s_ = t - set.rest_s + kEnd_s + (set.approach_s > 0 ? set.approach_s + kStand_s : 0);
}

double DeadliftScript::lockoutHeight() const {
  double low = floor_z_m_, high = build_.spec.stature_m;
  for (int i = 0; i < 40; ++i) {
    const double z = (low + high) / 2;
    (reachesHanging(build_, {0, z}, 0, kShinTop_deg, stance_.grip_m) ? low : high) = z;
  }
  return low - 0.004;
}

// How much further forward the shins stand when the hips are as low as they begin.
double DeadliftScript::sunkShin_deg() const {
  const double wanted = spec_.set.faults.hip_rise_m;
  if (wanted <= 0) return 0;
  const auto hip = [&](double more_deg) {
    return posedHanging(build_, {0, floor_z_m_}, stance_.shoulder_ahead_m, stance_.shin_deg + more_deg, stance_.grip_m)
        .mid_hip.z;
  };
  double low = 0, high = 30;
  for (int i = 0; i < 40; ++i) {
    const double middle = (low + high) / 2;
    (hip(0) - hip(middle) < wanted ? low : high) = middle;
  }
  return low;
}

Body DeadliftScript::holding(const Hold& hold) const {
  const double up = hold.share_up;
  const double shin =
      kShinTop_deg + (stance_.shin_deg - kShinTop_deg) * (1 - smooth(up / 0.5)) + hold.sunk * sunk_shin_deg_;
  const MetrePoint hands{hold.forward_m, floor_z_m_ + hold.bend_m + up * (top_z_m_ - floor_z_m_)};
  Body body = posedHanging(build_, hands, stance_.shoulder_ahead_m * (1 - smooth(up)), shin, stance_.grip_m);
  body.bar.z -= hold.bend_m;
  body.shaft_bend_m = hold.bend_m;
  return body;
}

// The bar lies on the floor; the hands are on their way to or from it.
Body DeadliftScript::standingOver(double up, double forward_m) const {
  Body body = holding({.share_up = up, .forward_m = forward_m, .sunk = 1 - up});
  body.bar.z = floor_z_m_;
  return body;
}

Body DeadliftScript::pulling(const ScriptedRep& rep, double t) const {
  const SetSpec& set = spec_.set;
  double share = (t - rep.start_s) / (rep.top_s - rep.start_s), sunk = 0;
  if (set.faults.dip_m > 0) {
    // A hitch: the bar stops on the thighs, sinks and comes back, and goes on from there.
    const double in_hitch = std::clamp((share - kHitchFrom) / kHitch, 0.0, 1.0);
    share = (share - kHitch * in_hitch) / (1 - kHitch);
    sunk = set.faults.dip_m * std::sin(kPi * in_hitch);
  }
  const double up = rep.share_up * rise_.at(share) - sunk / (top_z_m_ - floor_z_m_);
  return holding({.share_up = up,
                  .forward_m = rep.floor_m + rep.drift_m * std::sin(kPi * std::clamp(up, 0.0, 1.0)),
                  .bend_m = set.shaft_bend_m * (set.slack_s > 0 ? 1 : smooth(up / 0.1))});
}

Body DeadliftScript::ready(double before_s, double after_s, double from_m, double to_m) const {
  const SetSpec& set = spec_.set;
  Hold hold;
  hold.sunk = std::min(smooth(before_s / kHipsUp_s), smooth(after_s / kHipsUp_s));
  hold.forward_m = from_m + (to_m - from_m) * smooth(after_s / kHipsUp_s);
  if (before_s < kRoll_s) hold.forward_m += set.faults.roll_m * std::sin(kPi * before_s / kRoll_s);
  if (set.slack_s > 0 && before_s < set.slack_s)
    hold.bend_m = set.shaft_bend_m * smooth(2 * (1 - before_s / set.slack_s));
  return holding(hold);
}

Body DeadliftScript::at(double t) const {
  const SetSpec& set = spec_.set;
  const double stood_s = set.approach_s > 0 ? kStand_s : 0;
  if (t < stood_s + set.approach_s) return standingOver(1 - smooth((t - stood_s) / set.approach_s), 0);
  double down_s = stood_s + set.approach_s - kHipsUp_s, lies_m = 0;
  for (const ScriptedRep& rep : reps_) {
    const double lowered = rep.top_s + set.hold_s;
    if (t < rep.start_s) return ready(rep.start_s - t, t - down_s, lies_m, rep.floor_m);
    if (t <= rep.top_s) return pulling(rep, t);
    down_s = lowered + set.descent_s;
    lies_m = rep.floor_m;
    if (t > down_s) continue;
    const double up = rep.share_up * (1 - minimumJerk((t - lowered) / set.descent_s));
    return holding({.share_up = up, .forward_m = lies_m, .bend_m = set.shaft_bend_m * smooth(up / 0.1)});
  }
  const double ended_s = down_s + kEnd_s;
  if (set.approach_s > 0 && t > ended_s) return standingOver(smooth((t - ended_s) / set.approach_s), lies_m);
  return ready(kReady_s, t - down_s, lies_m, lies_m);
}

}  // namespace jib::simulate
