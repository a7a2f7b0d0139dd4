// SPDX-License-Identifier: GPL-3.0-or-later
// Squat measures on a stick lifter whose every place is given by a formula.
#include "core/lifts/measure_set.h"

#include <gtest/gtest.h>

#include <cmath>
#include <set>

#include "core/base/angle.h"

namespace jib::lifts {
namespace {

const lifts::LiftDefinition& kSquat = lifts::definition(lifts::LiftId::Squat);

using motion::Motion;
using motion::Rep;
using tracing::at;
using tracing::Landmark;

// One rep: rest to 1 s, down to 2 s, up to 3 s. share: 0 standing, 1 at the bottom.
double share(double t) {
  if (t < 1 || t > 3) return 0;
  return (1 - std::cos(kPi * (t - 1))) / 2;
}

struct Stick {
  double trunk_extra_deg = 0;  // added early in the ascent
  double knee_back_m = 0;
  double drift_m = 0;
  double heel_m = 0;
  double arm_deg = -1;      // upper arm behind the trunk; below zero: not seen
  double arm_up_deg = 0;    // and by how much more at the bottom
  double crease_m = -0.03;  // above the knee's top at the bottom
  double bump(double t) const { return t > 2 && t < 3 ? std::pow(std::sin(kPi * (t - 2)), 2) : 0; }
};

Motion motionOf(const Stick& stick, double rate_hz = 120) {
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  for (int i = 0; i < static_cast<int>(4 * rate_hz); ++i) {
    const double t = i / rate_hz, s = share(t), b = stick.bump(t);
    times.push_back(t);
    std::array<std::optional<MetrePoint>, tracing::kLandmarks> p;
    const MetrePoint ankle{-0.05, 0.08}, knee{-0.03 + 0.2 * s - stick.knee_back_m * b, 0.50};
    const MetrePoint hip{-0.05 - 0.25 * s, 0.92 - 0.45 * s};
    const double lean = radians(10 + 35 * s + stick.trunk_extra_deg * b);
    p[at(Landmark::Toe)] = MetrePoint{0.13, 0.02};
    p[at(Landmark::Heel)] = MetrePoint{-0.13, stick.heel_m * s};
    p[at(Landmark::Ankle)] = ankle;
    p[at(Landmark::Knee)] = knee;
    p[at(Landmark::Hip)] = hip;
    p[at(Landmark::Shoulder)] = hip + MetrePoint{0.5 * std::sin(lean), 0.5 * std::cos(lean)};
    if (const double arm = lean + radians(stick.arm_deg + stick.arm_up_deg * s); stick.arm_deg >= 0)
      p[at(Landmark::Elbow)] = *p[at(Landmark::Shoulder)] - MetrePoint{0.3 * std::sin(arm), 0.3 * std::cos(arm)};
    p[at(Landmark::KneeTop)] = knee + MetrePoint{0, 0.05};
    p[at(Landmark::HipCrease)] = MetrePoint{hip.x + 0.05, knee.z + 0.05 + stick.crease_m + 0.45 * (1 - s)};
    p[at(Landmark::Bar)] = MetrePoint{stick.drift_m * b, 1.4 - 0.6 * s};
    metres.push_back(p);
  }
  return motion::exactMotion(times, metres);
}

struct Result {
  Motion motion;
  SetMeasures measures;
  explicit Result(const Stick& stick)
      : motion(motionOf(stick)),
        measures(measureSet(kSquat, motion, {motion::loweredAndRaised(1.083, 2.0, 2.0, 2.917, 0.6)})) {}
  double value(std::string_view id) const {
    const auto* m = find(measures.reps.at(0), id);
    EXPECT_TRUE(m && m->measured()) << id;
    return m && m->measured() ? m->measured()->value : 1e9;
  }
};

constexpr double kPlace_m = 0.0005;  // sampling at 120 Hz near a turning point
constexpr double kAngle_deg = 0.1;

TEST(SquatMeasures, DepthIsCreaseMinusKneeTopAtTheDeepest) {
  EXPECT_NEAR(Result({.crease_m = -0.03}).value("hip_crease_above_knee_m"), -0.03, kPlace_m);
  EXPECT_NEAR(Result({.crease_m = 0.02}).value("hip_crease_above_knee_m"), 0.02, kPlace_m);
}

TEST(SquatMeasures, FromAboveTheBarIsNotHeldAgainstAFootNobodyPlaced) {
  Result r({});
  r.value("bar_to_midfoot_max_m");
  r.motion.calibration.foot_from_above = true;
  const auto again = measureSet(kSquat, r.motion, {motion::loweredAndRaised(1.083, 2.0, 2.0, 2.917, 0.6)});
  const auto* m = find(again.reps.at(0), "bar_to_midfoot_max_m");
  ASSERT_NE(m, nullptr);
  EXPECT_FALSE(m->measured());
}

TEST(SquatMeasures, TrunkLeanAtStartAndBottom) {
  const Result r({});
  EXPECT_NEAR(r.value("trunk_lean_bottom_deg"), 45, kAngle_deg);
  EXPECT_NEAR(r.value("trunk_lean_start_deg"), 10 + 35 * share(1.083), kAngle_deg);
}

TEST(SquatMeasures, TheBarsHeightOnTheBackIsAlongTheTrunk) {
  const double s = share(1.083), lean = radians(10 + 35 * s);
  const MetrePoint hip{-0.05 - 0.25 * s, 0.92 - 0.45 * s}, bar{0, 1.4 - 0.6 * s};
  const MetrePoint up = bar - hip;  // 0.5 m of trunk from hip to shoulder
  EXPECT_NEAR(Result({}).value("bar_below_shoulder_m"), 0.5 - up.x * std::sin(lean) - up.z * std::cos(lean), 0.001);
}

TEST(SquatMeasures, TheUpperArmIsHeldAgainstTheTrunk) {
  const Result r({.arm_deg = 20, .arm_up_deg = 25});
  EXPECT_NEAR(r.value("upper_arm_to_trunk_deg"), 45, kAngle_deg);
  // Between the bottom and the start; half-way up it is between the two.
  EXPECT_NEAR(r.value("upper_arm_swing_deg"), 25 * (1 - share(1.083)), 0.3);
  const Result still({.arm_deg = 30});
  EXPECT_NEAR(still.value("upper_arm_swing_deg"), 0, kAngle_deg);
  const Result hidden({});
  for (const char* id : {"upper_arm_to_trunk_deg", "upper_arm_swing_deg"})
    EXPECT_FALSE(find(hidden.measures.reps[0], id)->measured()) << id;
}

TEST(SquatMeasures, TheWalkOutIsCountedOverTheSet) {
  Motion m = motionOf({});
  const std::vector<Rep> reps{motion::loweredAndRaised(1.083, 2.0, 2.0, 2.917, 0.6)};
  const auto standing = measureSet(kSquat, m, reps).set;
  EXPECT_FALSE(find(standing, "walk_out_steps")->measured());
  // Both feet go back within the first second, the near one after the far one.
  for (double t = 0; t < 4; t += 0.1) m.feet.push_back({t, t < 0.65 ? 0.3 : 0.0, t < 0.35 ? 0.3 : 0.0});
  const auto set = measureSet(kSquat, m, reps).set;
  ASSERT_TRUE(find(set, "walk_out_steps")->measured());
  EXPECT_EQ(find(set, "walk_out_steps")->measured()->value, 2);
  EXPECT_EQ(textWithSigma(*find(set, "walk_out_steps")->kind, *find(set, "walk_out_steps")->measured()), "2.0 ± 0.5");
  EXPECT_NEAR(find(set, "walk_out_s")->measured()->value, 0.4, 0.11);
}

TEST(SquatMeasures, ACleanLiftGainsNoLeanAndSlidesNoKnee) {
  const Result r({});
  EXPECT_NEAR(r.value("trunk_lean_gain_deg"), 0, kAngle_deg);
  EXPECT_NEAR(r.value("lean_mismatch_deg"), 0, kAngle_deg);
  EXPECT_NEAR(r.value("bar_drift_reversal_m"), 0, kPlace_m);
  EXPECT_NEAR(r.value("bar_to_midfoot_max_m"), 0, kPlace_m);
}

TEST(SquatMeasures, LeanGainIsTheLargestInTheFirstThirdOfTheRise) {
  // A third of the rise is at cos(pi (t-1)) = -1/3 on the way up.
  const double third_t = 1 + (2 * kPi - std::acos(-1.0 / 3)) / kPi;
  const Stick stick{.trunk_extra_deg = 30};
  double most = 0;
  for (double t = 2; t <= third_t; t += 0.001) most = std::max(most, 35 * share(t) + 30 * stick.bump(t) - 35);
  EXPECT_NEAR(Result(stick).value("trunk_lean_gain_deg"), most, 0.3);
}

TEST(SquatMeasures, KneeSlideIsHowFarItGoesBackInTheFirstThird) {
  const Stick stick{.knee_back_m = 0.06};
  const double third_t = 1 + (2 * kPi - std::acos(-1.0 / 3)) / kPi;
  const double expected = 0.2 - (0.2 * share(third_t) - 0.06 * stick.bump(third_t));
  EXPECT_NEAR(Result(stick).value("knee_slide_back_m"), expected, 0.002);
  const double shin = std::hypot(0.02 + 0.2 * share(1.083), 0.42);
  EXPECT_NEAR(Result(stick).value("knee_slide_back_pct_shin"), 100 * expected / shin, 0.6);
}

TEST(SquatMeasures, DriftIsTakenAtAFifthOfTheRise) {
  const Stick stick{.drift_m = 0.05};
  // The rise counted from bottom to the lockout given to the rep.
  const double rise = 0.2 * share(2.0) - 0.2 * share(2.917);
  const double level = 1 - rise;  // share still down at 20 %
  const double t = 1 + (2 * kPi - std::acos(1 - 2 * level)) / kPi;
  EXPECT_NEAR(Result(stick).value("bar_drift_reversal_m"), 0.05 * stick.bump(t), 0.001);
}

TEST(SquatMeasures, HipAndShoulderRiseByTheirOwnHeights) {
  const Stick stick{};
  const double level = 1 - 0.25 * (1 - share(2.917));
  const double hip = 0.45 * (1 - level);
  const auto shoulder_z = [&](double s) { return 0.92 - 0.45 * s + 0.5 * std::cos(radians(10 + 35 * s)); };
  EXPECT_NEAR(Result(stick).value("hip_shoulder_rise_ratio"), hip / (shoulder_z(level) - shoulder_z(1)), 0.01);
}

TEST(SquatMeasures, ShinHeelKneeAndMomentArms) {
  const Result r({.heel_m = 0.025});
  EXPECT_NEAR(r.value("shin_bottom_deg"), degrees(std::atan2(0.22, 0.42)), kAngle_deg);
  EXPECT_NEAR(r.value("heel_lift_m"), 0.025 * (1 - share(1.083)), kPlace_m);
  EXPECT_NEAR(r.value("knee_past_toe_m"), 0.17 - 0.13, kPlace_m);
  EXPECT_NEAR(r.value("moment_arm_hip_m"), 0.30, kPlace_m);
  EXPECT_NEAR(r.value("moment_arm_knee_m"), 0.17, kPlace_m);
}

TEST(SquatMeasures, TimesAndSpeeds) {
  const Result r({});
  EXPECT_NEAR(r.value("descent_s"), 2.0 - 1.083, 1e-9);
  EXPECT_NEAR(r.value("ascent_s"), 0.917, 1e-9);
  EXPECT_NEAR(r.value("bar_peak_ascent_mps"), 0.6 * kPi / 2, 0.003);
  EXPECT_NEAR(r.value("bar_peak_descent_mps"), 0.6 * kPi / 2, 0.003);
  EXPECT_NEAR(r.value("bar_mean_ascent_mps"), 0.6 * (1 - share(2.917)) / 0.917, 0.002);
}

TEST(SquatMeasures, TrunkLeanAtTheHeightsACoachAsksFor) {
  const Result r({});
  const auto lean = [](double s) { return 10 + 35 * s; };
  const double start = share(1.083), end = share(2.917);
  EXPECT_NEAR(r.value("trunk_lean_half_down_deg"), lean(start + (1 - start) / 2), 0.3);
  EXPECT_NEAR(r.value("trunk_lean_quarter_up_deg"), lean(1 - (1 - end) / 4), 0.3);
  EXPECT_NEAR(r.value("trunk_lean_half_up_deg"), lean(1 - (1 - end) / 2), 0.3);
  EXPECT_NEAR(r.value("trunk_lean_three_quarters_up_deg"), lean(1 - 3 * (1 - end) / 4), 0.3);
  EXPECT_NEAR(r.value("trunk_minus_shin_deg"), 45 - degrees(std::atan2(0.22, 0.42)), kAngle_deg);
  EXPECT_NEAR(r.value("moment_arm_ratio"), 0.30 / 0.17, 0.01);
}

TEST(SquatMeasures, TheDropIsHardestAtItsStartAndTheBrakingBeginsHalfWay) {
  const Result r({});
  // A cosine: acceleration 0.6 pi^2 / 2 at the start, fastest half-way down.
  EXPECT_NEAR(r.value("peak_drop_g"), 0.6 * kPi * kPi / 2 * std::cos(kPi * 0.083) / 9.81, 0.02);
  const double start = share(1.083);
  EXPECT_NEAR(r.value("braking_height_pct"), 100 * 0.5 / (1 - start), 2);
  // Slower than 10 cm/s for asin(0.1 / (0.3 pi)) / pi either side of the bottom.
  EXPECT_NEAR(r.value("reversal_s"), 2 * std::asin(0.1 / (0.3 * kPi)) / kPi, 0.004);
}

TEST(SquatMeasures, TheShoulderLurchesByWhatItMovesInTheFirstFifth) {
  const Stick stick{.trunk_extra_deg = 25};
  const double level = 1 - 0.2 * (1 - share(2.917));
  const double t = 1 + (2 * kPi - std::acos(1 - 2 * level)) / kPi;
  const auto shoulder = [&](double at, double s) {
    return -0.05 - 0.25 * s + 0.5 * std::sin(radians(10 + 35 * s + 25 * stick.bump(at)));
  };
  EXPECT_NEAR(Result(stick).value("shoulder_lurch_m"), shoulder(t, level) - shoulder(2.0, 1), 0.002);
}

TEST(SquatMeasures, LockoutIsHeldUntilTheBarMovesOnOrNotKnown) {
  Motion cut = motionOf({});
  for (auto* all : {&cut.bar_vz_mps, &cut.bar_vx_mps}) all->resize(cut.frameAt(3.4));
  cut.times_s.resize(cut.frameAt(3.4));
  const auto ended = measureSet(kSquat, cut, {motion::loweredAndRaised(1.083, 2.0, 2.0, 2.96, 0.6)});
  EXPECT_NE(std::get<Absent>(find(ended.reps[0], "lockout_hold_s")->measure).reason.find("clip ends"),
            std::string::npos);
  // Racked from 3.5 s on: the bar goes forward.
  Motion m = motionOf({});
  for (std::size_t i = 0; i < m.times_s.size(); ++i)
    if (m.times_s[i] > 3.5) m.bar_vx_mps[i] = 0.4;
  const auto racked = measureSet(kSquat, m, {motion::loweredAndRaised(1.083, 2.0, 2.0, 2.96, 0.6)});
  ASSERT_TRUE(find(racked.reps[0], "lockout_hold_s")->measured());
  EXPECT_NEAR(find(racked.reps[0], "lockout_hold_s")->measured()->value, 0.54, 0.02);
}

TEST(SquatMeasures, StandingStillIsCountedFromTheWalkOut) {
  Motion m = motionOf({});
  const auto still = [&](const Motion& motion) {
    return find(measureSet(kSquat, motion, {motion::loweredAndRaised(1.083, 2.0, 2.0, 2.917, 0.6)}).reps[0],
                "stands_still_s")
        ->measure;
  };
  EXPECT_NE(std::get<Absent>(still(m)).reason.find("already standing"), std::string::npos);
  for (std::size_t i = 0; i < m.times_s.size(); ++i)
    if (m.times_s[i] < 0.4) m.bar_vx_mps[i] = -0.3;
  EXPECT_NEAR(std::get<Measured>(still(m)).value, 1.083 - 0.4, 0.02);
}

TEST(SquatMeasures, WhatBendsFirstIsSaidWithItsSign) {
  const auto* order = find(Result({}).measures.reps[0], "hips_before_knees_s");
  ASSERT_TRUE(order->measured());
  // The stick's joints bend together; a knee that is kept back for a while makes the hips lead.
  EXPECT_NEAR(order->measured()->value, 0, 0.08);
  Motion late = motionOf({});
  for (std::size_t i = 0; i < late.times_s.size(); ++i)
    if (late.times_s[i] < 1.6) late.angles[i].knee_deg = late.angles[late.frameAt(1.083)].knee_deg;
  const auto led = measureSet(kSquat, late, {motion::loweredAndRaised(1.083, 2.0, 2.0, 2.917, 0.6)});
  EXPECT_GT(find(led.reps[0], "hips_before_knees_s")->measured()->value, 0.15);
}

TEST(SquatMeasures, LimbRatiosComeFromTheStandingFrame) {
  const Result r({});
  const double s = share(1.083);
  const double thigh = std::hypot(-0.05 - 0.25 * s - (-0.03 + 0.2 * s), 0.92 - 0.45 * s - 0.50);
  const auto* ratio = find(r.measures.set, "thigh_to_trunk_ratio");
  ASSERT_TRUE(ratio->measured());
  EXPECT_NEAR(ratio->measured()->value, thigh / 0.5, 0.005);
}

TEST(SquatMeasures, WithoutBodyPointsSayWhy) {
  Motion m = motionOf({});
  for (Landmark l : tracing::kAllLandmarks)
    if (l != Landmark::Bar) m.paths[at(l)].at.assign(m.times_s.size(), std::nullopt);
  const auto measures = measureSet(kSquat, m, {motion::loweredAndRaised(1.083, 2, 2, 2.917, 0.6)});
  const auto* depth = find(measures.reps[0], "hip_crease_above_knee_m");
  ASSERT_FALSE(depth->measured());
  EXPECT_NE(std::get<Absent>(depth->measure).reason.find("placed yet"), std::string::npos);
  EXPECT_TRUE(find(measures.reps[0], "descent_s")->measured());
}

// The deepest of what is left when the bottom is hidden is a moment half-way up.
TEST(SquatMeasures, WhatWasHiddenAtTheBottomIsNotMeasuredElsewhere) {
  Motion m = motionOf({});
  for (const Landmark l : {Landmark::Knee, Landmark::KneeTop})
    for (std::size_t i = 0; i < m.times_s.size(); ++i)
      if (m.times_s[i] > 1.7 && m.times_s[i] < 2.4) m.paths[at(l)].at[i].reset();
  const auto measures = measureSet(kSquat, m, {motion::loweredAndRaised(1.083, 2, 2, 2.917, 0.6)});
  for (const char* id : {"hip_crease_above_knee_m", "knee_past_toe_m", "knee_slide_back_m", "knee_arrival_pct"})
    EXPECT_FALSE(find(measures.reps[0], id)->measured()) << id;
  EXPECT_TRUE(find(measures.reps[0], "trunk_lean_gain_deg")->measured()) << "hips and shoulders were seen";
}

TEST(SquatMeasures, LeanGainIsLessSureWellOffTheSide) {
  Motion m = motionOf({});
  const auto sigma = [&] {
    const auto measures = measureSet(kSquat, m, {motion::loweredAndRaised(1.083, 2, 2, 2.917, 0.6)});
    return find(measures.reps[0], "trunk_lean_gain_deg")->measured()->sigma;
  };
  const double from_the_side = sigma();
  m.calibration.turned_deg = 42;
  EXPECT_GT(sigma(), from_the_side + 0.5);
}

TEST(SquatMeasures, KneesThatMayHaveSetAnywhereAreNotTimed) {
  Motion m = motionOf({});
  const auto said = [&] {
    return find(measureSet(kSquat, m, {motion::loweredAndRaised(1.083, 2, 2, 2.917, 0.6)}).reps[0], "knee_arrival_pct")
        ->measure;
  };
  EXPECT_TRUE(std::holds_alternative<Measured>(said()));
  for (double& wander : m.paths[at(Landmark::Knee)].wander_m) wander = 0.1;
  const Measure now = said();
  ASSERT_TRUE(std::holds_alternative<Absent>(now));
  EXPECT_NE(std::get<Absent>(now).reason.find("by eye"), std::string::npos);
}

TEST(SquatMeasures, DepthIsNotJudgedFromACameraThatLooksDown) {
  Motion m = motionOf({});
  m.calibration.look_down_deg = 20;
  const auto measures = measureSet(kSquat, m, {motion::loweredAndRaised(1.083, 2, 2, 2.917, 0.6)});
  const auto* depth = find(measures.reps[0], "hip_crease_above_knee_m");
  ASSERT_FALSE(depth->measured());
  EXPECT_NE(std::get<Absent>(depth->measure).reason.find("at hip height"), std::string::npos);
}

TEST(MeasureText, ShowsCentimetresWithTheirUncertainty) {
  const MeasureDefinition depth{"d", "Depth", "m", "Bottom", Drawing::None};
  EXPECT_EQ(textWithSigma(depth, {-0.0213, 0.0081, 0}), "\u22122.1 ± 1.3 cm");
  EXPECT_EQ(text(depth, {-0.0001, 0, 0}), "0.0 cm") << "no minus before nothing";
  EXPECT_EQ(text({"a", "A", "deg", "", Drawing::None}, {12.34, 0, 0}), "12.3°");
  EXPECT_EQ(text({"p", "P", "%", "", Drawing::None}, {12.6, 0, 0}), "13 %");
}

}  // namespace
}  // namespace jib::lifts
