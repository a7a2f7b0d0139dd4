// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/bench_script.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kWait_s = 0.8, kUnrack_s = 0.9, kSettle_s = 0.9, kEnd_s = 0.6;
constexpr double kBehind_m = 0.24, kBelow_m = 0.04;            // hooks behind the shoulder, below lockout
constexpr double kTouchTowardsFeet_m = 0.11, kChest_m = 0.15;  // of the touch from the shoulder

MetrePoint lockout(const Build& build) {
  const MetrePoint shoulder = lyingShoulder(build, kBenchTop_m);
  return {shoulder.x, shoulder.z + pressReach(build)};
}

}  // namespace

MetrePoint BenchScript::hooks(const Build& build) {
  return lockout(build) + MetrePoint{-kBehind_m, -kBelow_m};
}

BenchScript::BenchScript(const ClipSpec& spec) : LiftScript(spec), rise_(spec.set.sticking) {
  up_ = lockout(build_);
  touch_ = lyingShoulder(build_, kBenchTop_m) + MetrePoint{kTouchTowardsFeet_m, kChest_m};
  const SetSpec& set = spec_.set;
  double t = kWait_s + kUnrack_s + kSettle_s;
  for (int i = 0; i < set.reps; ++i) {
    ScriptedRep rep;
    rep.start_s = t;
    rep.bottom_s = t + set.descent_s;
    rep.ascent_s = rep.bottom_s + set.pause_s;
    rep.top_s = rep.ascent_s + set.ascent_s * std::pow(1 + set.fade_ascent, i);
    rep.bottom_z_m = touch_.z;
    reps_.push_back(rep);
    t = rep.top_s + set.rest_s;
  }
  racked_s_ = t;
  duration_s_ = t + kUnrack_s + kEnd_s;
}

MetrePoint BenchScript::barAt(double t) const {
  for (const ScriptedRep& rep : reps_) {
    if (t < rep.start_s || t > rep.top_s) continue;
    if (t < rep.bottom_s) return up_ + (touch_ - up_) * minimumJerk((t - rep.start_s) / (rep.bottom_s - rep.start_s));
    const double risen = rise_.at((t - rep.ascent_s) / (rep.top_s - rep.ascent_s));
    // The way up leads the way down towards the head.
    return touch_ + MetrePoint{(up_.x - touch_.x) * std::pow(risen, 0.7), (up_.z - touch_.z) * risen};
  }
  const double out =
      t < reps_.front().start_s ? minimumJerk((t - kWait_s) / kUnrack_s) : 1 - minimumJerk((t - racked_s_) / kUnrack_s);
  const MetrePoint rest = hooks(build_);
  return rest + MetrePoint{(up_.x - rest.x) * out, (up_.z - rest.z) * smooth(out / 0.4)};
}

Body BenchScript::at(double t) const {
  return posedLying(build_, barAt(t), kBenchTop_m);
}

}  // namespace jib::simulate
