// SPDX-License-Identifier: GPL-3.0-or-later
// What the measures of a bench press say of exactly known motion, with faults of known sizes.
#include "core/lifts/press_body.h"

#include <gtest/gtest.h>

#include "core/lifts/foot.h"
#include "core/lifts/press_bar.h"
#include "core/simulate/film.h"
#include "core/simulate/truth_file.h"

namespace jib::lifts {
namespace {

simulate::TrueSet pressed(const simulate::LiftFaults& faults) {
  simulate::ClipSpec spec;
  spec.lift = "bench";
  spec.set.variant = "paused";
  spec.set.reps = 2;
  spec.set.pause_s = 0.9;
  spec.set.faults = faults;
  return simulate::trueSet(simulate::truthOf(spec));
}

double valueOf(const simulate::TrueSet& set, std::string_view id, std::size_t rep = 0) {
  const auto* m = find(set.measures.reps.at(rep), id);
  EXPECT_TRUE(m && m->measured()) << id;
  return m && m->measured() ? m->measured()->value : 1e9;
}

TEST(PressBody, ACleanPressHasNothingToSay) {
  const auto set = pressed({});
  EXPECT_NEAR(valueOf(set, "hip_lift_m"), 0, 1e-6);
  EXPECT_NEAR(valueOf(set, "heel_lift_m"), 0, 1e-6);
  EXPECT_NEAR(valueOf(set, "shoulder_rise_unrack_m"), 0, 1e-6);
  EXPECT_LT(valueOf(set, "bar_sink_m"), 0.005);
  EXPECT_GT(valueOf(set, "knee_below_hip_m"), 0);
}

TEST(PressBody, HipsAndHeelsThatComeUpAreMeasuredAtTheirHighest) {
  simulate::LiftFaults faults;
  faults.seat_lift_m = 0.04;
  faults.heel_lift_m = 0.03;
  const auto set = pressed(faults);
  for (std::size_t rep : {0u, 1u}) {
    EXPECT_NEAR(valueOf(set, "hip_lift_m", rep), 0.04, 0.001);
    EXPECT_NEAR(valueOf(set, "heel_lift_m", rep), 0.03, 0.001);
    const auto* hips = find(set.measures.reps[rep], "hip_lift_m")->measured();
    EXPECT_GT(hips->t_s, set.reps[rep].ascent_t());
    EXPECT_LT(hips->t_s, set.reps[rep].lockout_t());
  }
}

TEST(PressBody, WhereTheToesSeemToSlideTheFilmMovesAndNothingIsSureToRise) {
  simulate::LiftFaults faults;
  faults.seat_lift_m = 0.06;
  faults.heel_lift_m = 0.04;
  auto set = pressed(faults);
  const RepLook still{set.motion, set.reps[0]};
  EXPECT_EQ(foot::slides_m(still), 0);
  const double sure = std::get<Measured>(press::hipLift(still)).sigma;
  motion::Path& toe = set.motion.paths[tracing::at(tracing::Landmark::Toe)];
  for (std::size_t i = set.motion.frameAt(set.reps[0].ascent_t()); i < toe.at.size(); ++i)
    if (toe.at[i]) toe.at[i]->x += 0.075;
  const RepLook moved{set.motion, set.reps[0]};
  EXPECT_NEAR(foot::slides_m(moved), 0.06, 0.002);
  for (const Measure& m : {press::hipLift(moved), foot::heelLift(moved)})
    EXPECT_GT(1.64 * std::get<Measured>(m).sigma, std::get<Measured>(m).value) << "it may be nothing";
  EXPECT_LT(sure, 0.04);
}

TEST(PressBody, WhereTheKneesSinkTooItIsTheCamera) {
  simulate::LiftFaults faults;
  faults.seat_lift_m = 0.05;
  faults.heel_lift_m = 0.03;
  auto set = pressed(faults);
  const RepLook look{set.motion, set.reps[0]};
  const auto sigmas = [&] {
    return std::pair(std::get<Measured>(press::hipLift(look)).sigma, std::get<Measured>(press::heelLift(look)).sigma);
  };
  const auto [hip, heel] = sigmas();
  EXPECT_LT(hip, 0.03) << "knees of a real lift move little";
  EXPECT_LT(heel, 0.015);
  motion::Path& knee = set.motion.paths[tracing::at(tracing::Landmark::Knee)];
  for (std::size_t i = set.motion.frameAt(set.reps[0].ascent_t()); i < knee.at.size(); ++i)
    if (knee.at[i]) knee.at[i]->z += 0.09;
  const auto [hip_then, heel_then] = sigmas();
  EXPECT_GT(hip_then, 0.08);
  EXPECT_GT(heel_then, 0.08);
}

TEST(PressBody, ABounceLeavesTheChestFasterThanItIsPressed) {
  simulate::ClipSpec spec;
  spec.lift = "bench";
  spec.set.variant = "touch-and-go";
  spec.set.reps = 2;
  spec.set.pause_s = 0;
  EXPECT_LT(valueOf(simulate::trueSet(simulate::truthOf(spec)), "rebound_ratio"), 0.7) << "gathers speed";
  spec.set.faults.bounce = 1;
  const auto bounced = simulate::trueSet(simulate::truthOf(spec));
  for (std::size_t rep : {0u, 1u}) EXPECT_GT(valueOf(bounced, "rebound_ratio", rep), 1.05);
  EXPECT_FALSE(find(pressed({}).measures.reps[0], "rebound_ratio")->measured()) << "a bar that rests does not bounce";
}

TEST(PressBody, ShouldersThatStayAreWhereTheyWereTheRepBefore) {
  const auto set = pressed({});
  EXPECT_FALSE(find(set.measures.reps[0], "shoulder_shift_m")->measured()) << "there is none before the first";
  EXPECT_NEAR(valueOf(set, "shoulder_shift_m", 1), 0, 1e-6);
}

TEST(PressBody, ElbowsAreMeasuredAgainstTheBarAtTheTouch) {
  for (double ahead : {-0.03, 0.02, 0.06}) {
    simulate::LiftFaults faults;
    faults.elbow_ahead_m = ahead;
    const auto set = pressed(faults);
    EXPECT_NEAR(valueOf(set, "elbow_ahead_of_bar_touch_m"), ahead, 0.004);
    EXPECT_EQ(valueOf(set, "forearm_touch_deg") > 0, ahead > 0) << "leans towards the feet";
  }
}

// An elbow that is guessed to lie under the bar is no measurement: it is left to the coach's eye, and so is one that
// an unknown camera angle shifts.
TEST(PressBody, AnElbowThatDecidesNothingIsLeftToTheEye) {
  const auto set = pressed({});
  const auto of = [&](const motion::Motion& m, std::string_view id) {
    const auto measures = measureSet(*liftNamed("bench"), m, set.reps);
    return find(measures.reps[0], id)->measure;
  };
  motion::Motion guessed = set.motion;
  for (double& sigma : guessed.paths[tracing::at(tracing::Landmark::Elbow)].sigma_m) sigma = 0.08;
  for (const char* id : {"elbow_ahead_of_bar_touch_m", "forearm_touch_deg", "flare_travel_deg"}) {
    ASSERT_TRUE(std::holds_alternative<Measured>(of(set.motion, id))) << id;
    const auto now = of(guessed, id);
    ASSERT_TRUE(std::holds_alternative<Absent>(now)) << id;
    EXPECT_NE(std::get<Absent>(now).reason.find("by eye"), std::string::npos) << id;
  }
  motion::Motion turned = set.motion;
  turned.calibration.yaw_sigma_rad = 0.3;
  const auto now = of(turned, "elbow_ahead_of_bar_touch_m");
  ASSERT_TRUE(std::holds_alternative<Absent>(now));
  EXPECT_NE(std::get<Absent>(now).reason.find("side-on"), std::string::npos);
}

TEST(PressBody, ElbowsThatStartTuckedFlareMore) {
  simulate::LiftFaults tucked;
  tucked.elbow_ahead_m = 0.08;
  EXPECT_GT(valueOf(pressed(tucked), "flare_travel_deg"), valueOf(pressed({}), "flare_travel_deg") + 2);
}

TEST(PressBody, ABarThatSinksIsMeasuredFromItsFirstTouch) {
  simulate::LiftFaults faults;
  faults.sink_m = 0.03;
  EXPECT_NEAR(valueOf(pressed(faults), "bar_sink_m"), 0.03, 0.005);
}

TEST(PressBody, ASinkIsAsUnsureAsItsTouch) {
  simulate::LiftFaults faults;
  faults.sink_m = 0.03;
  auto set = pressed(faults);
  const auto sigma = [&] {
    return find(measureSet(*liftNamed("bench"), set.motion, set.reps).reps[0], "bar_sink_m")->measured()->sigma;
  };
  const double sure = sigma();
  set.reps[0].set(motion::EventKind::Bottom, set.reps[0].bottom_t(), 0.3);
  EXPECT_GT(sigma(), sure + 0.004);
}

TEST(PressBody, OnlyTheUnrackTellsWhetherTheShouldersReach) {
  simulate::LiftFaults faults;
  faults.reach_m = 0.05;
  const auto set = pressed(faults);
  EXPECT_NEAR(valueOf(set, "shoulder_rise_unrack_m"), 0.05, 0.005);
  const auto* later = find(set.measures.reps[1], "shoulder_rise_unrack_m");
  ASSERT_NE(later, nullptr);
  EXPECT_EQ(later->measured(), nullptr) << "between two reps nothing is unracked";
}

}  // namespace
}  // namespace jib::lifts
