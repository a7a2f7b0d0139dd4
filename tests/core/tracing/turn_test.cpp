// SPDX-License-Identifier: GPL-3.0-or-later
// To which side the camera is turned, where only the rim's flatness and the lifter's feet can tell.
#include "core/tracing/camera/yaw_from_rim.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "core/base/result.h"
#include "core/tracing/clip_tracer.h"

namespace jib::tracing {
namespace {

// A lifter who stands still under the bar, seen by a camera turned by `yaw`; the bar `ahead_m` of mid-foot.
struct Scene {
  BarTrace bar;
  std::vector<Sighting> sightings;
  SideCamera square;

  Scene(double yaw_deg, double ahead_m, double forward = 1) {
    square.middle = {640, 360};
    square.focal_px = 1060;
    square.forward = forward;
    SideCamera real = square;
    real.yaw_rad = radians(yaw_deg);
    const BodySide side = forward > 0 ? BodySide::Right : BodySide::Left;
    // The lifter stands in the middle of the picture, the plate as high as the lens.
    const double there = forward * real.plate_distance_m * std::tan(real.yaw_rad);
    const PixelPoint plate = real.toPicture({there + ahead_m, 0}, real.plate_m);
    const double sight = std::atan((plate.x - real.middle.x) / real.focal_px);
    bar.rim.radius_px = 70;
    bar.rim.aspect = std::cos(radians(yaw_deg) + sight);
    bar.rim.tilt_rad = kPi / 2;
    for (std::size_t i = 0; i < 60; ++i) {
      bar.times_s.push_back(static_cast<double>(i) / 30);
      bar.plate.push_back(TracedPoint{plate, 0.3, Origin::Optical});
      bar.end.push_back(bar.plate.back());
      if (i % 3 != 0) continue;
      Sighting s;
      s.frame = i;
      const auto see = [&](PoseMark mark, Landmark landmark, MetrePoint at) {
        s.reading.places[s.reading.index(mark, side)] =
            real.toPicture({there + at.x, at.z}, real.lateralOf(landmark, 0));
        s.reading.confidence[s.reading.index(mark, side)] = 0.9;
      };
      see(PoseMark::Toe, Landmark::Toe, {0.13, -1.4});
      see(PoseMark::Heel, Landmark::Heel, {-0.13, -1.38});
      see(PoseMark::Ankle, Landmark::Ankle, {-0.07, -1.32});
      sightings.push_back(s);
    }
  }
  std::optional<Turn> turn() const { return turnFromRim(bar, sightings, square, 30); }
};

class TurnOf : public testing::TestWithParam<double> {};

TEST_P(TurnOf, IsFoundWithItsSideWhicheverWayTheLifterFaces) {
  for (double forward : {1.0, -1.0}) {
    const auto turn = Scene(GetParam(), 0.02, forward).turn();
    ASSERT_TRUE(turn) << GetParam();
    EXPECT_NEAR(degrees(turn->yaw_rad), GetParam(), 0.5);
    EXPECT_LT(turn->sigma_rad, radians(4));
  }
}
INSTANTIATE_TEST_SUITE_P(ToBothSides, TurnOf, testing::Values(-20.0, -14.0, 14.0, 20.0));

TEST(Turn, WhatIsAboveOrBelowTheLensIsNotTakenForATurn) {
  // Ten degrees to the side and eight above: the rim's smaller axis leans, and is smaller than the turn alone makes it.
  Scene s(10, 0.02);
  const double h = radians(10), v = radians(8);
  for (auto& p : s.bar.plate) p->place.y = s.square.middle.y - s.square.focal_px * std::tan(v);
  s.bar.rim.aspect = std::cos(std::hypot(h, v));
  s.bar.rim.tilt_rad = std::atan2(-v, h) + kPi / 2;
  const auto turn = s.turn();
  ASSERT_TRUE(turn);
  EXPECT_NEAR(degrees(turn->yaw_rad), 10, 0.5);
}

TEST(Turn, ABarHeldSomewhatForwardStaysMeasured) {
  // 5 cm before mid-foot is a fault the coach wants to see; only the side may come from the feet.
  const auto turn = Scene(15, 0.05).turn();
  ASSERT_TRUE(turn);
  EXPECT_NEAR(degrees(turn->yaw_rad), 15, 0.7);
}

// The whole way: bar and sightings in, a turned camera out, and the bar where it is.
TEST(Turn, TheTracedClipSeesTheBarOverTheFoot) {
  const Scene s(16, 0.03);
  ClipTrace clip;
  clip.bar = std::make_shared<const BarTrace>(s.bar);
  clip.sightings = std::make_shared<const std::vector<Sighting>>(s.sightings);
  TraceRequest request;
  request.view = View::Right;
  solveAgain(clip, request, 1280, 720);
  EXPECT_NEAR(degrees(clip.camera.yaw_rad), 16, 1.5);
  const auto over = [&](const SideCamera& camera) {
    const auto x = [&](PixelPoint p, Landmark l) { return camera.toPlane(p, camera.lateralOf(l, 0)).x; };
    const auto& reading = s.sightings.front().reading;
    const double foot = (x(reading.place(PoseMark::Toe, BodySide::Right), Landmark::Toe) +
                         x(reading.place(PoseMark::Heel, BodySide::Right), Landmark::Heel)) /
                        2;
    return x(s.bar.plate.front()->place, Landmark::Bar) - foot;
  };
  EXPECT_NEAR(over(clip.camera), 0.03, 0.03);
  // Without the sightings the turn is not known: the same bar seems to hang far from the foot, and the ± says so.
  ClipTrace blind = clip;
  blind.sightings = nullptr;
  solveAgain(blind, request, 1280, 720);
  EXPECT_EQ(blind.camera.yaw_rad, 0);
  EXPECT_GT(std::abs(over(blind.camera)), 0.1);
  EXPECT_GT(blind.camera.yaw_sigma_rad, clip.camera.yaw_sigma_rad);
  EXPECT_GT(blind.camera.plate_distance_m, 0);
}

TEST(BarEndUnseen, IsExpectedWhereTheBarPointsWithItsDoubt) {
  // Level with the lens and straight before it the end hides its plate; above the lens it stands higher than the plate.
  const auto endFrom = [](double yaw_deg, double above_m) {
    Scene s(yaw_deg, 0.0);
    for (auto& p : s.bar.plate) p->place.y -= above_m * s.square.pixelsPerMetre(s.square.plate_m);
    ClipTrace clip;
    clip.bar = std::make_shared<const BarTrace>(s.bar);
    clip.sightings = std::make_shared<const std::vector<Sighting>>(s.sightings);
    TraceRequest request;
    request.view = View::Right;
    solveAgain(clip, request, 1280, 720);
    const auto& frame = clip.trace.frames[30];
    return std::pair(frame[at(Landmark::Bar)]->place - frame[at(Landmark::Plate)]->place, *frame[at(Landmark::Bar)]);
  };
  EXPECT_LT(length(endFrom(0, 0).first), 1.0);
  EXPECT_LT(endFrom(0, 0.5).first.y, -5) << "nearer things above the lens look higher";
  const auto turned = endFrom(16, 0);
  EXPECT_GT(std::abs(turned.first.x), 10) << "a turned bar points aside";
  EXPECT_EQ(turned.second.origin, Origin::Fitted) << "worked out, not seen";
  EXPECT_GT(turned.second.sigma_px, 2);
}

TEST(Turn, IsNotMadeUp) {
  EXPECT_FALSE(Scene(3, 0.02).turn()) << "a rim this round tells nothing";
  Scene from_above(15, 0.02);
  from_above.bar.rim.tilt_rad = 0;
  EXPECT_FALSE(from_above.turn()) << "flat from above is no turn";
  Scene no_feet(15, 0.02);
  no_feet.sightings.clear();
  EXPECT_FALSE(no_feet.turn());
  EXPECT_FALSE(Scene(15, 0.40).turn()) << "no side puts this bar over the foot: something else is wrong";
}

TEST(Turn, TheAnkleServesWhereToeAndHeelAreNotSeen) {
  Scene s(16, 0.0);
  for (Sighting& one : s.sightings)
    for (PoseMark mark : {PoseMark::Toe, PoseMark::Heel})
      one.reading.confidence[one.reading.index(mark, BodySide::Right)] = 0.1;
  const auto turn = s.turn();
  ASSERT_TRUE(turn);
  EXPECT_NEAR(degrees(turn->yaw_rad), 16, 0.7);
}

}  // namespace
}  // namespace jib::tracing
