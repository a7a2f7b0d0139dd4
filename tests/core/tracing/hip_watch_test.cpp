// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/hip_watch.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "core/tracing/bar/lift_offs.h"

namespace jib::tracing {
namespace {

constexpr double kMetre_px = 300, kRim_px = 68;
constexpr PixelPoint kPlate{420, 330}, kHip{300, 240};

// A mottled wall that stands still, a dark body before it whose buttock ends behind the hip, moved by `moved`; a plate.
cv::Mat picture(PixelPoint moved, PixelPoint plate = kPlate, bool plain = false) {
  cv::Mat grey(480, 640, CV_8U, cv::Scalar(120));
  cv::RNG random(11);
  for (int i = 0; i < 500 && !plain; ++i)
    cv::circle(grey, {random.uniform(0, 640), random.uniform(0, 480)}, random.uniform(2, 6),
               cv::Scalar(random.uniform(95, 150)), cv::FILLED);
  if (!plain) {
    constexpr int kShift = 4;
    const auto at = [&](double x, double y) {
      return cv::Point(static_cast<int>(std::lround((x + moved.x) * (1 << kShift))),
                       static_cast<int>(std::lround((y + moved.y) * (1 << kShift))));
    };
    cv::circle(grey, at(kHip.x, kHip.y), 36 << kShift, cv::Scalar(45), cv::FILLED, cv::LINE_AA, kShift);
    for (int k = 0; k < 12; ++k)
      cv::circle(grey, at(kHip.x - 26 + 17 * (k % 4), kHip.y - 18 + 15 * (k / 4) + 3 * (k % 3)), 4 << kShift,
                 cv::Scalar(75), cv::FILLED, cv::LINE_AA, kShift);
  }
  cv::circle(grey, {static_cast<int>(plate.x), static_cast<int>(plate.y)}, static_cast<int>(kRim_px), cv::Scalar(25),
             cv::FILLED, cv::LINE_AA);
  return grey;
}

Outline bodyAbout(PixelPoint hip) {
  Outline line;
  for (int k = 0; k < 40; ++k)
    line.push_back(hip + PixelPoint{36 * std::cos(k * kPi / 20), 36 * std::sin(k * kPi / 20)});
  return line;
}

TEST(HipWatch, SeesTheHipLowerBeforeThePlatesLeave) {
  const Outline body = bodyAbout(kHip);
  const auto watch = HipWatch::begin(picture({}), {kHip, 1, kMetre_px, kPlate, kRim_px, &body});
  ASSERT_TRUE(watch);
  PixelPoint near{};
  for (const double down : {0.0, 2.5, 6.0, 10.4, 15.0}) {
    const auto moved = watch->moved(picture({0.3 * down, down}), near);
    ASSERT_TRUE(moved) << down;
    EXPECT_NEAR(moved->y, down, 0.4);
    EXPECT_NEAR(moved->x, 0.3 * down, 0.4);
    near = *moved;
  }
}

TEST(HipWatch, IsNotHeldBackByTheWallBehind) {
  const Outline body = bodyAbout(kHip);
  const auto with = HipWatch::begin(picture({}), {kHip, 1, kMetre_px, kPlate, kRim_px, &body});
  ASSERT_TRUE(with);
  EXPECT_NEAR(with->moved(picture({0, 8}), {0, 5})->y, 8, 0.4);
}

TEST(HipWatch, SaysNothingWhereAPlateHidesTheHipOrNothingIsThere) {
  EXPECT_FALSE(HipWatch::begin(picture({}, kHip), {kHip, 1, kMetre_px, kHip, kRim_px, nullptr}));
  EXPECT_FALSE(HipWatch::begin(picture({}, kPlate, true), {kHip, 1, kMetre_px, kPlate, kRim_px, nullptr}));
  EXPECT_FALSE(HipWatch::begin(picture({}), {{20, 240}, 1, kMetre_px, kPlate, kRim_px, nullptr})) << "cut off";
  const auto watch = HipWatch::begin(picture({}), {kHip, 1, kMetre_px, kPlate, kRim_px, nullptr});
  ASSERT_TRUE(watch);
  EXPECT_FALSE(watch->moved(picture({}, kHip), {})) << "somebody stepped before it";
}

BarTrace barThat(const std::vector<double>& heights_px) {
  BarTrace bar;
  bar.rim.radius_px = 70;
  for (std::size_t i = 0; i < heights_px.size(); ++i) {
    bar.times_s.push_back(static_cast<double>(i) / 30);
    bar.plate.push_back(TracedPoint{{200, 400 - heights_px[i]}, 0.3, Origin::Optical});
  }
  return bar;
}

TEST(LiftOffs, AreTheLastFramesOnTheFloorOfEachPull) {
  std::vector<double> heights;
  const auto stay = [&](int n, double h) { heights.insert(heights.end(), static_cast<std::size_t>(n), h); };
  const auto go = [&](double from, double to) {
    for (int i = 1; i <= 10; ++i) heights.push_back(from + (to - from) * i / 10);
  };
  stay(20, 0);
  go(0, 170);
  stay(5, 170);
  go(170, 1);  // set down a pixel higher
  stay(10, 1);
  go(1, 30);  // only rolled over a mat and back
  go(30, 0.5);
  stay(10, 0.5);
  go(0.5, 170);
  EXPECT_EQ(liftOffFrames(barThat(heights)), (std::vector<std::size_t>{19, 84}));
  heights.erase(heights.begin(), heights.begin() + 30);  // begins with the bar up
  EXPECT_EQ(liftOffFrames(barThat(heights)), (std::vector<std::size_t>{54}));
}

}  // namespace
}  // namespace jib::tracing
