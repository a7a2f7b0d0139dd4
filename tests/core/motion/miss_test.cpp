// SPDX-License-Identifier: GPL-3.0-or-later
// Lifts that were not brought back up, told apart from reps and from clips that end too early.
#include <gtest/gtest.h>

#include "core/motion/reps.h"

namespace jib::motion {
namespace {

using tracing::at;
using tracing::Landmark;

// The bar's height along straight lines through (time, height), 60 times a second, its corners rounded by nothing.
Motion along(const std::vector<std::pair<double, double>>& corners) {
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> places;
  for (double t = corners.front().first; t <= corners.back().first; t += 1.0 / 60) {
    std::size_t k = 1;
    while (k + 1 < corners.size() && corners[k].first < t) ++k;
    const auto& [t0, z0] = corners[k - 1];
    const auto& [t1, z1] = corners[k];
    std::array<std::optional<MetrePoint>, tracing::kLandmarks> p;
    p[at(Landmark::Bar)] = MetrePoint{0, z0 + (z1 - z0) * (t - t0) / (t1 - t0)};
    times.push_back(t);
    places.push_back(p);
  }
  return exactMotion(times, places);
}

TEST(Misses, ASetWithoutOneHasNone) {
  const Motion m = along({{0, 1.4}, {1, 1.4}, {2.5, 0.8}, {4, 1.4}, {5, 1.4}, {6.5, 0.8}, {8, 1.4}, {9, 1.4}});
  EXPECT_EQ(findReps(m, motion::RepPattern::DownFirst).size(), 2u);
  EXPECT_TRUE(findMisses(m, motion::RepPattern::DownFirst).empty());
}

TEST(Misses, ARiseThatFallsBackIsAMissWithItsHeight) {
  const Motion m =
      along({{0, 1.4}, {1, 1.4}, {2.5, 0.8}, {4, 1.4}, {5, 1.4}, {6.5, 0.8}, {8, 1.1}, {9, 0.75}, {11, 0.75}});
  EXPECT_EQ(findReps(m, motion::RepPattern::DownFirst).size(), 1u) << "the second is not a rep";
  const auto misses = findMisses(m, motion::RepPattern::DownFirst);
  ASSERT_EQ(misses.size(), 1u);
  EXPECT_NEAR(misses[0].bottom_t(), 6.5, 0.05);
  EXPECT_NEAR(misses[0].lockout_t(), 8.0, 0.05);
  EXPECT_NEAR(misses[0].risen, 0.5, 0.02);
  EXPECT_NEAR(misses[0].stroke_m, 0.6, 0.01);
}

TEST(Misses, ABarThatNeverLeavesTheBottomIsAMissAtNothing) {
  const auto misses = findMisses(along({{0, 1.4}, {1, 1.4}, {2.5, 0.8}, {6, 0.8}}), motion::RepPattern::DownFirst);
  ASSERT_EQ(misses.size(), 1u);
  EXPECT_NEAR(misses[0].risen, 0, 0.02);
}

TEST(Misses, AClipCutOffOnTheWayUpIsNotCalledOne) {
  EXPECT_TRUE(findMisses(along({{0, 1.4}, {1, 1.4}, {2.5, 0.8}, {3.3, 1.05}}), motion::RepPattern::DownFirst).empty());
  EXPECT_TRUE(findMisses(along({{0, 1.4}, {1, 1.4}, {2.5, 0.8}, {3.0, 0.8}}), motion::RepPattern::DownFirst).empty());
}

TEST(Misses, ReRackingIsNotOne) {
  const Motion m = along({{0, 1.4}, {1, 1.4}, {2.5, 0.8}, {4, 1.4}, {5, 1.4}, {5.5, 1.33}, {8, 1.33}});
  EXPECT_EQ(findReps(m, motion::RepPattern::DownFirst).size(), 1u);
  EXPECT_TRUE(findMisses(m, motion::RepPattern::DownFirst).empty());
}

}  // namespace
}  // namespace jib::motion
