// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/squat_script.h"

#include <algorithm>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kShinTop_deg = 4;
constexpr double kRack_m = 0.34;      // how far ahead the bar hangs before the walk-out
constexpr double kSoftRack_m = 0.05;  // the bar hangs this much below standing height
constexpr double kWait_s = 0.6, kUnrack_s = 0.7, kStep_s = 0.55, kSettle_s = 1.1;
constexpr int kSteps = 3;

// Zero at the bottom and after the first 45 % of the rise, 1 around a fifth to a third.
double earlyAscent(double risen) {
  return smooth(risen / 0.18) * (1 - smooth((risen - 0.30) / 0.35));
}

Foot standing(double heel_m = 0) {
  return {0, 0, heel_m};
}

}  // namespace

SquatScript::SquatScript(const ClipSpec& spec) : LiftScript(spec), rise_(spec.set.sticking) {
  standing_z_m_ = standingBarHeight();
  settled_s_ = spec.set.walk_out ? kWait_s + kUnrack_s + kSteps * kStep_s + kSettle_s : 1.0;
  scheduleReps(settled_s_);
}

double SquatScript::standingBarHeight() const {
  // The highest bar at which the knee keeps a few degrees of bend.
  double low = 0.5 * build_.spec.stature_m, high = build_.spec.stature_m;
  for (int i = 0; i < 40; ++i) {
    const double z = (low + high) / 2;
    const Body body = posed(build_, {0, z}, leanForShin(build_, {0, z}, kShinTop_deg, standing(), standing()),
                            standing(), standing());
    const Leg& leg = body.left;
    const bool reached = length(leg.hip - leg.knee) < build_.thigh * 1.0005;
    const double knee_deg = included_deg({leg.ankle.x, leg.ankle.z}, {leg.knee.x, leg.knee.z}, {leg.hip.x, leg.hip.z});
    (reached && knee_deg < 174 ? low : high) = z;
  }
  return low;
}

double SquatScript::shinAt(double share_down) const {
  return kShinTop_deg + (spec_.set.shin_bottom_deg - kShinTop_deg) * smooth(share_down / 0.62);
}

Body SquatScript::bottomBody(double z, const ScriptedRep& rep) const {
  const Foot foot = standing(rep.heel_m);
  const double lean = leanForShin(build_, {0, z}, spec_.set.shin_bottom_deg, foot, foot);
  return posed(build_, {0, z}, lean, foot, foot);
}

double SquatScript::bottomFor(double depth_m, const ScriptedRep& rep) const {
  double low = 0.3 * build_.spec.stature_m, high = standing_z_m_;
  for (int i = 0; i < 40; ++i) {
    const double z = (low + high) / 2;
    const Body body = bottomBody(z, rep);
    const double depth = hipCrease(build_, body.left).z - kneeTop(build_, body.left).z;
    (depth < depth_m ? low : high) = z;
  }
  return low;
}

SquatScript::Pose SquatScript::poseInRep(const ScriptedRep& rep, double t) const {
  const double stroke = standing_z_m_ - rep.bottom_z_m;
  if (t < rep.bottom_s) {
    const double down = minimumJerk((t - rep.start_s) / (rep.bottom_s - rep.start_s));
    return {{0, standing_z_m_ - stroke * down}, shinAt(down), rep.heel_m * smooth((down - 0.5) / 0.4)};
  }
  const double risen = rise_.at((t - rep.ascent_s) / (rep.top_s - rep.ascent_s));
  const double early = earlyAscent(risen);
  const double shin = shinAt(1 - risen);
  const double knee_back = degrees(rep.slide_m * early / (build_.shin * std::cos(radians(shin))));
  return {{rep.drift_m * early, rep.bottom_z_m + stroke * risen},
          shin - knee_back,
          rep.heel_m * smooth((1 - risen - 0.5) / 0.4)};
}

