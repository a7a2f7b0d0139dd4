// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/radial_distortion.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"
#include "core/tracing/camera/side_camera.h"

namespace jib::tracing {
namespace {

constexpr int kWidth = 1280, kHeight = 720;
constexpr double kCorner_px2 = (kWidth * kWidth + kHeight * kHeight) / 4.0;

// A room as a lens sees it that moves the picture's corner by this share: each pixel is looked up in the straight
// picture, which reaches beyond it. Posts, a skirting board, and a round thing.
cv::Mat room(double bend_at_corner, bool posts = true) {
  constexpr int kBorder = 300;
  cv::Mat wide(kHeight + 2 * kBorder, kWidth + 2 * kBorder, CV_8UC1, cv::Scalar(165));
  const auto at = [&](double x, double y) { return cv::Point2d(x + kBorder, y + kBorder); };
  if (posts) {
    for (double x : {-60.0, 150.0, 420.0, 880.0, 1060.0, 1250.0})
      cv::line(wide, at(x, -300), at(x + 8, 1020), 60, 13, cv::LINE_AA);
    cv::line(wide, at(-300, 560), at(1580, 575), 90, 9, cv::LINE_AA);
  }
  cv::circle(wide, at(600, 260), 130, 40, cv::FILLED, cv::LINE_AA);
  cv::ellipse(wide, at(1010, 400), {60, 260}, 4, 0, 360, 220, cv::FILLED, cv::LINE_AA);
  const LensBend lens{bend_at_corner / kCorner_px2, 0};
  cv::Mat x(kHeight, kWidth, CV_32F), y(kHeight, kWidth, CV_32F), seen;
  for (int row = 0; row < kHeight; ++row)
    for (int col = 0; col < kWidth; ++col) {
      const PixelPoint p = lens.straightened({col + 0.5 - kWidth / 2.0, row + 0.5 - kHeight / 2.0});
      x.at<float>(row, col) = static_cast<float>(p.x + kWidth / 2.0 - 0.5 + kBorder);
      y.at<float>(row, col) = static_cast<float>(p.y + kHeight / 2.0 - 0.5 + kBorder);
    }
  cv::remap(wide, seen, x, y, cv::INTER_LINEAR);
  cv::Mat noise(seen.size(), CV_8UC1);
  cv::theRNG().state = 7;
  cv::randn(noise, 12, 4);
  return seen + noise;
}

TEST(LensBend, GoesThereAndBack) {
  for (double corner : {-0.2, -0.03, 0.0, 0.1}) {
    const LensBend lens{corner / kCorner_px2, 0};
    for (PixelPoint p : {PixelPoint{0, 0}, PixelPoint{500, -300}, PixelPoint{-20, 350}}) {
      const PixelPoint back = lens.bent(lens.straightened(p));
      EXPECT_NEAR(back.x, p.x, 1e-9) << corner;
      EXPECT_NEAR(back.y, p.y, 1e-9) << corner;
    }
  }
  // A barrel pulls what is far out inwards; taken off, it lies farther out, and looks larger.
  const LensBend barrel{-0.1 / kCorner_px2, 0};
  EXPECT_GT(barrel.straightened({500, 0}).x, 510);
  EXPECT_GT(barrel.growth({500, 0}), 1.05);
  EXPECT_DOUBLE_EQ(barrel.growth({0, 0}), 1);
}

TEST(LensBend, GrowthIsThatOfAShortThing) {
  const LensBend lens{-0.15 / kCorner_px2, 0};
  const PixelPoint at{400, 200};
  const auto grown = [&](PixelPoint way) {
    return length(lens.straightened(at + way) - lens.straightened(at - way)) / 2;
  };
  const PixelPoint out = at * (1 / length(at));
  EXPECT_NEAR(lens.growth(at), (grown(out) + grown({-out.y, out.x})) / 2, 1e-4);
}

TEST(LensBend, IsReadFromPostsAndBoards) {
  for (double corner : {-0.16, -0.08, -0.04, 0.06}) {
    const auto found = bendOfEdges(room(corner));
    ASSERT_TRUE(found) << corner;
    EXPECT_NEAR(found->per_px2 * kCorner_px2, corner, 3 * found->sigma_per_px2 * kCorner_px2);
    EXPECT_LT(found->sigma_per_px2 * kCorner_px2, 0.01);
  }
}

TEST(LensBend, IsNotInventedForAStraightLensNorFromRoundThings) {
  EXPECT_FALSE(bendOfEdges(room(0)));
  EXPECT_FALSE(bendOfEdges(room(-0.1, false)));
  EXPECT_FALSE(bendOfEdges(cv::Mat(kHeight, kWidth, CV_8UC1, cv::Scalar(90))));
}

TEST(LensBend, IsTakenOffAndPutOnByTheCamera) {
  SideCamera straight, bent;
  straight.middle = bent.middle = {640, 360};
  straight.pitch_rad = bent.pitch_rad = radians(4);
  bent.bend = {-0.1 / kCorner_px2, 0};
  const MetrePoint foot{0.3, -1.6};
  const PixelPoint seen = bent.toPicture(foot, 0.2), ideal = straight.toPicture(foot, 0.2);
  EXPECT_LT(seen.y, ideal.y - 3);  // pulled towards the middle
  const MetrePoint back = bent.toPlane(seen, 0.2);
  EXPECT_NEAR(back.x, foot.x, 1e-9);
  EXPECT_NEAR(back.z, foot.z, 1e-9);
}

// A bar far from the picture's middle, through a lens that bends: the camera must come out as it stands.
TEST(LensBend, DoesNotTurnTheCamera) {
  constexpr double kEnd_m = 1.1;
  SideCamera true_camera;
  true_camera.middle = {640, 360};
  const CameraPriors priors;
  true_camera.focal_px = priors.focal_share * kWidth;
  true_camera.plate_distance_m = 3.4 - priors.plate_m;
  true_camera.yaw_rad = radians(8);
  true_camera.bend = {-0.12 / kCorner_px2, 0};
  BarTrace bar;
  // As the tracer does it: a lead that grows straight with the plate's place.
  const MetrePoint mean{1.1, 0.6};
  const PixelPoint plate = true_camera.toPicture(mean, priors.plate_m), end = true_camera.toPicture(mean, kEnd_m);
  const double rim_px =
      true_camera.pixelsPerMetre(priors.plate_m) * 0.225 / true_camera.bend.growth(plate - true_camera.middle);
  bar.times_s = {0, 0.1};
  bar.plate.assign(2, TracedPoint{plate, 0.3, Origin::Optical});
  SideCamera straight = true_camera;
  straight.bend = {};
  const PixelPoint line = straight.toPicture(mean, kEnd_m) - straight.toPicture(mean, priors.plate_m);
  const PixelPoint meets{640 - true_camera.focal_px * std::tan(radians(8)), 360};
  bar.depth_ratio = length(line) / length(straight.toPicture(mean, priors.plate_m) - meets);
  bar.vanishing = plate - (end - plate) * (1 / bar.depth_ratio);
  bar.vanishing_sigma_px = 10;
  bar.rim = {rim_px, std::cos(radians(8)), 0, 0.01};
  bar.rim.radius_px /= std::sqrt(bar.rim.aspect);
  const SideCamera found = sideCamera(bar, kWidth, kHeight, 1, priors, 0.0, std::nullopt, true_camera.bend);
  const SideCamera unaware = sideCamera(bar, kWidth, kHeight, 1, priors, 0.0);
  EXPECT_NEAR(degrees(found.yaw_rad), 8, 0.4);
  EXPECT_NEAR(degrees(found.pitch_rad), 0, 0.4);
  EXPECT_GT(std::abs(degrees(unaware.yaw_rad) - 8), 2 * std::abs(degrees(found.yaw_rad) - 8) + 0.5);
  // What is not known of the bend is not known of the scale.
  LensBend unsure = true_camera.bend;
  unsure.sigma_per_px2 = 0.05 / kCorner_px2;
  EXPECT_GT(sideCamera(bar, kWidth, kHeight, 1, priors, 0.0, std::nullopt, unsure).scale_sigma_rel,
            found.scale_sigma_rel + 0.005);
}

}  // namespace
}  // namespace jib::tracing
