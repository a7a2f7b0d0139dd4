// SPDX-License-Identifier: GPL-3.0-or-later
// Two plates of one bar, drawn as a camera askew sees them.
#include "core/tracing/camera/far_plate.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kRadius = 80;
constexpr std::size_t kFrames = 40;

BarTrace barTowards(PixelPoint vanishing) {
  BarTrace bar;
  bar.rim.radius_px = kRadius;
  bar.vanishing = vanishing;
  bar.vanishing_sigma_px = 4;
  for (std::size_t i = 0; i < kFrames; ++i) {
    bar.times_s.push_back(0.1 * static_cast<double>(i));
    const double down = 60 * (1 - std::cos(2 * kPi * static_cast<double>(i) / kFrames));
    bar.plate.push_back(TracedPoint{{560, 200 + down}, 1, Origin::Optical});
  }
  bar.end = bar.plate;
  return bar;
}

void disc(cv::Mat& m, PixelPoint c, double r, const cv::Scalar& colour) {
  constexpr int kBits = 4, kOne = 1 << kBits;
  cv::circle(m, {static_cast<int>(std::lround((c.x - 0.5) * kOne)), static_cast<int>(std::lround((c.y - 0.5) * kOne))},
             static_cast<int>(std::lround(r * kOne)), colour, -1, cv::LINE_AA, kBits);
}

// share: how large the far plate looks; 0: there is none.
cv::Mat picture(const BarTrace& bar, std::size_t frame, double share) {
  cv::Mat m(720, 1280, CV_8UC3, cv::Scalar(120, 125, 130));
  cv::RNG random(5);
  for (int k = 0; k < 40; ++k)
    cv::line(m, {random.uniform(0, 1280), random.uniform(0, 720)}, {random.uniform(0, 1280), random.uniform(0, 720)},
             cv::Scalar::all(random.uniform(90, 160)), 2, cv::LINE_AA);
  const PixelPoint near = bar.plate[frame]->place;
  if (share > 0) disc(m, *bar.vanishing + (near - *bar.vanishing) * share, share * kRadius, {50, 45, 60});
  // The lifter hides a part of it.
  cv::rectangle(m, cv::Point2d(near.x - 20, near.y), cv::Point2d(near.x + 60, 700), {70, 80, 140}, -1);
  disc(m, near, kRadius, {40, 40, 45});
  cv::GaussianBlur(m, m, {3, 3}, 0.8);
  cv::Mat noise(m.size(), CV_8UC3), sum;
  cv::RNG grain(frame + 1);
  grain.fill(noise, cv::RNG::NORMAL, 8, 3);
  cv::add(m, noise, sum);
  return sum;
}

std::optional<FarPlate> foundIn(const BarTrace& bar, double share) {
  FarPlateFinder finder(bar);
  for (std::size_t i = 0; i < kFrames; i += 2) finder.look(i, picture(bar, i, share));
  return finder.found();
}

TEST(FarPlate, IsMeasuredWhereItPeepsOut) {
  const BarTrace bar = barTowards({900, 300});
  for (double share : {0.62, 0.70, 0.82}) {
    const auto far = foundIn(bar, share);
    ASSERT_TRUE(far) << share;
    EXPECT_NEAR(far->share, share, 0.012);
    EXPECT_LT(std::abs(far->share - share), 2.5 * far->sigma);
  }
}

TEST(FarPlate, IsFoundBesideALineThatIsAFewDegreesOff) {
  const BarTrace truth = barTowards({900, 300});
  BarTrace bar = truth;
  const PixelPoint middle{560, 260};
  bar.vanishing = middle + rotated(*truth.vanishing - middle, radians(5));
  FarPlateFinder finder(bar);
  for (std::size_t i = 0; i < kFrames; i += 2) finder.look(i, picture(truth, i, 0.72));
  const auto far = finder.found();
  ASSERT_TRUE(far);
  EXPECT_NEAR(far->share, 0.72, 0.02);
}

TEST(FarPlate, IsNothingWhereThereIsNone) {
  EXPECT_FALSE(foundIn(barTowards({900, 300}), 0)) << "lines on the wall and a lifter are no plate";
  EXPECT_FALSE(foundIn(barTowards({575, 270}), 0.7)) << "hidden behind the near one";
  BarTrace unknown = barTowards({900, 300});
  unknown.vanishing.reset();
  EXPECT_FALSE(foundIn(unknown, 0.7));
}

TEST(FarPlate, TellsTheLens) {
  // Plates of 450 mm, their faces 0.72 m either side of the middle; the far ones are seen to their inner face. A camera
  // 3 m from the near one with a focal length of 1100 px.
  Rim rim;
  rim.radius_px = 1100 * 0.225 / 3;
  const auto focal = focalFrom({3 / (3 + 1.40), 0.01}, rim, 0.45, 0.72);
  EXPECT_NEAR(focal.focal_px, 1100, 1);
  EXPECT_GT(focal.sigma_rel, 0.04);
  EXPECT_GT(focalFrom({3 / (3 + 1.40), 0.03}, rim, 0.45, 0.72).sigma_rel, 2 * focal.sigma_rel);
}

}  // namespace
}  // namespace jib::tracing
