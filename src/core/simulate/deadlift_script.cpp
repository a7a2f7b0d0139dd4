// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/deadlift_script.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kReady_s = 1.6;  // bent to the bar before the first pull
constexpr double kEnd_s = 0.8;
constexpr double kShinFloor_deg = 14, kShinTop_deg = 2;
constexpr double kShoulderAhead_m = 0.05;  // of the bar, on the floor
constexpr double kGrip_m = 0.25;
constexpr double kHipsUp_s = 0.35;  // hips that rise first take so long

}  // namespace

DeadliftScript::DeadliftScript(const ClipSpec& spec) : LiftScript(spec), rise_(spec.set.sticking) {
  floor_z_m_ = spec.plate_mm / 2000;
  top_z_m_ = lockoutHeight();
  sunk_shin_deg_ = sunkShin_deg();
  const SetSpec& set = spec_.set;
  double t = kReady_s;
  for (int i = 0; i < set.reps; ++i) {
    const double up_s = set.ascent_s * std::pow(1 + set.fade_ascent, i);
    ScriptedRep rep;
    rep.start_s = rep.bottom_s = rep.ascent_s = t;
    rep.top_s = t + up_s;
    rep.bottom_z_m = floor_z_m_;
    rep.drift_m = set.faults.bar_drift_m * (1 + set.fade_fault * i);
    reps_.push_back(rep);
    t = rep.top_s + set.hold_s + set.descent_s + set.rest_s;
  }
  duration_s_ = t - set.rest_s + kEnd_s;
}

double DeadliftScript::lockoutHeight() const {
  double low = floor_z_m_, high = build_.spec.stature_m;
  for (int i = 0; i < 40; ++i) {
    const double z = (low + high) / 2;
    (reachesHanging(build_, {0, z}, 0, kShinTop_deg, kGrip_m) ? low : high) = z;
  }
  return low - 0.004;
}

// How much further forward the shins stand when the hips are as low as they begin.
double DeadliftScript::sunkShin_deg() const {
  const double wanted = spec_.set.faults.hip_rise_m;
  if (wanted <= 0) return 0;
  const auto hip = [&](double more_deg) {
    return posedHanging(build_, {0, floor_z_m_}, kShoulderAhead_m, kShinFloor_deg + more_deg, kGrip_m).mid_hip.z;
  };
  double low = 0, high = 30;
  for (int i = 0; i < 40; ++i) {
    const double middle = (low + high) / 2;
    (hip(0) - hip(middle) < wanted ? low : high) = middle;
  }
  return low;
}

Body DeadliftScript::holding(double up, double drift_m, double sunk) const {
  const double shin = kShinTop_deg + (kShinFloor_deg - kShinTop_deg) * (1 - smooth(up / 0.5)) + sunk * sunk_shin_deg_;
  const double loop = drift_m * std::sin(kPi * std::clamp(up, 0.0, 1.0));
  const MetrePoint bar{loop, floor_z_m_ + up * (top_z_m_ - floor_z_m_)};
  return posedHanging(build_, bar, kShoulderAhead_m * (1 - smooth(up)), shin, kGrip_m);
}

Body DeadliftScript::at(double t) const {
  const SetSpec& set = spec_.set;
  for (const ScriptedRep& rep : reps_) {
    const double lowered = rep.top_s + set.hold_s;
    if (t < rep.start_s && t > rep.start_s - kHipsUp_s) return holding(0, 0, smooth((rep.start_s - t) / kHipsUp_s));
    if (t > lowered + set.descent_s && t < lowered + set.descent_s + kHipsUp_s)
      return holding(0, 0, smooth((t - lowered - set.descent_s) / kHipsUp_s));
    if (t < rep.start_s || t > lowered + set.descent_s) continue;
    if (t > lowered) return holding(1 - minimumJerk((t - lowered) / set.descent_s), 0);
    return holding(rise_.at((t - rep.start_s) / (rep.top_s - rep.start_s)), rep.drift_m);
  }
  return holding(0, 0, 1);
}

}  // namespace jib::simulate
