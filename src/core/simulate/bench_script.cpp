// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/bench_script.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kWait_s = 0.8, kUnrack_s = 0.9, kSettle_s = 0.9, kEnd_s = 0.6;
constexpr double kStuck_s = 0.9, kTaken_s = 1.8, kSunk_m = 0.03, kOverHooks_m = 0.05;  // of a miss
constexpr double kSpotterBehind_m = 0.34, kSpotterGrip_m = 0.2;
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
  if (set.faults.elbow_ahead_m != 0) pullElbowsAhead();
  double t = kWait_s + kUnrack_s + kSettle_s;
  for (int i = 0; i < set.reps; ++i) {
    ScriptedRep rep;
    rep.start_s = t;
    rep.bottom_s = t + set.descent_s;
    rep.ascent_s = rep.bottom_s + set.pause_s;
    rep.top_s = rep.ascent_s + set.ascent_s * std::pow(1 + set.fade_ascent, i);
    rep.bottom_z_m = touch_.z;
    rep.share_up = set.missed_at > 0 && i + 1 == set.reps ? set.missed_at : 1;
    reps_.push_back(rep);
    t = rep.top_s + (rep.share_up < 1 ? kStuck_s : set.rest_s);
  }
  racked_s_ = t;
  duration_s_ = t + (reps_.back().share_up < 1 ? kTaken_s : kUnrack_s) + kEnd_s;
}

// The direction elbows point in for which they are as far ahead of the bar at the touch as is asked for.
void BenchScript::pullElbowsAhead() {
  double low = -1.5, high = 4;
  for (int i = 0; i < 40; ++i) {
    elbow_towards_ = (low + high) / 2;
    LyingPose pose;
    pose.bar = touch_;
    pose.elbow_towards = elbow_towards_;
    const Body body = posedLying(build_, pose, kBenchTop_m);
    (body.left_arm.elbow.x - body.bar.x < spec_.set.faults.elbow_ahead_m ? low : high) = elbow_towards_;
  }
}

MetrePoint BenchScript::barAt(double t) const {
  const double sink = spec_.set.faults.sink_m, bounce = spec_.set.faults.bounce;
  for (const ScriptedRep& rep : reps_) {
    if (t < rep.start_s || t > rep.top_s) continue;
    if (t >= rep.bottom_s && t < rep.ascent_s && sink > 0)
      return touch_ - MetrePoint{0, sink * smooth(1.5 * (t - rep.bottom_s) / (rep.ascent_s - rep.bottom_s))};
    // A bar that bounces is fastest as it meets the chest and as it leaves it.
    if (t < rep.bottom_s) {
      const double share = (t - rep.start_s) / (rep.bottom_s - rep.start_s);
      return up_ + (touch_ - up_) * ((1 - bounce) * minimumJerk(share) + bounce * share * share);
    }
    const double share = (t - rep.ascent_s) / (rep.top_s - rep.ascent_s);
    const double risen = rep.share_up * ((1 - bounce) * rise_.at(share) + bounce * (1 - (1 - share) * (1 - share)));
    // The way up leads the way down towards the head.
    return touch_ + MetrePoint{(up_.x - touch_.x) * std::pow(risen, 0.7), (up_.z - touch_.z + sink) * risen - sink};
  }
  if (t > reps_.back().top_s && reps_.back().share_up < 1) return takenFromMiss(t);
  const double out =
      t < reps_.front().start_s ? minimumJerk((t - kWait_s) / kUnrack_s) : 1 - minimumJerk((t - racked_s_) / kUnrack_s);
  const MetrePoint rest = hooks(build_);
  return rest + MetrePoint{(up_.x - rest.x) * out, (up_.z - rest.z) * smooth(out / 0.4)};
}

// Stuck, sinking, until the spotter takes it to the hooks.
MetrePoint BenchScript::takenFromMiss(double t) const {
  const ScriptedRep& miss = reps_.back();
  const MetrePoint stuck = barAt(miss.top_s), sunk = stuck - MetrePoint{0, kSunk_m};
  if (t < racked_s_) return stuck + (sunk - stuck) * smooth((t - miss.top_s) / kStuck_s);
  const double share = minimumJerk((t - racked_s_) / kTaken_s);
  const MetrePoint rest = hooks(build_);
  // Over the hooks first, then down into them.
  return sunk + MetrePoint{(rest.x - sunk.x) * share, (rest.z - sunk.z) * share + kOverHooks_m * std::sin(kPi * share)};
}

std::optional<Body> BenchScript::helperAt(double t) const {
  if (!spec_.look.spotter) return std::nullopt;
  constexpr double kComes_s = 0.5;
  const double feet_x = hooks(build_).x - kSpotterBehind_m;
  const MetrePoint bar = barAt(t), waiting{0.12, 0.46 * build_.spec.stature_m};
  const bool helps = reps_.back().share_up < 1;
  const double there = helps ? smooth((t - racked_s_ + kComes_s) / kComes_s) : 0;
  const MetrePoint hands = waiting + (MetrePoint{bar.x - feet_x, bar.z} - waiting) * there;
  return moved(posedHanging(build_, hands, -0.34 * there, 4, kSpotterGrip_m), {feet_x, 0, 0});
}

Body BenchScript::at(double t) const {
  const LiftFaults& faults = spec_.set.faults;
  LyingPose pose;
  pose.bar = barAt(t);
  pose.reach_m = faults.reach_m * smooth((t - kWait_s) / kUnrack_s);
  pose.hands_left_m = faults.hands_left_m;
  pose.left_flare = faults.left_flare;
  const double down = (up_.z - pose.bar.z) / (up_.z - touch_.z);
  pose.elbow_towards += (elbow_towards_ - pose.elbow_towards) * smooth(down);
  for (const ScriptedRep& rep : reps_) {
    if (t < rep.ascent_s || t > rep.top_s) continue;
    // Hips and heels come up as the bar leaves the chest, and settle before lockout.
    const double share = (t - rep.ascent_s) / (rep.top_s - rep.ascent_s);
    const double up = smooth(share / 0.25) * (1 - smooth((share - 0.45) / 0.35));
    pose.bar_tilt_rad = radians(faults.bar_tilt_deg) * up;
    pose.seat_m = faults.seat_lift_m * up;
    pose.heel_m = faults.heel_lift_m * up;
  }
  return posedLying(build_, pose, kBenchTop_m);
}

}  // namespace jib::simulate
