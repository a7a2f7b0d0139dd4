// SPDX-License-Identifier: GPL-3.0-or-later
// How far the camera is turned: by the bar, the rim and the body, and what follows where they contradict each other.
#include "core/tracing/camera/camera_turn.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

// A plate in the middle of the picture, narrowed across as by a turn of `rim_deg`.
BarTrace barSeen(double rim_deg) {
  BarTrace bar;
  bar.times_s = {0, 0.1, 0.2};
  bar.plate.assign(3, TracedPoint{{640, 360}, 0.3});
  bar.end.resize(3);
  bar.rim.radius_px = 60;
  bar.rim.aspect = std::cos(radians(rim_deg));
  bar.rim.tilt_rad = kPi / 2;  // the larger axis stands upright
  return bar;
}

// The same, and something that was taken for the bar's end.
BarTrace endSeen(double rim_deg) {
  BarTrace bar = barSeen(rim_deg);
  bar.vanishing = PixelPoint{0, 0};
  return bar;
}

SideCamera level(double yaw_deg = 0, double forward = 1) {
  SideCamera c;
  c.middle = {640, 360};
  c.focal_px = 1000;
  c.forward = forward;
  c.yaw_rad = radians(yaw_deg);
  c.yaw_sigma_rad = 0.03;
  return c;
}

ViewLook body(double turned_deg, double toward) {
  ViewLook look;
  look.seen = Seen::Side;
  look.toward = toward;
  return turnedBy(look, turned_deg);
}

TEST(CameraTurn, BelievesABarThatTheRimAgreesWith) {
  for (const double yaw : {0.0, 12.0, -25.0, 40.0}) {
    const BarTrace bar = endSeen(std::abs(yaw));
    const CameraTurn turn = cameraTurn(bar, level(yaw), body(std::abs(yaw) + 12, 1));
    EXPECT_FALSE(turn.bar_disputed) << yaw;
    EXPECT_TRUE(turn.settled);
    EXPECT_NEAR(turn.turned_deg, std::abs(yaw), 0.1);
    EXPECT_FALSE(turn.by_body);
  }
}

// A plate narrowed by 37 degrees cannot hang on a bar that points at the camera: its end was taken for something else.
TEST(CameraTurn, DoesNotBelieveABarThatTheRimContradicts) {
  const BarTrace bar = endSeen(37);
  const CameraTurn turn = cameraTurn(bar, level(-7.5), body(74, 1));
  EXPECT_TRUE(turn.bar_disputed);
  ASSERT_TRUE(turn.by_body);
  EXPECT_NEAR(degrees(turn.by_body->yaw_rad), -45, 4);
  EXPECT_TRUE(turn.settled);
}

// Each of the two is little: 7 degrees of rim, 8 of the body. Together they say that the bar's end was none.
TEST(CameraTurn, RimAndBodyTogetherOutvoteWhatWasTakenForTheEndOfTheBar) {
  const BarTrace bar = endSeen(36);
  const CameraTurn turn = cameraTurn(bar, level(-28), body(64, 1));
  EXPECT_TRUE(turn.bar_disputed);
  ASSERT_TRUE(turn.by_body);
  EXPECT_NEAR(turn.turned_deg, 42, 2);
  EXPECT_GE(turn.sigma_deg, 6);
  // A body that bends and twists at the bar alone is no reason.
  EXPECT_FALSE(cameraTurn(bar, level(-33), body(64, 1)).bar_disputed);
}

TEST(CameraTurn, TheBodyTellsFromWhichSideARimIsNarrowed) {
  const BarTrace bar = barSeen(30);
  // From the front the camera stands where the lifter looks, and looks back; and so for who faces the other way.
  EXPECT_LT(cameraTurn(bar, level(0, 1), body(45, 1)).by_body->yaw_rad, -0.4);
  EXPECT_GT(cameraTurn(bar, level(0, 1), body(45, -1)).by_body->yaw_rad, 0.4);
  EXPECT_GT(cameraTurn(bar, level(0, -1), body(45, 1)).by_body->yaw_rad, 0.4);
}

TEST(CameraTurn, StaysUnsettledWhereNothingTellsTheSide) {
  const CameraTurn turn = cameraTurn(barSeen(30), level(), ViewLook{});
  EXPECT_FALSE(turn.by_body);
  EXPECT_FALSE(turn.settled);
  EXPECT_NEAR(turn.turned_deg, 30, 1);
}

TEST(CameraTurn, ARoundRimIsNoTurnWhateverABentBodyLooksLike) {
  const CameraTurn turn = cameraTurn(barSeen(5), level(), body(60, 1));
  EXPECT_FALSE(turn.by_body);
  EXPECT_LT(turn.turned_deg, 20);
}

}  // namespace
}  // namespace jib::tracing
