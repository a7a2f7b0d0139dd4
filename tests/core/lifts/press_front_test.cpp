// SPDX-License-Identifier: GPL-3.0-or-later
// What the measures of a press say of motion, seen along the bench, that is exactly known.
#include "core/lifts/press_front.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/lifts/front_body.h"

namespace jib::lifts::press {
namespace {

using tracing::BodySide;
using tracing::Landmark;

constexpr double kArm_m = 0.3;

// A rep of two seconds at 30 frames a second. Flares: of each upper arm against the trunk at the touch, degrees.
struct Way {
  double hands_left_m = 0, sway_m = 0, left_flare_deg = 60, right_flare_deg = 60, left_shoulder_up_m = 0;
};

motion::Motion moved(const Way& way) {
  constexpr int kFrames = 90;
  motion::Motion m;
  m.front.emplace();
  const auto sized = [](motion::Path& path) {
    path.at.resize(kFrames);
    path.sigma_m.assign(kFrames, 0.01);
    path.wander_m.assign(kFrames, 0.003);
  };
  for (auto& side : m.front->side)
    for (motion::Path& path : side) sized(path);
  for (motion::Path& path : m.paths) sized(path);
  m.bar_vz_mps.resize(kFrames);
  for (int i = 0; i < kFrames; ++i) {
    m.times_s.push_back(i / 30.0);
    const double s = std::clamp((m.times_s.back() - 0.5) / 2, 0.0, 1.0);
    const double down = 0.5 - 0.5 * std::cos(2 * M_PI * s), height = 0.55 - 0.35 * down;
    const auto k = static_cast<std::size_t>(i);
    m.paths[tracing::at(Landmark::Bar)].at[k] = MetrePoint{0, height};
    for (const BodySide side : {BodySide::Left, BodySide::Right}) {
      const double left = side == BodySide::Left ? 1 : -1;
      const auto put = [&](Landmark l, double x, double z) {
        m.front->side[static_cast<std::size_t>(side)][tracing::at(l)].at[k] = MetrePoint{x, z};
      };
      const double flare = left > 0 ? way.left_flare_deg : way.right_flare_deg;
      const double up = left > 0 ? way.left_shoulder_up_m : 0;
      // Straight up at the start, out to the side by what the flare leaves at the touch.
      const double seen = kArm_m * (1 - down + down * std::sin(flare * M_PI / 180));
      put(Landmark::Shoulder, left * 0.19, up);
      put(Landmark::Elbow, left * (0.19 + seen * down), up + seen * (1 - down));
      put(Landmark::Wrist, left * 0.4 + way.hands_left_m, height - 0.05);
      put(Landmark::Bar, left * 1.1 + way.sway_m * down, height);
    }
  }
  return m;
}

Measure answer(Measure (*measure)(const RepLook&), const motion::Motion& m) {
  const motion::Rep rep = motion::loweredAndRaised(0.5, 1.5, 1.5, 2.5, 0.5);
  return measure({m, rep});
}

double valueOf(Measure (*measure)(const RepLook&), const Way& way) {
  const Measure got = answer(measure, moved(way));
  const auto* value = std::get_if<Measured>(&got);
  EXPECT_TRUE(value);
  return value ? value->value : 1e9;
}

TEST(PressFromTheEnd, HandsOffTheMiddleCarryTheirSide) {
  EXPECT_NEAR(valueOf(gripOffset, {}), 0, 1e-9);
  EXPECT_NEAR(valueOf(gripOffset, {.hands_left_m = 0.03}), 0.03, 1e-9);
  EXPECT_NEAR(valueOf(gripOffset, {.hands_left_m = -0.02}), -0.02, 1e-9);
}

TEST(PressFromTheEnd, TheBarsWayAcrossIsItsRange) {
  EXPECT_NEAR(valueOf(barSway, {}), 0, 1e-9);
  EXPECT_NEAR(valueOf(barSway, {.sway_m = -0.05}), 0.05, 1e-6);
}

TEST(PressFromTheEnd, ElbowsAreHeldAgainstEachOther) {
  EXPECT_NEAR(valueOf(elbowTuckDifference, {}), 0, 0.5);
  EXPECT_NEAR(valueOf(elbowTuckDifference, {.left_flare_deg = 40}), -20, 2) << "the left one is tucked more";
  EXPECT_NEAR(valueOf(elbowTuckDifference, {.right_flare_deg = 45}), 15, 2);
}

TEST(PressFromTheEnd, AnArmSquareToTheViewIsHardToTell) {
  const Measure wide = answer(elbowTuckDifference, moved({.left_flare_deg = 80, .right_flare_deg = 80})),
                tucked = answer(elbowTuckDifference, moved({.left_flare_deg = 40, .right_flare_deg = 40}));
  EXPECT_GT(std::get<Measured>(wide).sigma, 1.5 * std::get<Measured>(tucked).sigma);
}

TEST(PressFromTheEnd, ShouldersAreHeldAgainstEachOther) {
  EXPECT_NEAR(valueOf(front::shoulderHeightDifference, {.left_shoulder_up_m = 0.025}), 0.025, 1e-9);
}

TEST(PressFromTheEnd, WhatIsNotSeenIsAbsent) {
  motion::Motion m = moved({});
  for (auto& p : m.front->side[0][tracing::at(Landmark::Wrist)].at) p.reset();
  EXPECT_TRUE(std::holds_alternative<Absent>(answer(gripOffset, m)));
  for (auto& p : m.front->side[1][tracing::at(Landmark::Elbow)].at) p.reset();
  EXPECT_TRUE(std::holds_alternative<Absent>(answer(elbowTuckDifference, m)));
  for (auto& p : m.front->side[1][tracing::at(Landmark::Bar)].at) p.reset();
  EXPECT_TRUE(std::holds_alternative<Absent>(answer(barSway, m)));
}

}  // namespace
}  // namespace jib::lifts::press
