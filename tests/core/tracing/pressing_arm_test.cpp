// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/pressing_arm.h"

#include <gtest/gtest.h>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr ArmLengths kArm{0.33, 0.34};
const ArmEnds kLow{{0, 1, 0.18}, {0.05, 1.22, 0.38}}, kHigh{{0, 1, 0.18}, {0.02, 1.63, 0.38}};

TEST(PressingArm, HasItsLengthsAtEverySwivel) {
  for (const double swivel : {-1.0, 0.0, 0.5, 1.4}) {
    const auto elbow = elbowOf(kLow, kArm, swivel);
    EXPECT_NEAR((elbow - kLow.shoulder).norm(), kArm.upper_m, 1e-9);
    EXPECT_NEAR((elbow - kLow.hand).norm(), kArm.fore_m, 1e-9);
  }
}

TEST(PressingArm, PointsOutwardsAtNoughtAndForwardAtAQuarterTurn) {
  EXPECT_GT(elbowOf(kLow, kArm, 0).z(), elbowOf(kLow, kArm, kPi / 2).z());
  EXPECT_GT(elbowOf(kLow, kArm, kPi / 2).x(), elbowOf(kLow, kArm, 0).x() + 0.15);
  EXPECT_LT(elbowOf(kLow, kArm, -kPi / 2).x(), elbowOf(kLow, kArm, 0).x() - 0.15);
}

TEST(PressingArm, SwivelIsReadFromTheSide) {
  for (const double swivel : {-0.6, 0.2, 0.9}) {
    const Eigen::Vector2d seen = elbowOf(kLow, kArm, swivel).head<2>();
    const auto read = swivelOf(kLow, kArm, seen, 0.03);
    ASSERT_TRUE(read);
    EXPECT_NEAR(elbowOf(kLow, kArm, *read).x(), seen.x(), 0.005);
  }
  EXPECT_FALSE(swivelOf(kLow, kArm, {0.5, 1}, 0.03)) << "out of reach";
}

TEST(PressingArm, AStraightArmTellsNothingOfItsSwivel) {
  EXPECT_LT(elbowOff(kHigh, kArm), 0.08);
  EXPECT_FALSE(swivelOf(kHigh, kArm, {0.01, 1.3}, 0.2));
  const ArmEnds beyond{{0, 1, 0.18}, {0, 2, 0.18}};
  EXPECT_NEAR((elbowOf(beyond, kArm, 1) - Eigen::Vector3d(0, 1 + 0.33 / 0.67, 0.18)).norm(), 0, 1e-9);
}

TEST(UsualSwivel, OfNoSightingPutsTheElbowUnderTheBar) {
  const auto usual = usualSwivel(kLow, kArm, {});
  EXPECT_NEAR(elbowOf(kLow, kArm, usual.rad).x(), kLow.hand.x(), 0.005);
  EXPECT_GT(usual.sigma_rad, usualSwivel(kLow, kArm, std::vector<SwivelSeen>(5, {0.2, true})).sigma_rad);
}

TEST(UsualSwivel, SureSightingsCountMoreThanManyDoubtfulOnes) {
  std::vector<SwivelSeen> seen(6, {0.45, true});
  seen.insert(seen.end(), 12, {-0.6, false});
  EXPECT_NEAR(usualSwivel(kLow, kArm, seen).rad, 0.45, 1e-9);
}

}  // namespace
}  // namespace jib::tracing
