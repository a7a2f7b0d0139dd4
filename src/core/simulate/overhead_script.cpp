// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/overhead_script.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kUnrack_s = 0.6, kBack_s = 1.6, kReady_s = 1.8, kEnd_s = 1.2;
constexpr double kRackAhead_m = 0.34, kHooks_m = 0.04, kStepUp_m = 0.05;
constexpr double kDip_s = 0.45, kDrive_s = 0.25;           // of a press that the legs help
constexpr double kReadyLean_deg = -4, kPressLean_deg = 5;  // back, before and more of it under way
constexpr double kPast = 0.55, kThrough = 0.35;            // shares of the way: the bar is past the head, and how fast
constexpr double kStuck_s = 0.8;                           // of a miss, before it comes down

}  // namespace

struct OverheadScript::Hold {
  double share_up = 0, forward_m = 0, dip_m = 0, lean_deg = kReadyLean_deg, heel_m = 0, tilt_deg = 0;
};

OverheadScript::OverheadScript(const ClipSpec& spec) : LiftScript(spec), rise_(spec.set.sticking) {
  const SetSpec& set = spec_.set;
  pointElbows();
  if (set.walk_out) walked_s_ = kUnrack_s + kBack_s;
  double t = walked_s_ + kReady_s;
  for (int i = 0; i < set.reps; ++i) {
    ScriptedRep rep;
    rep.start_s = t;
    rep.bottom_s = rep.ascent_s = t + (set.faults.leg_drive_m > 0 ? kDip_s : 0);
    rep.top_s = rep.ascent_s + set.ascent_s * std::pow(1 + set.fade_ascent, i);
    rep.bottom_z_m = holding({}).bar.z - set.faults.leg_drive_m;
    rep.drift_m = set.faults.bar_drift_m * (1 + set.fade_fault * i);
    rep.share_up = set.missed_at > 0 && i + 1 == set.reps ? set.missed_at : 1;
    reps_.push_back(rep);
    t = rep.top_s + (rep.share_up < 1 ? kStuck_s : set.hold_s) + set.descent_s + set.rest_s;
  }
  duration_s_ = t - set.rest_s + kEnd_s + walked_s_;
}

// Where the elbows point for which they are as far ahead of the resting bar as is asked for.
void OverheadScript::pointElbows() {
  double low = -2, high = 6;
  for (int i = 0; i < 40; ++i) {
    elbow_ahead_ = (low + high) / 2;
    const Body body = holding({});
    (body.left_arm.elbow.x - body.bar.x < spec_.set.faults.elbow_ahead_m ? low : high) = elbow_ahead_;
  }
}

Body OverheadScript::holding(const Hold& hold) const {
  OverheadPose pose;
  pose.share_up = hold.share_up;
  pose.bar_forward_m = hold.forward_m;
  pose.dip_m = hold.dip_m;
  pose.trunk_lean_rad = radians(hold.lean_deg);
  pose.heel_m = hold.heel_m;
  pose.elbow_ahead = elbow_ahead_;
  pose.bar_tilt_rad = radians(hold.tilt_deg);
  return posedOverhead(build_, pose);
}

// The way up: a dip and a drive where the legs help, the bar round the head, the body under it.
OverheadScript::Hold OverheadScript::pressing(const ScriptedRep& rep, double t) const {
  const LiftFaults& faults = spec_.set.faults;
  const double worse = rep.drift_m > 0 ? rep.drift_m / std::max(1e-9, faults.bar_drift_m) : 1;
  const double share = std::clamp((t - rep.ascent_s) / (rep.top_s - rep.ascent_s), 0.0, 1.0);
  Hold hold;
  hold.dip_m = t < rep.ascent_s
                   ? faults.leg_drive_m * smooth((t - rep.start_s) / std::max(1e-9, rep.ascent_s - rep.start_s))
                   : faults.leg_drive_m * (1 - smooth((t - rep.ascent_s) / kDrive_s));
  hold.share_up = rep.share_up * rise_.at(share);
  const double back = smooth(hold.share_up / 0.2) * (1 - smooth((hold.share_up - kPast) / kThrough));
  const double upright = smooth((hold.share_up - kPast) / kThrough);
  hold.lean_deg = kReadyLean_deg * (1 - upright) - (kPressLean_deg + faults.trunk_pitch_deg) * worse * back;
  hold.forward_m = rep.drift_m * std::sin(kPi * hold.share_up);
  hold.heel_m = faults.heel_lift_m * std::sin(kPi * std::clamp(hold.share_up / 0.6, 0.0, 1.0));
  hold.tilt_deg = faults.bar_tilt_deg * std::sin(kPi * hold.share_up);
  return hold;
}

Body OverheadScript::at(double t) const {
  const SetSpec& set = spec_.set;
  for (const ScriptedRep& rep : reps_) {
    if (t < rep.start_s) break;
    if (t <= rep.top_s) return holding(pressing(rep, t));
    const double lowers_s = rep.top_s + (rep.share_up < 1 ? kStuck_s : set.hold_s);
    if (t > lowers_s + set.descent_s) continue;
    Hold hold = pressing(rep, rep.top_s);
    const double down = minimumJerk((t - lowers_s) / set.descent_s);
    hold.share_up *= 1 - down;
    hold.lean_deg += (kReadyLean_deg - hold.lean_deg) * down;
    return holding(hold);
  }
  // In the rack the bar is ahead and a little lower; a step or two back, and in again at the end.
  const double to_end = duration_s_ - t, from_rack = std::min(t, to_end);
  const double walked = walked_s_ > 0 ? smooth((from_rack - kUnrack_s) / kBack_s) : 1;
  if (walked >= 1) return holding({});
  Hold hold;
  hold.dip_m = kHooks_m * (1 - smooth(from_rack / kUnrack_s));
  Body body = moved(holding(hold), {kRackAhead_m * (1 - walked), 0, 0});
  const double stepping = std::sin(2 * kPi * walked);
  for (Leg* leg : {&body.left, &body.right}) {
    const double up = kStepUp_m * std::max(0.0, leg == &body.left ? stepping : -stepping);
    for (Vec3* p : {&leg->ankle, &leg->heel, &leg->toe, &leg->ball}) p->z += up;
  }
  return body;
}

}  // namespace jib::simulate
