// SPDX-License-Identifier: GPL-3.0-or-later
// What of a followed rim is not the plate's.
#include "core/tracing/bar/stray_rims.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kRadius = 24, kFrame_s = 1 / 30.0;

// A press: down for a second, up for a second, 0.45 m either way.
double heightAt(int frame) {
  return 150 + 24 * (1 - std::cos(2 * kPi * frame / 60.0));
}

std::vector<RimTrack::Seen> press(int frames) {
  std::vector<RimTrack::Seen> seen;
  for (int i = 0; i < frames; ++i)
    seen.push_back({static_cast<std::size_t>(i), {{200, heightAt(i)}, {kRadius, 0, 0}, 0.2, 0.9}, 0, {}});
  return seen;
}

double worst(const std::vector<RimTrack::Seen>& seen) {
  double most = 0;
  for (const auto& s : seen) most = std::max(most, std::abs(s.fit.centre.y - heightAt(static_cast<int>(s.frame))));
  return most;
}

TEST(StrayRims, ATrackThatStayedBehindIsLeftOutUpToItsJump) {
  auto seen = press(120);
  // It stays on something near the chest while the bar goes up, seen half as well, and jumps back.
  for (std::size_t i = 31; i < 50; ++i) {
    seen[i].fit.centre.y = heightAt(30);
    seen[i].fit.inliers = 0.6;
  }
  ASSERT_GT(worst(seen), kRadius);
  dropAroundJumps(seen, kFrame_s);
  EXPECT_LT(worst(seen), 1);
  EXPECT_GE(seen.size(), 95u) << "and no more than that";
}

TEST(StrayRims, NothingOfABarIsLeftOutHoweverFastItIsMoved) {
  auto seen = press(120);
  for (auto& s : seen) s.fit.centre.y = 150 + 60 * (1 - std::cos(2 * kPi * static_cast<double>(s.frame) / 24.0));
  dropAroundJumps(seen, kFrame_s);
  EXPECT_EQ(seen.size(), 120u) << "up and down by 1.1 m within 0.8 s";
  std::erase_if(seen, [](const auto& s) { return s.frame > 30 && s.frame < 60; });
  dropAroundJumps(seen, kFrame_s);
  EXPECT_EQ(seen.size(), 91u) << "frames that are missing are no jump";
}

TEST(StrayRims, LessOfARimIsLessSure) {
  auto seen = press(20);
  EXPECT_DOUBLE_EQ(usualInliers(seen), 0.9);
  EXPECT_EQ(usualInliers({}), 0);
  const auto at = [&](double inliers, double usual) {
    RimFit fit = seen[0].fit;
    fit.inliers = inliers;
    return unsureWhereHidden(fit, usual) / kRadius;
  };
  EXPECT_EQ(at(0.9, 0.9), 0);
  EXPECT_NEAR(at(0.6, 0.9) * kRadius, 1.75, 1e-9) << "px, of a plate this small";
  EXPECT_GT(at(0.4, 0.9), 0.1);
  EXPECT_EQ(at(0.6, 0.6), 0) << "of a rim that an upright hides all along the rest tells as much in every frame";
}

}  // namespace
}  // namespace jib::tracing
