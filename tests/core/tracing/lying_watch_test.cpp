// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/lying_watch.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace jib::tracing {
namespace {

constexpr double kMetre_px = 300, kRim_px = 70;
constexpr PixelPoint kUp{300, 100}, kDown{300, 260}, kHip{450, 300};

// A mottled wall, a body's block from the bar's foot to the knees whose seat has come up by `lift_px`, plates at
// `plate` and, under them, an elbow on each side as far as they stand out.
struct Scene {
  PixelPoint plate = kUp;
  double lift_px = 0;
  std::optional<PixelPoint> elbow, far_elbow;
};

cv::Mat picture(const Scene& scene) {
  cv::Mat grey(480, 640, CV_8U, cv::Scalar(120));
  cv::RNG random(7);
  for (int i = 0; i < 400; ++i)
    cv::circle(grey, {random.uniform(0, 640), random.uniform(0, 480)}, random.uniform(2, 6),
               cv::Scalar(random.uniform(95, 150)), cv::FILLED);
  const auto lift = static_cast<int>(std::lround(scene.lift_px));
  cv::rectangle(grey, cv::Rect(400, 275 - lift, 160, 60), cv::Scalar(40), cv::FILLED);
  for (int x : {412, 424, 451, 470, 478, 507, 541})
    cv::circle(grey, {x, 295 + x % 9 - lift}, 6, cv::Scalar(80), cv::FILLED);
  cv::rectangle(grey, cv::Rect(150, 335, 420, 20), cv::Scalar(20), cv::FILLED);  // the pad
  const auto disc = [&](PixelPoint p, double r, int tone) {
    cv::circle(grey, {static_cast<int>(p.x), static_cast<int>(p.y)}, static_cast<int>(r), cv::Scalar(tone), cv::FILLED,
               cv::LINE_AA);
  };
  if (scene.far_elbow) disc(*scene.far_elbow, 0.042 * kMetre_px, 200);
  if (scene.elbow) disc(*scene.elbow, 0.042 * kMetre_px, 210);
  disc(scene.plate, kRim_px, 30);
  return grey;
}

LyingWatch watch(double far_elbow_px = 0) {
  return LyingWatch(picture({}), {kUp, kRim_px, kHip, 1, kMetre_px, far_elbow_px});
}

TEST(LyingWatch, SeesTheSeatComeUp) {
  const auto rest = watch().look(picture({}), kUp), up = watch().look(picture({kUp, 9, {}, {}}), kUp);
  ASSERT_TRUE(rest.hip_moved && up.hip_moved);
  EXPECT_NEAR(rest.hip_moved->y, 0, 0.1);
  EXPECT_NEAR(up.hip_moved->y, -9, 0.6);
  EXPECT_NEAR(up.hip_moved->x, 0, 0.6);
}

TEST(LyingWatch, DoesNotGuessAHipBehindAPlate) {
  const PixelPoint before_the_hip{430, 290};
  EXPECT_FALSE(watch().look(picture({before_the_hip, 0, {}, {}}), before_the_hip).hip_moved);
}

TEST(LyingWatch, FindsTheElbowThatStandsOutBelowThePlate) {
  const PixelPoint elbow{285, kDown.y + kRim_px + 6};
  const auto seen = watch().look(picture({kDown, 0, elbow, {}}), kDown);
  ASSERT_TRUE(seen.elbow);
  EXPECT_NEAR(seen.elbow->x, elbow.x, 3);
  EXPECT_NEAR(seen.elbow->y, elbow.y, 4);
}

TEST(LyingWatch, TakesTheNearElbowOfTwo) {
  const PixelPoint near{270, kDown.y + kRim_px + 8}, far{315, kDown.y + kRim_px + 5};
  const auto seen = watch(far.x - near.x).look(picture({kDown, 0, near, far}), kDown);
  ASSERT_TRUE(seen.elbow);
  EXPECT_NEAR(seen.elbow->x, near.x, 5) << "the camera sees the far one to the right of it";
  const auto mirrored = watch(near.x - far.x).look(picture({kDown, 0, far, near}), kDown);
  ASSERT_TRUE(mirrored.elbow);
  EXPECT_NEAR(mirrored.elbow->x, far.x, 5);
}

TEST(LyingWatch, SaysNothingWhereNothingStandsOut) {
  EXPECT_FALSE(watch().look(picture({kDown, 0, {}, {}}), kDown).elbow);
}

TEST(LyingWatch, AThingThatHasComeElsewhereIsNoElbow) {
  const PixelPoint away{320, kDown.y + 1.75 * kRim_px};
  EXPECT_FALSE(watch().look(picture({kDown, 0, away, {}}), kDown).elbow) << "it does not come out from the plate";
}

}  // namespace
}  // namespace jib::tracing
