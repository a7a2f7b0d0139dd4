// SPDX-License-Identifier: GPL-3.0-or-later
// Rims and round things on pictures drawn for the purpose.
#include "core/tracing/bar/rim_fit.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>
#include <random>

#include "core/base/angle.h"
#include "core/tracing/bar/plate_finder.h"

namespace jib::tracing {
namespace {

// Draws with 1/16 px steps: the first pixel's centre is (0.5, 0.5) here and (0, 0) there.
constexpr int kShift = 4;
cv::Point fine(PixelPoint p) {
  return {static_cast<int>(std::lround((p.x - 0.5) * (1 << kShift))),
          static_cast<int>(std::lround((p.y - 0.5) * (1 << kShift)))};
}

cv::Mat wall(int width = 400, int height = 300) {
  return cv::Mat(height, width, CV_8U, cv::Scalar(150));
}

void plate(cv::Mat& picture, PixelPoint centre, double radius, int grey = 30) {
  cv::circle(picture, fine(centre), static_cast<int>(std::lround(radius * (1 << kShift))), cv::Scalar(grey), -1,
             cv::LINE_AA, kShift);
}

void noisy(cv::Mat& picture, double sigma) {
  std::mt19937 random(11);
  std::normal_distribution<double> noise(0, sigma);
  for (int y = 0; y < picture.rows; ++y)
    for (int x = 0; x < picture.cols; ++x)
      picture.at<std::uint8_t>(y, x) = cv::saturate_cast<std::uint8_t>(picture.at<std::uint8_t>(y, x) + noise(random));
}

const RimShape kRound{60, 0, 0};

TEST(RimFit, FindsTheCentreToAFractionOfAPixel) {
  for (PixelPoint centre : {PixelPoint{200, 150}, PixelPoint{203.3, 147.8}, PixelPoint{198.75, 152.25}}) {
    cv::Mat picture = wall();
    plate(picture, centre, 60);
    const auto fit = fitRim(picture, {200, 150}, kRound, {});
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->centre.x, centre.x, 0.12);
    EXPECT_NEAR(fit->centre.y, centre.y, 0.12);
    EXPECT_GT(fit->inliers, 0.9);
  }
}

TEST(RimFit, SaysThatItIsLessSureInNoise) {
  cv::Mat clean = wall(), grainy = wall();
  plate(clean, {200, 150}, 60);
  plate(grainy, {200, 150}, 60);
  noisy(grainy, 14);
  const auto a = fitRim(clean, {201, 149}, kRound, {}), b = fitRim(grainy, {201, 149}, kRound, {});
  ASSERT_TRUE(a && b);
  EXPECT_GT(b->sigma_px, a->sigma_px);
  EXPECT_LT(length(b->centre - PixelPoint{200, 150}), 4 * b->sigma_px + 0.3);
}

TEST(RimFit, IsNotPulledByALegInFrontOfTheRim) {
  cv::Mat picture = wall();
  plate(picture, {200, 150}, 60);
  cv::rectangle(picture, {175, 190}, {228, 299}, cv::Scalar(205), -1);
  const auto fit = fitRim(picture, {201, 151}, kRound, {});
  ASSERT_TRUE(fit);
  EXPECT_LT(length(fit->centre - PixelPoint{200, 150}), 0.4);
}

TEST(RimFit, FindsNothingWhereThereIsNothing) {
  EXPECT_FALSE(fitRim(wall(), {200, 150}, kRound, {}));
  cv::Mat half = wall();  // a straight edge is no rim
  cv::rectangle(half, {0, 0}, {199, 299}, cv::Scalar(40), -1);
  const auto fit = fitRim(half, {200, 150}, kRound, {});
  EXPECT_TRUE(!fit || fit->inliers < 0.6);
}

TEST(RimFit, StaysInsideThePictureAtItsEdge) {
  cv::Mat picture = wall();
  plate(picture, {30, 150}, 60);
  const auto fit = fitRim(picture, {31, 150}, kRound, {});
  ASSERT_TRUE(fit) << "more than a third of the rim is in the picture";
  EXPECT_LT(length(fit->centre - PixelPoint{30, 150}), 0.6);
  EXPECT_FALSE(fitRim(picture, {-400, -300}, kRound, {}));
}

TEST(RimFit, LearnsHowFlatTheRimIs) {
  cv::Mat picture = wall();
  cv::ellipse(picture, fine({200, 150}), {54 << kShift, 60 << kShift}, 0, 0, 360, cv::Scalar(30), -1, cv::LINE_AA,
              kShift);
  RimSearch search;
  search.shape_free = true;
  search.window_rel = 0.2;
  const auto fit = fitRim(picture, {200, 150}, {57, 0, 0}, search);
  ASSERT_TRUE(fit);
  EXPECT_NEAR(fit->shape.at(0), 54, 0.5);
  EXPECT_NEAR(fit->shape.at(kPi / 2), 60, 0.5);
}

TEST(RimShape, IsAnEllipseToFirstOrder) {
  const RimShape shape{50, 2, 0};
  EXPECT_DOUBLE_EQ(shape.at(0), 52);
  EXPECT_DOUBLE_EQ(shape.at(kPi / 2), 48);
  EXPECT_NEAR(shape.at(kPi / 4), 50, 1e-12);
  EXPECT_NEAR((RimShape{50, 0, 3}).at(kPi / 4), 53, 1e-12);
}

TEST(RimScore, IsHighestOnTheRim) {
  cv::Mat picture = wall();
  plate(picture, {200, 150}, 60);
  const double on = rimScore(picture, {200, 150}, kRound);
  for (PixelPoint beside : {PixelPoint{208, 150}, PixelPoint{200, 140}, PixelPoint{260, 150}})
    EXPECT_GT(on, 1.3 * rimScore(picture, beside, kRound));
}

TEST(RoundThings, AreFoundWhereTheyAre) {
  cv::Mat picture = wall(640, 360);
  plate(picture, {180, 160}, 55);
  plate(picture, {470, 200}, 38);
  noisy(picture, 4);
  const auto found = findRoundThings(picture);
  const auto near = [&](PixelPoint at, double radius) {
    return std::any_of(found.begin(), found.end(), [&](const RoundThing& t) {
      return length(t.centre - at) < 6 && std::abs(t.radius_px - radius) < 6;
    });
  };
  EXPECT_TRUE(near({180, 160}, 55));
  EXPECT_TRUE(near({470, 200}, 38));
  for (std::size_t i = 1; i < found.size(); ++i) EXPECT_LE(found[i].coverage, found[i - 1].coverage);
}

TEST(RoundThings, AreLookedForOnlyWhereTheCoachClicked) {
  cv::Mat picture = wall(640, 360);
  plate(picture, {180, 160}, 55);
  plate(picture, {470, 200}, 38);
  const auto found = findRoundThings(picture, PixelPoint{465, 204});
  ASSERT_FALSE(found.empty());
  for (const RoundThing& t : found) EXPECT_LT(length(t.centre - PixelPoint{465, 204}), t.radius_px + 1);
}

TEST(RoundThings, AreNotSeenInAnEmptyRoom) {
  EXPECT_TRUE(findRoundThings(wall()).empty());
  cv::Mat corner = wall();
  cv::rectangle(corner, {100, 60}, {300, 240}, cv::Scalar(60), -1);
  for (const RoundThing& t : findRoundThings(corner)) EXPECT_LT(t.coverage, 0.6);
}

}  // namespace
}  // namespace jib::tracing
