// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/pose_region.h"

#include <gtest/gtest.h>

namespace jib::tracing {
namespace {

TEST(PoseRegion, StandsUprightWhenTheScalePointIsAboveTheHips) {
  const PoseRegion r = PoseRegion::around({300, 400}, {300, 300});
  EXPECT_NEAR(r.turn_rad, 0, 1e-12);
  EXPECT_NEAR(r.size_px, 250, 1e-9) << "twice the distance, and a quarter more";
}

TEST(PoseRegion, TurnsWithThePerson) {
  EXPECT_NEAR(degrees(PoseRegion::around({0, 0}, {100, 0}).turn_rad), 90, 1e-9) << "head to the right: clockwise";
  EXPECT_NEAR(degrees(PoseRegion::around({0, 0}, {-100, 0}).turn_rad), -90, 1e-9);
  EXPECT_NEAR(std::abs(degrees(PoseRegion::around({0, 0}, {0, 100}).turn_rad)), 180, 1e-9);
}

TEST(PoseRegion, MapsItsCornersIntoThePicture) {
  const PoseRegion level{{100, 100}, 80, 0};
  EXPECT_NEAR(level.toPicture({0, 0}).x, 60, 1e-9);
  EXPECT_NEAR(level.toPicture({1, 0}).x, 140, 1e-9);
  EXPECT_NEAR(level.toPicture({1, 1}).y, 140, 1e-9);
  // A quarter turn clockwise takes the top edge to the right.
  const PoseRegion turned{{100, 100}, 80, kPi / 2};
  EXPECT_NEAR(turned.toPicture({0.5, 0}).x, 140, 1e-9);
  EXPECT_NEAR(turned.toPicture({0.5, 0}).y, 100, 1e-9);
  EXPECT_NEAR(length(turned.toPicture({0.5, 0.5}) - PixelPoint{100, 100}), 0, 1e-9);
}

}  // namespace
}  // namespace jib::tracing
