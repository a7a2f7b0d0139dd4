// SPDX-License-Identifier: GPL-3.0-or-later
// What a pull inherits from the one before it, and how fast it is where, of exactly known motion.
#include "core/lifts/between_reps.h"

#include <gtest/gtest.h>

#include "core/lifts/impossible.h"
#include "core/lifts/pull_speed.h"
#include "core/simulate/film.h"
#include "core/simulate/truth_file.h"

namespace jib::lifts {
namespace {

simulate::TrueSet pulled(double wander_m, double rest_s = 1.5, double hip_rise_m = 0) {
  simulate::ClipSpec spec;
  spec.lift = "deadlift";
  spec.set.variant = "conventional";
  spec.set.reps = 3;
  spec.set.rest_s = rest_s;
  spec.set.faults.wander_m = wander_m;
  spec.set.faults.hip_rise_m = hip_rise_m;
  return simulate::trueSet(simulate::truthOf(spec));
}

const Measured* said(const simulate::TrueSet& set, std::string_view id, std::size_t rep) {
  return find(set.measures.reps.at(rep), id)->measured();
}

TEST(BetweenReps, TheFirstRepHasNoneBeforeIt) {
  const auto set = pulled(0.03);
  EXPECT_FALSE(said(set, "start_shift_m", 0));
  EXPECT_FALSE(said(set, "floor_rest_s", 0));
}

TEST(BetweenReps, ABarSetDownFurtherForwardStartsThere) {
  for (double wander_m : {-0.03, 0.0, 0.04}) {
    const auto set = pulled(wander_m);
    for (std::size_t rep : {1u, 2u}) {
      ASSERT_TRUE(said(set, "start_shift_m", rep));
      EXPECT_NEAR(said(set, "start_shift_m", rep)->value, wander_m, 0.003) << "against the rep before, not the first";
    }
  }
}

TEST(BetweenReps, TheRestIsFromPlatesDownToLiftOff) {
  for (double rest_s : {0.8, 2.5})
    for (std::size_t rep : {1u, 2u})
      EXPECT_NEAR(said(pulled(0, rest_s), "floor_rest_s", rep)->value, rest_s + 0.2, 0.03)
          << "a bar that is set down slowly is down a little before the motion ends";
}

TEST(PullSpeed, IsTheWayOverTheTimeOfEachPart) {
  const auto set = pulled(0);
  const double floor = said(set, "floor_speed_mps", 0)->value, middle = said(set, "middle_speed_mps", 0)->value,
               top = said(set, "top_speed_mps", 0)->value, mean = said(set, "bar_mean_ascent_mps", 0)->value,
               peak = said(set, "bar_peak_ascent_mps", 0)->value;
  EXPECT_LT(floor, mean) << "it starts from rest";
  EXPECT_GT(std::max(middle, top), mean);
  for (double speed : {floor, middle, top}) EXPECT_LT(speed, peak);
}

// The trace takes hold of another edge of the plate for a moment; the bar is where it was.
TEST(PullBar, AHoldIsNotOverBecauseTheTraceJumped) {
  auto set = pulled(0);
  const double held = said(set, "lockout_hold_s", 0)->value;
  ASSERT_GT(held, 0.3);
  const std::size_t jump = set.motion.frameAt(set.reps[0].lockout_t() + held / 2);
  for (std::size_t i = jump; i < jump + 2; ++i) set.motion.bar_vx_mps[i] = 1.2;
  const auto again = measureSet(definition(LiftId::Deadlift), set.motion, set.reps);
  EXPECT_NEAR(find(again.reps[0], "lockout_hold_s")->measured()->value, held, 0.06);
}

TEST(PullBody, NobodyHoldsABarOnTheFloorUprightOrWithTheKneesBehindTheAnkles) {
  const LiftDefinition& lift = definition(LiftId::Deadlift);
  const auto set = pulled(0);
  EXPECT_TRUE(impossibleIn(lift, set.motion, set.reps).empty());
  const auto withAngles = [&](double torso_deg, double shin_deg) {
    motion::Motion m = set.motion;
    auto& at_floor = m.angles[m.frameAt(set.reps[1].bottom_t())];
    at_floor.torso_deg = torso_deg;
    at_floor.shin_deg = shin_deg;
    return impossibleIn(lift, m, set.reps);
  };
  for (const auto& found : {withAngles(12, 8), withAngles(60, -24)}) {
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].id, "no_way_to_pull");
    EXPECT_FALSE(found[0].concerns(0)) << "the other reps keep theirs";
    EXPECT_TRUE(found[0].concerns(1) && found[0].no_body && !found[0].no_bar);
  }
  EXPECT_TRUE(withAngles(38, -4).empty()) << "as upright as a wide stance makes it";
}

TEST(PullBody, ATorsoThatTipsBeforeThePlatesLeaveIsToldByTheChange) {
  EXPECT_NEAR(said(pulled(0), "trunk_change_liftoff_deg", 0)->value, 0, 0.5);
  const auto tipped = pulled(0, 1.5, 0.08);
  EXPECT_NEAR(said(tipped, "trunk_change_liftoff_deg", 0)->value,
              said(tipped, "trunk_lean_liftoff_deg", 0)->value - said(tipped, "trunk_lean_set_deg", 0)->value, 1e-6);
  EXPECT_GT(said(tipped, "trunk_change_liftoff_deg", 0)->value, 3);
}

// The trunk comes up while the bar passes the knee: a knee that may be higher or lower is another moment.
TEST(TrunkAtKnee, IsAsUnsureAsWhereTheKneeIs) {
  auto set = pulled(0);
  const auto sigma = [&] {
    const auto measures = measureSet(*liftNamed("deadlift"), set.motion, set.reps);
    return find(measures.reps[0], "trunk_lean_knee_deg")->measured()->sigma;
  };
  const double sure = sigma();
  for (double& knee : set.motion.paths[tracing::at(tracing::Landmark::Knee)].sigma_m) knee = 0.05;
  EXPECT_GT(sigma(), sure + 1);
}

}  // namespace
}  // namespace jib::lifts
