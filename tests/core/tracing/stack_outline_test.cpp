// SPDX-License-Identifier: GPL-3.0-or-later
// What a stack of plates adds to the outline of the one in front, and a second outline round the one that is followed.
#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/tracing/bar/second_rim.h"
#include "core/tracing/camera/side_camera.h"

namespace jib::tracing {
namespace {

constexpr double kRadius_px = 40;
constexpr int kWidth = 1280, kHeight = 720;

// A rim that stays where it is, so far below the middle of the picture.
BarTrace barAt(double below_px) {
  BarTrace bar;
  for (int i = 0; i < 50; ++i) {
    bar.times_s.push_back(i / 30.0);
    bar.plate.push_back(TracedPoint{{kWidth / 2.0, kHeight / 2.0 + below_px}, 0.5, Origin::Optical});
  }
  bar.end = bar.plate;
  bar.rim = {kRadius_px, 1, 0, 0.01};
  bar.vanishing = PixelPoint{kWidth / 2.0, kHeight / 2.0};
  bar.vanishing_sigma_px = 1;
  return bar;
}

TEST(StackOfPlates, AddsNothingWhereTheLensLooksStraightAlongTheBar) {
  const SideCamera c = sideCamera(barAt(0), kWidth, kHeight, 1, {});
  EXPECT_NEAR(c.plate_distance_m, c.focal_px * 0.225 / kRadius_px, 1e-6);
}

TEST(StackOfPlates, LooksLargerFromAboveAndBelowAndIsThatMuchFurtherOff) {
  const SideCamera level = sideCamera(barAt(0), kWidth, kHeight, 1, {});
  const SideCamera below = sideCamera(barAt(250), kWidth, kHeight, 1, {}),
                   above = sideCamera(barAt(-250), kWidth, kHeight, 1, {});
  // 250 px at this focal length and distance are 1.4 m: 0.08 m of plates show 1.6 cm of their last edge, of which the
  // mean radius has a third. A circle that faces the lens is no smaller for being off its axis.
  EXPECT_NEAR(below.plate_distance_m / level.plate_distance_m, 1.021, 0.006);
  EXPECT_NEAR(above.plate_distance_m, below.plate_distance_m, 1e-9);
  EXPECT_GT(below.scale_sigma_rel, level.scale_sigma_rel) << "how many plates there are nobody said";
}

// A plate before a wall of spots, as it was followed at many heights; `ring` of its radius has another edge.
std::vector<RimTrack::Seen> followed(double followed_px, double rim_px) {
  cv::RNG noise(5);
  cv::Mat wall(720, 400, CV_8U);
  noise.fill(wall, cv::RNG::UNIFORM, 90, 200);
  std::vector<RimTrack::Seen> seen;
  RimFit fit{{200, 0}, {followed_px, 0, 0}, 0.3, 0.9};
  std::optional<RimTrack> track;
  for (std::size_t i = 0; i < 30; ++i) {
    fit.centre.y = 150 + 12.0 * static_cast<double>(i);
    cv::Mat picture = wall.clone();
    const cv::Point middle(200, cvRound(fit.centre.y));
    cv::circle(picture, middle, cvRound(rim_px), cv::Scalar(30), cv::FILLED, cv::LINE_AA);
    if (followed_px < rim_px)
      cv::circle(picture, middle, cvRound(followed_px), cv::Scalar(70), cv::FILLED, cv::LINE_AA);
    RimTrack one(i, picture, fit);
    seen.push_back(one.seen().front());
  }
  return seen;
}

TEST(SecondRim, IsSeenRoundARingOnThePlatesFace) {
  const auto larger = secondRim(followed(34, 40));
  ASSERT_TRUE(larger);
  EXPECT_NEAR(*larger, 40.0 / 34, 0.03);
}

TEST(SecondRim, IsNotSeenRoundTheRimItself) {
  EXPECT_FALSE(secondRim(followed(40, 40)));
}

TEST(SecondRim, IsNotLookedForOnABarThatStays) {
  auto seen = followed(34, 40);
  seen.resize(2);
  EXPECT_FALSE(secondRim(seen));
}

}  // namespace
}  // namespace jib::tracing
