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

}  // namespace
}  // namespace jib::lifts
