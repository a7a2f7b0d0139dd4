// SPDX-License-Identifier: GPL-3.0-or-later
// Deadlifts of closed form: when the plates leave the floor, lockout, lowering; hitches, misses and what is neither.
#include "core/motion/pulled_reps.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

#include "core/base/angle.h"
#include "core/motion/bar_on_floor.h"
#include "core/motion/low_pass.h"
#include "core/motion/reps.h"

namespace jib::motion {
namespace {

constexpr double kFloor_m = 0.225, kStroke_m = 0.55;
constexpr double kReady_s = 1.0, kUp_s = 1.4, kHold_s = 0.8, kDown_s = 1.0, kRest_s = 1.0;
constexpr double kRep_s = kUp_s + kHold_s + kDown_s + kRest_s;
constexpr double kFrame_s = 1 / 30.0;

// Share risen: half a cosine up, held, half a cosine down.
double pulled(double t) {
  if (t < 0 || t > kUp_s + kHold_s + kDown_s) return 0;
  if (t < kUp_s) return (1 - std::cos(kPi * t / kUp_s)) / 2;
  if (t < kUp_s + kHold_s) return 1;
  return (1 + std::cos(kPi * (t - kUp_s - kHold_s) / kDown_s)) / 2;
}

double liftOff(int rep) {
  return kReady_s + rep * kRep_s;
}

// Sampled and filtered as a traced bar is.
Motion barMotion(double seconds, const std::function<double(double t)>& z) {
  std::vector<double> times;
  std::vector<std::optional<double>> heights;
  for (double t = 0; t < seconds; t += kFrame_s) {
    times.push_back(t);
    heights.push_back(kFloor_m + z(t));
  }
  heights = lowPass(times, heights, kBarCutoff_hz);
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres(times.size());
  for (std::size_t i = 0; i < times.size(); ++i) metres[i][tracing::at(tracing::Landmark::Bar)] = {0, *heights[i]};
  return exactMotion(times, metres);
}

double set(double t, int reps) {
  double z = 0;
  for (int i = 0; i < reps; ++i) z += kStroke_m * pulled(t - liftOff(i));
  return z;
}

// The first frames of a trace came out 8 mm low on a film of ours, and the bar lay 3 mm higher for a while than before.
TEST(PulledReps, LiftOffIsNotTakenForEarlierBecauseAFrameStrayed) {
  const auto reps = pulledReps(barMotion(
      liftOff(1) + 1, [](double t) { return set(t, 1) - (t < 0.1 ? 0.008 : 0) - (t > 0.3 && t < 0.7 ? 0.003 : 0); }));
  ASSERT_EQ(reps.size(), 1u);
  EXPECT_NEAR(*reps[0].when(EventKind::LiftOff), liftOff(0), 1.5 * kFrame_s);
  EXPECT_NEAR(reps[0].stroke_m, kStroke_m, 0.004);
}

// A phone in a shaking hand, in a room with nothing to hold on to: the bar that lies there goes up and down by 4 cm.
double swaying(double t) {
  return 0.02 * std::sin(2 * kPi * t / 2.3);
}

TEST(PulledReps, LiftOffOfABarThatSeemsToWanderIsAsUnsureAsThat) {
  const auto steady = pulledReps(barMotion(liftOff(2) + 2, [](double t) { return set(t, 2); }));
  const auto shaken = pulledReps(barMotion(liftOff(2) + 2, [](double t) { return set(t, 2) + swaying(t); }));
  ASSERT_EQ(shaken.size(), 2u);
  for (std::size_t i = 0; i < 2; ++i) {
    EXPECT_LT(steady[i].sigma_s(EventKind::LiftOff), 0.06);
    EXPECT_GT(shaken[i].sigma_s(EventKind::LiftOff), 0.08);
    EXPECT_NEAR(*shaken[i].when(EventKind::LiftOff), liftOff(static_cast<int>(i)),
                2 * shaken[i].sigma_s(EventKind::LiftOff));
    EXPECT_GT(shaken[i].sigma_s(EventKind::Lockout), steady[i].sigma_s(EventKind::Lockout));
  }
}

// Put down at a metre a second, and then it seems to sink on by 3 cm for two seconds more, in the hand of whoever
// films.
TEST(PulledReps, PlatesAreDownWhenTheirFallIsStoppedWhateverTheHandDoesThen) {
  const double up_s = kReady_s + kUp_s + kHold_s, falls_s = kStroke_m / 1.0, down_s = up_s + falls_s;
  const auto z = [&](double t) {
    if (t < up_s) return kStroke_m * pulled(t - kReady_s) + 0.01 * std::sin(2 * kPi * t / 1.1) * (t < kReady_s);
    if (t < down_s) return kStroke_m * (1 - (t - up_s) / falls_s);
    return -0.03 * std::min(1.0, (t - down_s) / 2);
  };
  const auto reps = pulledReps(barMotion(down_s + 3, z));
  ASSERT_EQ(reps.size(), 1u);
  EXPECT_NEAR(*reps[0].when(EventKind::End), down_s, 0.12);
  EXPECT_GT(reps[0].sigma_s(EventKind::End), 0.01);
}

TEST(BarOnFloor, WhatAStillBarSeemsToDoMakesItsPlacesAndSpeedsLessSure) {
  Motion shaken = barMotion(liftOff(2) + 2, [](double t) { return set(t, 2) + swaying(t); });
  const auto reps = pulledReps(shaken);
  const auto floor = barOnFloor(shaken, reps);
  ASSERT_TRUE(floor);
  // A sine of amplitude a lies between ± 0.95 a for all but its outer fifth.
  EXPECT_NEAR(floor->height_m, 2 * 0.95 * 0.02 / 2.56, 0.005);
  EXPECT_GT(floor->speed_mps, 0.02);
  holdAgainstFloor(shaken, reps);
  EXPECT_GE(shaken.path(tracing::Landmark::Bar).wander_m[5], floor->height_m);
  EXPECT_DOUBLE_EQ(shaken.calibration.bar_speed_sigma_mps, floor->speed_mps);

  Motion still = barMotion(liftOff(2) + 2, [](double t) { return set(t, 2); });
  EXPECT_LT(barOnFloor(still, pulledReps(still))->height_m, 0.001);
  EXPECT_FALSE(barOnFloor(still, {})) << "no rep from the floor: nothing is known of the floor";
}

TEST(PulledReps, AreFoundWithTheirEvents) {
  const auto reps = pulledReps(barMotion(liftOff(3) + 1, [](double t) { return set(t, 3); }));
  ASSERT_EQ(reps.size(), 3u);
  // The bar is within a centimetre of the top this long before and after it is there: cos = 1 - 2 * 0.01 / stroke.
  const double last_cm = std::acos(1 - 2 * 0.01 / kStroke_m) / kPi;
  for (int i = 0; i < 3; ++i) {
    const Rep& r = reps[static_cast<std::size_t>(i)];
    EXPECT_NEAR(*r.when(EventKind::LiftOff), liftOff(i), 1.5 * kFrame_s);
    EXPECT_EQ(r.bottom_t(), *r.when(EventKind::LiftOff)) << "the contract: the same moment";
    EXPECT_FALSE(r.when(EventKind::Start)) << "without a body its first motion is not seen";
    EXPECT_NEAR(r.lockout_t(), liftOff(i) + kUp_s * (1 - last_cm), 1.5 * kFrame_s);
    EXPECT_NEAR(*r.when(EventKind::Lowering), liftOff(i) + kUp_s + kHold_s + kDown_s * last_cm, 1.5 * kFrame_s);
    EXPECT_NEAR(r.end_t(), liftOff(i) + kUp_s + kHold_s + kDown_s * (1 - last_cm), 1.5 * kFrame_s);
    EXPECT_NEAR(r.stroke_m, kStroke_m, 0.003) << "what the filter takes off the top";
    EXPECT_EQ(r.type, RepType::DeadStop);
  }
}

TEST(PulledReps, NeedNoSetDownOnTheFilm) {
  const auto reps = pulledReps(barMotion(liftOff(0) + kUp_s + 0.5, [](double t) { return set(t, 1); }));
  ASSERT_EQ(reps.size(), 1u);
  EXPECT_FALSE(reps[0].when(EventKind::End));
  EXPECT_FALSE(reps[0].lowered());
  EXPECT_EQ(reps[0].end_t(), reps[0].lockout_t());
}

TEST(PulledReps, AHitchIsOneRep) {
  // Half-way up the bar stops for half a second and sinks by 7 cm in it.
  const auto hitched = [](double t) {
    const double since = std::clamp(t - liftOff(0) - kUp_s / 2, 0.0, 0.5);
    return set(t - since, 1) - 0.07 * std::sin(kPi * since / 0.5);
  };
  const auto m = barMotion(liftOff(1) + 2, hitched);
  EXPECT_EQ(pulledReps(m).size(), 1u);
  EXPECT_TRUE(missedPulls(m).empty());
}

TEST(PulledReps, AreTouchAndGoOrSetUpAnewByTheTimeOnTheFloor) {
  const auto two = [](double rest_s) {
    return pulledReps(barMotion(kReady_s + 2 * (kUp_s + kHold_s + kDown_s) + rest_s + 1, [rest_s](double t) {
      return kStroke_m * (pulled(t - kReady_s) + pulled(t - kReady_s - kUp_s - kHold_s - kDown_s - rest_s));
    }));
  };
  ASSERT_EQ(two(0.0).size(), 2u);
  EXPECT_EQ(two(0.0)[1].type, RepType::TouchAndGo);
  EXPECT_EQ(two(1.0)[1].type, RepType::DeadStop);
  EXPECT_EQ(two(5.0)[1].type, RepType::Reset);
}

TEST(PulledReps, AMissAtTheKneeIsNoRep) {
  const double missed = liftOff(2);
  const auto z = [&](double t) { return set(t, 2) + (t > missed ? 0.22 * pulled(2 * (t - missed)) : 0.0); };
  const auto m = barMotion(missed + 4, z);
  EXPECT_EQ(pulledReps(m).size(), 2u);
  const auto misses = missedPulls(m);
  ASSERT_EQ(misses.size(), 1u);
  EXPECT_EQ(misses[0].type, RepType::Miss);
  EXPECT_NEAR(misses[0].risen, 0.22 / kStroke_m, 0.02);
  EXPECT_NEAR(misses[0].lockout_t(), missed + kUp_s / 2 + kHold_s / 4, kHold_s / 4 + kFrame_s);
}

TEST(PulledReps, RollingAndJackingTheBarAreNothing) {
  const auto m = barMotion(liftOff(1) + 5, [](double t) {
    const double jack = t > liftOff(1) + 1 && t < liftOff(1) + 3 ? 0.05 : 0.0;
    return set(t, 1) + jack;
  });
  EXPECT_EQ(pulledReps(m).size(), 1u);
  EXPECT_TRUE(missedPulls(m).empty());
}

TEST(LoweredReps, ADescentTurnedFarTooHighIsPartial) {
  std::vector<double> strokes{0.6, 0.6, 0.35, 0.6};
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  for (double t = 0; t < 17; t += kFrame_s) {
    double z = 1.4;
    for (std::size_t i = 0; i < strokes.size(); ++i) {
      const double s = (t - 1 - 4 * static_cast<double>(i)) / 2.5;
      if (s > 0 && s < 1) z -= strokes[i] * (1 - std::cos(2 * kPi * s)) / 2;
    }
    times.push_back(t);
    metres.emplace_back();
    metres.back()[tracing::at(tracing::Landmark::Bar)] = {0, z};
  }
  const auto reps = findReps(exactMotion(times, metres), RepPattern::DownFirst);
  ASSERT_EQ(reps.size(), 4u);
  for (std::size_t i = 0; i < 4; ++i) EXPECT_EQ(reps[i].type == RepType::Partial, i == 2) << i;
}

TEST(Rep, KeepsItsEventsInOrderAndEachOnce) {
  Rep rep = loweredAndRaised(1, 2, 2, 3, 0.6);
  rep.set(EventKind::Sticking, 2.4, 0.1);
  rep.set(EventKind::Sticking, 2.6, 0.2);
  EXPECT_EQ(rep.when(EventKind::Sticking), 2.6);
  EXPECT_EQ(rep.sigma_s(EventKind::Sticking), 0.2);
  EXPECT_TRUE(std::is_sorted(rep.events.begin(), rep.events.end(),
                             [](const Event& a, const Event& b) { return a.t_s < b.t_s; }));
  EXPECT_EQ(
      std::count_if(rep.events.begin(), rep.events.end(), [](const Event& e) { return e.kind == EventKind::Sticking; }),
      1);
}

}  // namespace
}  // namespace jib::motion
