// SPDX-License-Identifier: GPL-3.0-or-later
// Patches of cloth and skin, and the chain that is aligned by them, on a painted lifter.
#include "core/tracing/body/body_picture.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>
#include <random>

#include "core/base/angle.h"
#include "core/tracing/body/chain_solver.h"

namespace jib::tracing {
namespace {

SideCamera camera() {
  SideCamera c;
  c.middle = {320, 240};
  c.focal_px = 600;
  c.forward = 1;
  c.plate_distance_m = 2.6;
  c.toe_out_rad = c.splay_rad = 0;  // the knee stays in the ankle's plane
  c.hip_m = c.ankle_m = 0.15;
  return c;
}

Skeleton skeleton() {
  Skeleton s;
  s.heel_from_ankle = {-0.06, -0.08};
  s.toe_from_ankle = {0.19, -0.08};
  s.shin_m = 0.42;
  s.thigh_m = 0.42;
  s.trunk_m = 0.5;
  s.bar_along_m = 0.46;
  s.bar_ahead_m = -0.06;
  return s;
}

BodyPose squatting(double shin_deg, double thigh_deg, double trunk_deg) {
  return {{-0.05, -0.75}, 0, radians(shin_deg), radians(thigh_deg), radians(trunk_deg), 1, 1};
}

// A limb's mottled texture, fixed to the limb: random spots given in the limb's own directions.
struct Spot {
  Part part;
  double along, across;
  int grey, radius;
};

std::vector<Spot> spots() {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> along(-0.1, 1.0), across(-1, 1);
  std::uniform_int_distribution<int> grey(40, 230), radius(2, 4);
  std::vector<Spot> all;
  for (Part part : {kTrunk, kThigh, kShin, kFoot})
    for (int i = 0; i < 260; ++i)
      all.push_back({part, along(random),
                     across(random) * (part == kTrunk  ? 34
                                       : part == kFoot ? 9
                                                       : 18),
                     grey(random), radius(random)});
  return all;
}

cv::Mat painted(const BodyPose& pose) {
  cv::Mat picture(480, 640, CV_8U, cv::Scalar(128));
  const BodyPoints points = pointsOf(skeleton(), pose, camera());
  for (const Spot& s : spots()) {
    const PixelPoint p = placeOf({s.part, s.along, s.across, {}}, points);
    cv::circle(picture,
               {static_cast<int>(std::lround((p.x - 0.5) * 16)), static_cast<int>(std::lround((p.y - 0.5) * 16))},
               s.radius * 16, cv::Scalar(s.grey), -1, cv::LINE_AA, 4);
  }
  return picture;
}

constexpr double kShin_px = 600 * 0.42 / 3.17;
const cv::Rect kWhole(0, 0, 640, 480);

TEST(Patches, LieOnTheirLimbInEveryPosture) {
  const BodyPoints standing = pointsOf(skeleton(), squatting(5, -8, 10), camera());
  const BodyPoints deep = pointsOf(skeleton(), squatting(32, -92, 42), camera());
  for (Part part : {kFoot, kShin, kThigh, kTrunk}) {
    for (const BodyPoints& p : {standing, deep}) {
      const PixelPoint low = placeOf({part, 0, 0, {}}, p), high = placeOf({part, 1, 0, {}}, p);
      EXPECT_NEAR(length(low - p.lower(part)), 0, 1e-9);
      EXPECT_NEAR(length(high - p.upper(part)), 0, 1e-9);
      const PixelPoint beside = placeOf({part, 0.5, 7, {}}, p);
      EXPECT_NEAR(length(beside - (low + high) * 0.5), 7, 1e-9);
      EXPECT_NEAR(dot(beside - (low + high) * 0.5, high - low), 0, 1e-6) << "square to the limb";
    }
  }
}

TEST(Patches, AreNotTakenFromBehindThePlate) {
  const BodyPose pose = squatting(30, -80, 40);
  const BodyPoints points = pointsOf(skeleton(), pose, camera());
  const auto open = patchesOf(prepared(painted(pose), kWhole, {}, kShin_px), points);
  const HidingDisc disc{points.shoulder, 70};
  const auto behind = patchesOf(prepared(painted(pose), kWhole, {disc}, kShin_px), points);
  EXPECT_LT(behind.size(), open.size());
  for (const Patch& p : behind) EXPECT_GE(length(placeOf(p, points) - disc.centre), disc.radius_px);
}

TEST(Patches, OfALifterOutsideThePictureAreNone) {
  const BodyPicture nothing = prepared(painted(squatting(5, -5, 5)), cv::Rect(-900, -900, 40, 40), {}, kShin_px);
  EXPECT_TRUE(patchesOf(nothing, pointsOf(skeleton(), squatting(5, -5, 5), camera())).empty());
}

TEST(BodyPicture, TakesSlowChangesOfLightOut) {
  const BodyPose pose = squatting(25, -70, 35);
  cv::Mat even = painted(pose), shaded = even.clone();
  for (int y = 0; y < shaded.rows; ++y)
    for (int x = 0; x < shaded.cols; ++x)
      shaded.at<std::uint8_t>(y, x) = cv::saturate_cast<std::uint8_t>(shaded.at<std::uint8_t>(y, x) * 0.7 + 0.08 * x);
  const BodyPicture a = prepared(even, kWhole, {}, kShin_px), b = prepared(shaded, kWhole, {}, kShin_px);
  double raw = 0, mended = 0;
  for (int y = 100; y < 400; y += 3)
    for (int x = 250; x < 400; x += 3) {
      raw += std::abs(even.at<std::uint8_t>(y, x) - shaded.at<std::uint8_t>(y, x)) / 40.0;
      mended += std::abs(a.levels[0].value.at<float>(y, x) - b.levels[0].value.at<float>(y, x));
    }
  EXPECT_LT(mended, 0.35 * raw);
}

PosePrior wide(const BodyPose& about) {
  return {about, {0.003, 0.003, 0.02, 0.2, 0.2, 0.2, 0.002, 0.003}};
}

TEST(ChainSolver, TurnsTheLimbsToWhereTheirClothIs) {
  const BodyPose before = squatting(20, -60, 30), now = squatting(23, -65, 33);
  const BodyPicture then = prepared(painted(before), kWhole, {}, kShin_px);
  const auto patches = patchesOf(then, pointsOf(skeleton(), before, camera()));
  const BodyPicture picture = prepared(painted(now), kWhole, {}, kShin_px);
  const PixelPoint bar = pointsOf(skeleton(), now, camera()).bar;
  const ChainSolution solved = solveChain(skeleton(), camera(), picture, {&patches}, wide(before), bar, 1.0);
  EXPECT_NEAR(degrees(solved.pose.shin_rad), 23, 0.6);
  EXPECT_NEAR(degrees(solved.pose.thigh_rad), -65, 0.6);
  EXPECT_NEAR(degrees(solved.pose.trunk_rad), 33, 1.0);
  EXPECT_GT(solved.agreement, 0.5);
}

TEST(ChainSolver, KeepsToWhatIsExpectedWhenThePictureIsSilent) {
  const BodyPose about = squatting(20, -60, 30);
  const BodyPicture grey = prepared(cv::Mat(480, 640, CV_8U, cv::Scalar(128)), kWhole, {}, kShin_px);
  const std::vector<Patch> none;
  const ChainSolution solved = solveChain(skeleton(), camera(), grey, {&none}, wide(about), std::nullopt, 1.0);
  for (std::size_t k = 0; k < BodyPose::kUnknowns; ++k)
    EXPECT_NEAR(solved.pose.vector()[k], about.vector()[k], 1e-6) << k;
  EXPECT_EQ(solved.agreement, 0);
}

TEST(ChainSolver, HoldsTheTrunkToTheBar) {
  const BodyPose about = squatting(20, -60, 30), leaned = squatting(20, -60, 36);
  const BodyPicture grey = prepared(cv::Mat(480, 640, CV_8U, cv::Scalar(128)), kWhole, {}, kShin_px);
  const std::vector<Patch> none;
  PosePrior prior = wide(about);
  for (std::size_t k : {3u, 4u}) prior.sigma[k] = 0.005;  // legs known, trunk not
  const ChainSolution solved =
      solveChain(skeleton(), camera(), grey, {&none}, prior, pointsOf(skeleton(), leaned, camera()).bar, 0.5);
  EXPECT_NEAR(degrees(solved.pose.trunk_rad), 36, 0.7);
}

TEST(ChainSolver, SlopesAreThoseOfSmallSteps) {
  const BodyPose pose = squatting(24, -70, 35);
  const BodyPoints points = pointsOf(skeleton(), pose, camera());
  const auto slope = pointSlope(points, camera().forward, kTrunk, points.shoulder, 1);
  for (std::size_t k = 0; k < 6; ++k) {
    auto v = pose.vector();
    constexpr double kStep = 1e-5;
    v[k] += kStep;
    const PixelPoint moved = pointsOf(skeleton(), BodyPose::from(v), camera()).shoulder - points.shoulder;
    const double size = std::max(1.0, std::hypot(moved.x, moved.y) / kStep);
    // To first order: the shoulder stands in another plane than the ankle, some per cent larger or smaller.
    EXPECT_NEAR(slope(0, static_cast<Eigen::Index>(k)), moved.x / kStep, 0.06 * size) << k;
    EXPECT_NEAR(slope(1, static_cast<Eigen::Index>(k)), moved.y / kStep, 0.06 * size) << k;
  }
}

}  // namespace
}  // namespace jib::tracing
