// SPDX-License-Identifier: GPL-3.0-or-later
// The simulated lifter's solids by their distance fields, and the hand that holds the camera.
#include "core/simulate/solid.h"

#include <gtest/gtest.h>

#include <random>

#include "core/base/angle.h"
#include "core/simulate/lifter.h"
#include "core/simulate/pinhole.h"
#include "core/simulate/spec.h"
#include "core/simulate/squat_script.h"

namespace jib::simulate {
namespace {

Vec3f at(double x, double y, double z) {
  return toFloat(Vec3{x, y, z});
}

TEST(Solid, RoundConeIsABallAtEachEnd) {
  const Solid cone = Solid::roundCone(Material::Skin, 0, {0, 0, 0}, {0, 0, 1}, 0.2, 0.1);
  EXPECT_NEAR(cone.distance(at(0, 0, -0.7)), 0.5f, 1e-4);
  EXPECT_NEAR(cone.distance(at(0, 0, 1.6)), 0.5f, 1e-4);
  EXPECT_LT(cone.distance(at(0, 0, 0.5)), 0) << "inside";
  EXPECT_GT(cone.distance(at(0.3, 0, 0)), 0);
}

TEST(Solid, DiscIsAPlate) {
  const Solid plate = Solid::disc(Material::Plate, 0, {0, 0, 0}, {0, 0.05, 0}, 0.225, 0.005);
  EXPECT_NEAR(plate.distance(at(0.325, 0.025, 0)), 0.1f, 2e-3);
  EXPECT_NEAR(plate.distance(at(0, 0.15, 0)), 0.1f, 2e-3);
  EXPECT_LT(plate.distance(at(0.2, 0.025, 0)), 0);
}

TEST(Solid, EllipsoidReachesItsHalfAxes) {
  const Solid e = Solid::ellipsoid(Material::Shirt, 0, {1, 1, 1}, {1, 0, 0}, {0, 1, 0}, 0.3, 0.2, 0.1);
  EXPECT_NEAR(e.distance(at(1.3, 1, 1)), 0, 2e-3);
  EXPECT_NEAR(e.distance(at(1, 1.2, 1)), 0, 2e-3);
  EXPECT_NEAR(e.distance(at(1, 1, 1.1)), 0, 2e-3);
  EXPECT_LT(e.distance(at(1, 1, 1)), 0);
}

// A ray that steps by the distance may never step through a surface.
TEST(Solid, NeverClaimsMoreDistanceThanThereIs) {
  const Solid solids[] = {Solid::roundCone(Material::Skin, 0, {0, 0, 0}, {0.1, 0.2, 0.5}, 0.1, 0.06),
                          Solid::disc(Material::Plate, 0, {0, 0, 0}, {0, 0.05, 0}, 0.225, 0.005)};
  std::mt19937 random(3);
  std::uniform_real_distribution<double> u(-0.8, 0.8);
  for (const Solid& s : solids)
    for (int i = 0; i < 400; ++i) {
      const Vec3f p = at(u(random), u(random), u(random)), q = at(u(random), u(random), u(random));
      EXPECT_LE(std::abs(s.distance(p) - s.distance(q)), length(p - q) * 1.001f + 1e-5f);
    }
}

TEST(Solid, LiesInItsBoundingBall) {
  const Solid s = Solid::roundCone(Material::Skin, 0, {0, 0, 0}, {0.1, 0.2, 0.5}, 0.1, 0.06);
  std::mt19937 random(4);
  std::uniform_real_distribution<double> u(-0.8, 0.8);
  for (int i = 0; i < 2000; ++i) {
    const Vec3f p = at(u(random), u(random), u(random));
    if (s.distance(p) <= 0) {
      EXPECT_LE(length(p - s.bound), s.bound_r + 1e-5f);
    }
  }
}

TEST(Nearest, JoinsWhatBelongsTogetherAndKeepsOthersApart) {
  const std::vector<Solid> limbs{Solid::roundCone(Material::Skin, 1, {0, 0, 0}, {0, 0, 0.4}, 0.08, 0.08),
                                 Solid::roundCone(Material::Skin, 1, {0, 0, 0.4}, {0.3, 0, 0.6}, 0.08, 0.08),
                                 Solid::disc(Material::Plate, 2, {0, 1, 0}, {0, 1.05, 0}, 0.225, 0.005)};
  const std::vector<int> all{0, 1, 2};
  const Vec3f elbow = at(-0.06, 0, 0.45);
  const float apart = std::min(limbs[0].distance(elbow), limbs[1].distance(elbow));
  EXPECT_LE(nearest(limbs, all, elbow).distance, apart + 1e-6f) << "flesh fills the fold";
  EXPECT_EQ(nearest(limbs, all, at(0, 0.9, 0)).solid, 2);
  EXPECT_EQ(nearest(limbs, all, at(0, -0.2, 0.1)).solid, 0);
  EXPECT_EQ(nearest(limbs, {}, elbow).solid, -1);
}

ClipSpec shaken(double shake_deg, std::uint32_t seed) {
  ClipSpec spec;
  spec.seed = seed;
  spec.camera.shake_deg = shake_deg;
  return spec;
}

TEST(Handheld, StandsStillOnATripod) {
  const Handheld tripod(shaken(0, 1));
  EXPECT_TRUE(tripod.still());
  const Vec3 hip{0, 0, 0.9};
  const PixelPoint a = tripod.at(0).project(hip), b = tripod.at(7.3).project(hip);
  EXPECT_EQ(a.x, b.x);
  EXPECT_EQ(a.y, b.y);
}

TEST(Handheld, SwaysByAboutWhatWasAskedAndSlowly) {
  const Handheld hand(shaken(0.4, 5));
  EXPECT_FALSE(hand.still());
  const Vec3 hip{0, 0, 0.9};
  const double focal = hand.at(0).focal_px;
  double sum = 0, squares = 0, fastest = 0;
  constexpr int kSamples = 600;
  for (int i = 0; i < kSamples; ++i) {
    const double x = hand.at(i / 30.0).project(hip).x;
    sum += x;
    squares += x * x;
    fastest = std::max(fastest, std::abs(hand.at((i + 1) / 30.0).project(hip).x - x));
  }
  const double mean = sum / kSamples, deviation = std::sqrt(squares / kSamples - mean * mean);
  const double asked = focal * radians(0.4);
  EXPECT_GT(deviation, 0.4 * asked);
  EXPECT_LT(deviation, 2.0 * asked);
  EXPECT_LT(fastest, asked) << "a hand drifts, it does not jump";
}

TEST(Handheld, IsTheSameForTheSameSeed) {
  const Vec3 hip{0, 0, 0.9};
  EXPECT_EQ(Handheld(shaken(0.4, 5)).at(3).project(hip).x, Handheld(shaken(0.4, 5)).at(3).project(hip).x);
  EXPECT_NE(Handheld(shaken(0.4, 5)).at(3).project(hip).x, Handheld(shaken(0.4, 6)).at(3).project(hip).x);
}

TEST(Build, ScalesWithStatureAndKeepsTextbookShares) {
  LifterSpec small, tall;
  small.stature_m = 1.55;
  tall.stature_m = 1.95;
  const Build a(small, "low-bar"), b(tall, "low-bar");
  EXPECT_NEAR(a.shin / 1.55, b.shin / 1.95, 1e-9);
  EXPECT_NEAR(a.shin / 1.55, 0.246, 0.01);
  EXPECT_NEAR(a.thigh / 1.55, 0.245, 0.01);
  LifterSpec long_thighed = small;
  long_thighed.thigh_factor = 1.08;
  EXPECT_NEAR(Build(long_thighed, "low-bar").thigh / a.thigh, 1.08, 1e-9);
  EXPECT_GT(Build(small, "high-bar").bar_along, a.bar_along) << "a high bar sits higher on the trunk";
}

TEST(SquatScript, StandsBetweenRepsAndEndsStanding) {
  ClipSpec spec;
  spec.set.reps = 2;
  const SquatScript script(spec);
  ASSERT_EQ(script.reps().size(), 2u);
  const double top = script.at(script.duration_s() - 0.05).bar.z;
  for (const auto& rep : script.reps()) {
    EXPECT_NEAR(script.at(rep.start_s - 0.05).bar.z, top, 0.005);
    EXPECT_LT(script.at(rep.bottom_s).bar.z, top - 0.4);
  }
}

TEST(SquatScript, NeverTearsTheBody) {
  ClipSpec spec;
  spec.set.faults.knee_slide_back_m = 0.05;
  spec.set.faults.heel_lift_m = 0.02;
  const SquatScript script(spec);
  for (double t = 0; t < script.duration_s(); t += 0.05) {
    const Body a = script.at(t), b = script.at(t + 0.02);
    for (auto [p, q] : {std::pair(a.left.knee, b.left.knee), std::pair(a.mid_hip, b.mid_hip),
                        std::pair(a.mid_shoulder, b.mid_shoulder), std::pair(a.bar, b.bar)})
      EXPECT_LT(length(q - p), 0.06) << "nothing jumps, at " << t;
  }
}

}  // namespace
}  // namespace jib::simulate
