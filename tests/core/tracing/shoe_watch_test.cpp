// SPDX-License-Identifier: GPL-3.0-or-later
// A drawn shoe that tips about the ball of its foot or its heel by a known height: found to a fraction of a pixel.
#include "core/tracing/sightings/shoe_watch.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>

namespace jib::tracing {
namespace {

constexpr double kMetre_px = 350;
const PixelPoint kHeel{200, 300}, kToe{200 + 0.28 * kMetre_px, 300};

// A floor with its own marks, and on it a striped shoe turned by `sine` about `pivot`.
cv::Mat shoeTurned(PixelPoint pivot, double sine, int grey_of_shoe = 120) {
  cv::Mat picture(400, 480, CV_8U, cv::Scalar(90));
  for (int x = 0; x < picture.cols; x += 37) cv::line(picture, {x, 290}, {x + 20, 399}, cv::Scalar(80), 1);
  const double cosine = std::sqrt(1 - sine * sine);
  for (int y = 240; y < 320; ++y)
    for (int x = 160; x < 340; ++x) {
      // Back to where this place of the shoe was before it turned.
      const PixelPoint d = PixelPoint{x + 0.5, y + 0.5} - pivot;
      const PixelPoint p = pivot + PixelPoint{d.x * cosine + d.y * sine, -d.x * sine + d.y * cosine};
      const double u = (p.x - kHeel.x) / kMetre_px, v = (kHeel.y - p.y) / kMetre_px;
      if (u < 0 || u > 0.28 || v < 0 || v > 0.075 - 0.1 * u) continue;
      const double stripes = 60 * std::sin(150 * u + 40 * v) + 25 * std::sin(160 * v);
      picture.at<uchar>(y, x) = static_cast<uchar>(std::clamp(grey_of_shoe + stripes, 0.0, 255.0));
    }
  return picture;
}

PixelPoint ball() {
  return kHeel + (kToe - kHeel) * 0.7;
}

TEST(ShoeWatch, FindsHowFarAHeelIsLiftedToAMillimetre) {
  const auto watch = ShoeWatch::begin(shoeTurned(ball(), 0), kHeel, kToe, kMetre_px);
  ASSERT_TRUE(watch);
  for (double lift_m : {0.0, 0.003, 0.01, 0.02}) {
    const double sine = lift_m * kMetre_px / length(ball() - kHeel);  // the heel is left of the ball: it goes up
    const auto seen = watch->look(shoeTurned(ball(), sine));
    ASSERT_TRUE(seen) << lift_m;
    EXPECT_NEAR(seen->heel_px / kMetre_px, lift_m, 0.001) << "0.3 px at this size";
  }
}

TEST(ShoeWatch, FindsALiftedToe) {
  const PixelPoint under = kHeel + (kToe - kHeel) * 0.1;
  const auto watch = ShoeWatch::begin(shoeTurned(under, 0), kHeel, kToe, kMetre_px);
  ASSERT_TRUE(watch);
  const auto seen = watch->look(shoeTurned(under, -0.015 * kMetre_px / length(kToe - under)));
  ASSERT_TRUE(seen);
  EXPECT_NEAR(seen->toe_px / kMetre_px, 0.015, 0.001);
}

TEST(ShoeWatch, DoesNotMindTheLight) {
  const auto watch = ShoeWatch::begin(shoeTurned(ball(), 0), kHeel, kToe, kMetre_px);
  const auto seen = watch->look(shoeTurned(ball(), 0, 150));
  ASSERT_TRUE(seen);
  EXPECT_NEAR(seen->heel_px, 0, 0.3);
  EXPECT_NEAR(seen->toe_px, 0, 0.3);
}

TEST(ShoeWatch, SaysNothingOfAShoeThatIsGoneOrCannotBeTold) {
  const auto watch = ShoeWatch::begin(shoeTurned(ball(), 0), kHeel, kToe, kMetre_px);
  cv::Mat floor(400, 480, CV_8U);
  cv::randu(floor, 60, 120);
  EXPECT_FALSE(watch->look(floor)) << "stepped away";
  EXPECT_FALSE(ShoeWatch::begin(cv::Mat(400, 480, CV_8U, cv::Scalar(90)), kHeel, kToe, kMetre_px)) << "plain";
  EXPECT_FALSE(ShoeWatch::begin(shoeTurned(ball(), 0), {2, 300}, {90, 300}, kMetre_px)) << "cut by the edge";
  EXPECT_FALSE(ShoeWatch::begin(shoeTurned(ball(), 0), kHeel, kHeel + PixelPoint{12, 0}, 40)) << "too small";
}

}  // namespace
}  // namespace jib::tracing
