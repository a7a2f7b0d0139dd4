// SPDX-License-Identifier: GPL-3.0-or-later
// Who lies on a bench and is seen along it, told from who stands or bends to a bar.
#include "core/tracing/sightings/bench_end.h"

#include <gtest/gtest.h>

#include "core/tracing/front/facing_across.h"

namespace jib::tracing {
namespace {

// Everything is seen; shoulders 100 px apart at 300.
PoseReading reading(double hips_y, double knees_y, double ankles_y, double elbows_y, double wrists_y) {
  PoseReading r;
  r.confidence.fill(0.9);
  const auto put = [&](PoseMark mark, double half, double y) {
    r.places[r.index(mark, BodySide::Left)] = {400 + half, y};
    r.places[r.index(mark, BodySide::Right)] = {400 - half, y};
  };
  put(PoseMark::Shoulder, 50, 300);
  put(PoseMark::Elbow, 75, elbows_y);
  put(PoseMark::Wrist, 90, wrists_y);
  put(PoseMark::Hip, 30, hips_y);
  put(PoseMark::Knee, 50, knees_y);
  put(PoseMark::Ankle, 50, ankles_y);
  return r;
}

TEST(LiesAlongTheView, FromEitherEndOfTheBench) {
  EXPECT_EQ(liesAlongTheView(reading(260, 255, 250, 230, 150), true), Along::Yes);
  EXPECT_EQ(liesAlongTheView(reading(305, 360, 500, 240, 170), false), Along::Yes);
}

TEST(LiesAlongTheView, NotWhoStandsUnderABar) {
  const PoseReading stands = reading(435, 550, 660, 360, 290);
  EXPECT_EQ(liesAlongTheView(stands, false), Along::No);
  EXPECT_EQ(liesAlongTheView(stands, true), Along::No);
}

TEST(LiesAlongTheView, NotWhoBendsToABarOnTheFloor) {
  EXPECT_EQ(liesAlongTheView(reading(335, 420, 520, 370, 440), false), Along::No) << "the hands are below the elbows";
}

TEST(LiesAlongTheView, PerhapsWhereElbowsAreTakenForHands) {
  EXPECT_EQ(liesAlongTheView(reading(260, 255, 250, 150, 230), true), Along::Perhaps);
  EXPECT_EQ(liesAlongTheView(reading(305, 360, 500, 170, 240), false), Along::No);
}

TEST(LiesAlongTheView, FromAHighCameraAtTheHeadTheTrunkIsLonger) {
  EXPECT_EQ(liesAlongTheView(reading(215, 210, 205, 230, 150), true), Along::Yes);
  EXPECT_EQ(liesAlongTheView(reading(195, 190, 185, 230, 150), true), Along::No);
}

TEST(LiesAlongTheView, NotWhoseShouldersAreGuessed) {
  PoseReading r = reading(260, 255, 250, 230, 150);
  r.confidence[r.index(PoseMark::Shoulder, BodySide::Left)] = 0.3;
  EXPECT_EQ(liesAlongTheView(r, true), Along::No);
}

TEST(FacingAcross, ALiftThatIsDoneLyingIsNeverSeenFromTheFrontOfWhoStands) {
  FirstLook look;
  look.view = {Seen::Front, 90, 0, {}};
  BodyModel lying;
  lying.lying = true;
  EXPECT_EQ(facingAcross(look, {}), Facing::Front);
  EXPECT_EQ(facingAcross(look, lying), std::nullopt);
  look.view.seen = Seen::Head;
  look.along_bench = true;
  EXPECT_EQ(facingAcross(look, lying), Facing::Head);
  EXPECT_EQ(facingAcross(look, {}), std::nullopt);
  look.view = {Seen::Rear, 78, 0, std::nullopt};
  look.along_bench = false;
  EXPECT_EQ(facingAcross(look, {}), std::nullopt) << "it may be seen from an angle";
  EXPECT_EQ(facingAcross(look, {}, kNearlyStraight_deg), Facing::Rear) << "unless the side showed no body";
}

TEST(Facing, IsKeptByItsName) {
  for (const Facing facing : {Facing::Front, Facing::Rear, Facing::Head})
    EXPECT_EQ(facingNamed(nameOf(facing)), facing);
  EXPECT_EQ(facingNamed("side"), std::nullopt);
}

}  // namespace
}  // namespace jib::tracing
