// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/walk_out.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace jib::motion {
namespace {

constexpr double kLook_s = 0.1;

struct Step {
  double from_s, to_s, to_m;
};

// Where a foot is that stands, goes, stands again; a few millimetres of scatter.
double footAt(double t, double x, const std::vector<Step>& steps) {
  for (const Step& s : steps) {
    if (t < s.from_s) break;
    const double share = std::min(1.0, (t - s.from_s) / (s.to_s - s.from_s));
    x += (s.to_m - x) * share * share * (3 - 2 * share);
  }
  return x + 0.008 * std::sin(37 * t);
}

std::vector<FeetAt> feetUntil(double end_s, const std::vector<Step>& near, const std::vector<Step>& far,
                              double from_s = 0) {
  std::vector<FeetAt> feet;
  for (double t = from_s; t <= end_s; t += kLook_s) feet.push_back({t, footAt(t, 0.35, near), footAt(t, 0.35, far)});
  return feet;
}

const std::vector<Step> kNear{{1.3, 1.8, 0.1}, {2.5, 3.0, 0.0}};
const std::vector<Step> kFar{{1.9, 2.4, 0.0}};

TEST(WalkOut, CountsTheStepsOfBothFeet) {
  const auto found = findWalkOut(feetUntil(5, kNear, kFar), 4.5);
  const auto* walk = std::get_if<WalkOut>(&found);
  ASSERT_TRUE(walk) << std::get<std::string>(found);
  ASSERT_EQ(walk->landings_t.size(), 3u);
  EXPECT_NEAR(walk->begins_t, 1.4, 0.2);
  EXPECT_NEAR(walk->landings_t[1], 2.3, 0.2) << "the far foot's";
  EXPECT_NEAR(walk->settled_t, 2.9, 0.2);
}

TEST(WalkOut, TakesAShiftOfWeightForNoStep) {
  auto near = kNear;
  near.push_back({3.4, 3.6, 0.03});
  const auto found = findWalkOut(feetUntil(5, near, kFar), 4.5);
  EXPECT_EQ(std::get<WalkOut>(found).landings_t.size(), 3u);
  near.back().to_m = 0.09;
  const auto corrected = findWalkOut(feetUntil(5, near, kFar), 4.5);
  EXPECT_EQ(std::get<WalkOut>(corrected).landings_t.size(), 4u);
}

TEST(WalkOut, TakesAFootThatIsHiddenInTheEndForLevelWithTheOther) {
  // The far foot's last, short step ends behind the near one.
  const std::vector<Step> far{{1.9, 2.4, 0.1}, {3.1, 3.4, 0.0}};
  auto feet = feetUntil(5, kNear, far);
  for (auto& f : feet)
    if (f.t_s > 3.3) f.far_x_m.reset();
  EXPECT_EQ(std::get<WalkOut>(findWalkOut(feet, 4.5)).landings_t.size(), 4u);
}

TEST(WalkOut, IsDeafToOneWildPoint) {
  auto feet = feetUntil(5, kNear, kFar);
  feet[40].near_x_m = 0.5;
  feet[8].far_x_m = -0.2;
  EXPECT_EQ(std::get<WalkOut>(findWalkOut(feet, 4.5)).landings_t.size(), 3u);
}

TEST(WalkOut, CountsNothingAfterTheDescentBegins) {
  auto near = kNear;
  near.push_back({4.7, 5.0, 0.3});
  EXPECT_EQ(std::get<WalkOut>(findWalkOut(feetUntil(6, near, kFar), 4.5)).landings_t.size(), 3u);
}

TEST(WalkOut, SaysWhyThereIsNone) {
  EXPECT_EQ(std::get<std::string>(findWalkOut(feetUntil(5, {}, {}), 4.5)), "The clip begins after the walk-out.");
  EXPECT_EQ(std::get<std::string>(findWalkOut(feetUntil(5, kNear, kFar, 1.45), 4.5)),
            "The clip begins in the middle of the walk-out.");
  EXPECT_EQ(std::get<std::string>(findWalkOut({}, 4.5)), "Not both feet are seen throughout.");
  auto hidden = feetUntil(5, kNear, kFar);
  for (auto& f : hidden)
    if (f.t_s > 1.7 && f.t_s < 2.6) f.far_x_m.reset();
  EXPECT_EQ(std::get<std::string>(findWalkOut(hidden, 4.5)), "Not both feet are seen throughout.");
}

}  // namespace
}  // namespace jib::motion
