// SPDX-License-Identifier: GPL-3.0-or-later
// One film is judged by one limit, whoever asks.
#include "core/lifts/view_assessor.h"

#include <gtest/gtest.h>

#include "core/coaching/clip_check.h"
#include "tests/core/analysed_clip.h"

namespace jib::lifts {
namespace {

TEST(ViewAssessor, AsksForTheLensLevelWithTheHipFromAboveAndFromBelow) {
  for (const double side : {1.0, -1.0}) {
    EXPECT_EQ(heightsFrom(side * 5).can, Can::Yes);
    EXPECT_EQ(heightsFrom(side * 10).why, ViewReason::Steep);
    EXPECT_EQ(heightsFrom(side * 10).can, Can::Weakly);
    EXPECT_EQ(heightsFrom(side * 16).can, Can::No);
    EXPECT_FALSE(absentFor(heightsFrom(side * 16).why).empty());
  }
}

TEST(ViewAssessor, TellsTurnedFromOblique) {
  motion::Calibration k;
  EXPECT_EQ(placesFrom(k).can, Can::Yes);
  k.turned_deg = 40;
  EXPECT_EQ(placesFrom(k).why, ViewReason::Turned);
  k.oblique = true;
  EXPECT_EQ(placesFrom(k).can, Can::No);
}

// A camera on the floor that looks up at the hip: card and measure said different things of depth.
TEST(ViewAssessor, CardAndMeasureAgreeOnACameraFarBelowTheHip) {
  coaching::Analysis a = tests::smallAnalysis();
  tracing::FirstLook look;
  look.view.seen = tracing::Seen::Side;
  look.feet_in_picture = true;
  for (const double look_down_deg : {-16.0, 16.0}) {
    a.motion.calibration.look_down_deg = look_down_deg;
    const auto measures = measureSet(definition(LiftId::Squat), a.motion, a.reps);
    const auto card = coaching::checkClip(a.clip, look, LiftId::Squat, &a, {});
    EXPECT_EQ(card.claim("depth")->can, coaching::Can::No);
    EXPECT_FALSE(find(measures.reps[0], "hip_crease_above_knee_m")->measured()) << look_down_deg;
  }
}

// Between 33 and 50 degrees the card said "depth cannot be judged", and the measure told it, sure and wrong.
TEST(ViewAssessor, WhatTheCardDeniesHasNoMeasureAndNoFindingFromAnySide) {
  coaching::Analysis a = tests::smallAnalysis();
  const auto& squat = definition(LiftId::Squat);
  tracing::FirstLook look;
  look.feet_in_picture = true;
  for (int yaw = 0; yaw <= 60; yaw += 3) {
    a.motion.calibration.turned_deg = yaw;
    a.motion.calibration.oblique = yaw > 50;
    look.view.seen = yaw <= 33 ? tracing::Seen::Side : tracing::Seen::Oblique;
    look.view.turned_deg = yaw;
    a.measures = measureSet(squat, a.motion, a.reps);
    const auto card = coaching::checkClip(a.clip, look, LiftId::Squat, &a, {});
    for (const RepMeasure& row : squat.rep_measures) {
      const auto* claim = card.claim(row.claim);
      ASSERT_TRUE(claim) << row.claim;
      const auto* measure = find(a.measures.reps[0], row.kind.id);
      EXPECT_FALSE(claim->can == coaching::Can::No && measure->measured()) << row.kind.id << " at " << yaw;
    }
    EXPECT_EQ(find(a.measures.reps[0], "hip_crease_above_knee_m")->measured() != nullptr, yaw <= 33) << yaw;
    for (const auto& f : coaching::judge(a.measures, *coaching::shippedStyle("balanced"), squat))
      EXPECT_FALSE(yaw > 33 && f.id == "squat.too_high") << yaw;
  }
}

TEST(ViewAssessor, TheCoachMayHoldToAClaimAllTheSame) {
  coaching::Analysis a = tests::smallAnalysis();
  a.motion.calibration.turned_deg = 40;
  a.motion.calibration.accepted = {"depth"};
  EXPECT_TRUE(
      find(measureSet(definition(LiftId::Squat), a.motion, a.reps).reps[0], "hip_crease_above_knee_m")->measured());
}

}  // namespace
}  // namespace jib::lifts