double SquatScript::extraSlideForPitch(ScriptedRep rep, double pitch_deg) const {
  const auto gain = [&](double extra) {
    ScriptedRep tried = rep;
    tried.slide_m += extra;
    const double stroke = standing_z_m_ - tried.bottom_z_m;
    const double bottom = leanForShin(build_, {0, tried.bottom_z_m}, spec_.set.shin_bottom_deg, standing(tried.heel_m),
                                      standing(tried.heel_m));
    double most = bottom;
    for (double s = 0; s <= 1; s += 0.02) {
      const Pose pose = poseInRep(tried, tried.ascent_s + s * (tried.top_s - tried.ascent_s));
      if (pose.bar.z > tried.bottom_z_m + stroke / 3) break;
      const Foot foot = standing(pose.heel_m);
      most = std::max(most, leanForShin(build_, pose.bar, pose.shin_deg, foot, foot));
    }
    return degrees(most - bottom);
  };
  const double wanted = gain(0) + pitch_deg;
  double low = 0, high = 0.15;
  for (int i = 0; i < 20; ++i) {
    const double middle = (low + high) / 2;
    (gain(middle) < wanted ? low : high) = middle;
  }
  return low;
}

void SquatScript::scheduleReps(double t) {
  const SetSpec& set = spec_.set;
  for (int i = 0; i < set.reps; ++i) {
    const double more = 1 + set.fade_fault * i;
    const double up_s = set.ascent_s * std::pow(1 + set.fade_ascent, i);
    ScriptedRep rep{t,
                    t + set.descent_s,
                    t + set.descent_s + set.pause_s,
                    t + set.descent_s + set.pause_s + up_s,
                    0,
                    set.faults.knee_slide_back_m * more,
                    set.faults.bar_drift_m * more,
                    set.faults.heel_lift_m * more};
    rep.bottom_z_m = bottomFor(set.depth_m + set.fade_depth_m * i, rep);
    if (set.faults.trunk_pitch_deg > 0) rep.slide_m += extraSlideForPitch(rep, set.faults.trunk_pitch_deg * more);
    reps_.push_back(rep);
    t = rep.top_s + set.rest_s;
  }
  duration_s_ = t + 0.4;
}

Body SquatScript::at(double t) const {
  for (const ScriptedRep& rep : reps_) {
    if (t < rep.start_s || t > rep.top_s) continue;
    const Pose pose = poseInRep(rep, t);
    Foot foot = standing(pose.heel_m);
    const double lean = leanForShin(build_, pose.bar, pose.shin_deg, foot, foot);
    if (t > rep.ascent_s) {
      const double risen = (pose.bar.z - rep.bottom_z_m) / (standing_z_m_ - rep.bottom_z_m);
      foot.knee_in = spec_.set.faults.knee_cave_m * smooth(risen / 0.2) * (1 - smooth((risen - 0.2) / 0.4));
    }
    return posed(build_, pose.bar, lean, foot, foot);
  }
  MetrePoint bar{0, standing_z_m_};
  Foot left = standing(), right = standing();
  double shin_deg = kShinTop_deg;
  if (spec_.set.walk_out && t < settled_s_) {
    const double up = smooth((t - kWait_s) / kUnrack_s);
    const double walking = t - kWait_s - kUnrack_s;
    bar.z -= kSoftRack_m * (1 - up);
    shin_deg += 14 * (1 - up);
    left.x = right.x = kRack_m;
    // The feet go back in turn, the last step brings them level; the bar follows between them and dips a little.
    const double reach[kSteps] = {0.75, 1.0, 1.0};
    for (int step = 0; step < kSteps; ++step) {
      Foot& foot = step % 2 == 0 ? left : right;
      const double s = std::clamp(walking / kStep_s - step, 0.0, 1.0);
      const double to = kRack_m * (1 - reach[step]);
      foot.x += (to - foot.x) * minimumJerk(s);
      foot.lift += 0.05 * std::sin(kPi * s);
      bar.z -= 0.012 * std::sin(kPi * s);
    }
    bar.x = kRack_m * (1 - minimumJerk(walking / (kSteps * kStep_s)));
    // While the feet are apart the hip stays under the bar; a fixed lean keeps both legs within reach.
    const double still = leanForShin(build_, {0, standing_z_m_}, kShinTop_deg, standing(), standing());
    if (walking > 0 && walking < kSteps * kStep_s + 0.3) {
      const double settle = smooth((walking - kSteps * kStep_s) / 0.3);
      bar.z -= 0.025 * smooth(walking / 0.2) * (1 - settle);
      return posed(build_, bar, still, left, right);
    }
  }
  const MetrePoint over_feet{bar.x - left.x, bar.z};
  return posed(build_, bar, leanForShin(build_, over_feet, shin_deg, standing(), standing()), left, right);
}

}  // namespace jib::simulate
