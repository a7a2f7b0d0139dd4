// SPDX-License-Identifier: GPL-3.0-or-later
// Plates seen edge on, in two drawn pictures that show the bar high and low.
#include "core/tracing/front/edge_plates.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace jib::tracing {
namespace {

constexpr double kMetre_px = 200, kRim_m = 0.45;
constexpr double kHub_px = 150;  // of a plate from the bar's middle
constexpr double kHands_x = 400, kHigh_y = 200, kStroke_px = 60;

// A wall of uneven grey with a bar and its plates before it.
cv::Mat picture(double y) {
  cv::Mat grey(480, 800, CV_8U);
  cv::RNG noise(7);
  noise.fill(grey, cv::RNG::UNIFORM, 140, 150);
  const auto at = [&](double out) { return cv::Point2d(kHands_x + out, y); };
  cv::line(grey, at(-215), at(215), cv::Scalar(230), 8);
  for (double side : {-1.0, 1.0}) {
    const cv::Point2d hub = at(side * kHub_px);
    const double half = kRim_m * kMetre_px / 2;
    cv::rectangle(grey, cv::Rect2d(hub.x - 9, hub.y - half, 18, 2 * half), cv::Scalar(30), cv::FILLED);
  }
  return grey;
}

Apart apart() {
  return {0, 1, {kHands_x, kHigh_y}, {1, 0}, {0, kStroke_px}};
}

TEST(EdgePlates, TellHowLargeAMetreLooks) {
  const cv::Mat high = picture(kHigh_y), low = picture(kHigh_y + kStroke_px);
  constexpr double kGuess_px = 0.92 * kMetre_px;  // as far off as a body's proportions may be
  std::array<BarSearch, 2> search{BarSearch(high, low, apart(), kGuess_px, -1),
                                  BarSearch(high, low, apart(), kGuess_px, 1)};
  ASSERT_TRUE(search[0].settle());
  ASSERT_TRUE(search[1].settle());
  const auto seen = platesAlong(search, high, low, kGuess_px, kRim_m);
  ASSERT_TRUE(seen);
  EXPECT_NEAR(seen->metre_px, kMetre_px, 0.015 * kMetre_px)
      << "though the plates overlap where the bar is high and low";
  ASSERT_TRUE(seen->side[0] && seen->side[1]);
  EXPECT_NEAR(seen->side[0]->hub.x, kHands_x - kHub_px, 2);
  EXPECT_NEAR(seen->side[1]->hub.x, kHands_x + kHub_px, 2);
}

// A pull: the bar on the floor and at lockout, and a shadow under plates that lie on the floor.
TEST(EdgePlates, AShadowOnTheFloorAddsNothing) {
  constexpr double kPull_px = 130;
  const cv::Mat high = picture(kHigh_y);
  cv::Mat low = picture(kHigh_y + kPull_px);
  const double floor_y = kHigh_y + kPull_px + kRim_m * kMetre_px / 2;
  for (double side : {-1.0, 1.0})
    cv::rectangle(low, cv::Rect2d(kHands_x + side * kHub_px - 14, floor_y, 28, 10), cv::Scalar(90), cv::FILLED);
  Apart pull = apart();
  pull.went = {0, kPull_px};
  std::array<BarSearch, 2> search{BarSearch(high, low, pull, kMetre_px, -1), BarSearch(high, low, pull, kMetre_px, 1)};
  ASSERT_TRUE(search[0].settle() && search[1].settle());
  const auto seen = platesAlong(search, high, low, kMetre_px, kRim_m);
  ASSERT_TRUE(seen);
  EXPECT_NEAR(seen->metre_px, kMetre_px, 0.015 * kMetre_px);
}

TEST(EdgePlates, LevelTheLineThatTheHandsMissed) {
  const cv::Mat high = picture(kHigh_y), low = picture(kHigh_y + kStroke_px);
  Apart by_hands = apart();
  by_hands.hands.y += 20;  // wrists below the bar, and one of them more
  by_hands.line = PixelPoint{1, 0.06} * (1 / std::hypot(1, 0.06));
  levelByPlates(by_hands, high, low, kMetre_px, kRim_m);
  EXPECT_NEAR(by_hands.line.y, 0, 0.006);
  EXPECT_NEAR(by_hands.hands.y, kHigh_y, 1);
}

TEST(EdgePlates, NothingIsSaidWhereNoneAre) {
  const cv::Mat wall(480, 800, CV_8U, cv::Scalar(140));
  Apart same = apart();
  levelByPlates(same, wall, wall, kMetre_px, kRim_m);
  EXPECT_EQ(same.hands.y, kHigh_y);
  std::array<BarSearch, 2> search{BarSearch(wall, wall, apart(), kMetre_px, -1),
                                  BarSearch(wall, wall, apart(), kMetre_px, 1)};
  EXPECT_FALSE(search[0].settle());
  EXPECT_FALSE(platesAlong(search, wall, wall, kMetre_px, kRim_m));
}

}  // namespace
}  // namespace jib::tracing
