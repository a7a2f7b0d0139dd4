// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/chest.h"

#include <gtest/gtest.h>

#include "core/lifts/press_body.h"

namespace jib::motion {
namespace {

// Somebody on a bench, from the side: 0.25 m thick, an arm that stands up from the shoulder at x = 0 to the bar.
std::vector<MetrePoint> lying(double chest_m) {
  return {{-0.4, 0.5}, {1.0, 0.5},   {1.0, 0.7},  {0.3, 0.72},  {0.18, chest_m}, {0.08, chest_m},
          {0.05, 1.2}, {-0.2, 1.25}, {-0.2, 1.1}, {-0.05, 1.1}, {-0.05, 0.7},    {-0.4, 0.7}};
}

TEST(UpperEdge, IsTheChestUnderTheBarAndNotTheArmBesideIt) {
  EXPECT_NEAR(*upperEdge(lying(0.78), 0.12), 0.78, 1e-9);
  EXPECT_NEAR(*upperEdge(lying(0.74), 0.15), 0.74, 1e-9);
  EXPECT_FALSE(upperEdge(lying(0.78), 0.0)) << "an arm from the back to the bar is thicker than a chest";
  EXPECT_NEAR(*upperEdge(lying(0.78), -0.1), 0.7, 1e-9) << "below the plate, which the mask took along";
  EXPECT_FALSE(upperEdge(lying(0.78), 1.5));
  EXPECT_FALSE(upperEdge({}, 0));
}

lifts::Measure dropOf(std::vector<ChestAt> chest, std::size_t reps = 2) {
  Motion m = exactMotion({0, 1}, {{}, {}});
  m.chest = std::move(chest);
  std::vector<Rep> all{loweredAndRaised(3, 4, 4.5, 6, 0.4), loweredAndRaised(8, 9, 9.5, 11, 0.4)};
  all.resize(reps);
  return lifts::press::chestDrop({m, all, {}});
}

TEST(ChestDrop, IsBeforeTheFirstDescentAgainstAfterTheLastLockout) {
  const auto drop = dropOf({{0.5, 0.9}, {2.2, 0.80}, {2.6, 0.81}, {2.9, 0.80}, {7, 0.7}, {11.1, 0.77}, {11.5, 0.77}});
  ASSERT_TRUE(std::holds_alternative<lifts::Measured>(drop));
  EXPECT_NEAR(std::get<lifts::Measured>(drop).value, 0.03, 1e-9);
  EXPECT_LT(std::get<lifts::Measured>(drop).sigma, 0.012);
  EXPECT_EQ(std::get<lifts::Measured>(drop).t_s, 11);
}

TEST(ChestDrop, SaysNothingOfOneRepOrOfAChestThatWasHardlySeen) {
  EXPECT_FALSE(std::holds_alternative<lifts::Measured>(dropOf({{2.2, 0.8}, {2.6, 0.8}, {6.1, 0.8}, {6.5, 0.8}}, 1)));
  EXPECT_FALSE(std::holds_alternative<lifts::Measured>(dropOf({{2.2, 0.8}, {2.6, 0.8}, {11.5, 0.77}})));
}

}  // namespace
}  // namespace jib::motion
