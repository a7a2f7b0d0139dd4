// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/rep_edits.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"

namespace jib::motion {
namespace {

using tracing::Landmark;

// A bar that goes down and up by 0.6 m every four seconds, three times, thirty frames a second.
Motion threeSquats() {
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  for (int i = 0; i <= 360; ++i) {
    times.push_back(i / 30.0);
    auto& m = metres.emplace_back();
    m[tracing::at(Landmark::Bar)] = MetrePoint{0, 1.2 + 0.3 * std::cos(2 * kPi * times.back() / 4)};
  }
  return exactMotion(times, metres);
}

constexpr auto kDown = RepPattern::DownFirst;

HeldReps two(const Motion& m) {
  return withRep(withRep({}, m, kDown, 0, 4), m, kDown, 4.5, 8);
}

TEST(RepEdits, ARepThatIsAddedFindsItsBottomAndStroke) {
  const Motion m = threeSquats();
  const HeldReps held = withRep({}, m, kDown, 0.1, 3.9);
  ASSERT_EQ(held.size(), 1u);
  EXPECT_NEAR(held[0].rep.bottom_t(), 2, 0.04);
  EXPECT_NEAR(held[0].rep.stroke_m, 0.6, 0.01);
  EXPECT_EQ(held[0].rep.start_t(), 0.1);
  EXPECT_EQ(held[0].rep.lockout_t(), 3.9);
  EXPECT_TRUE(withRep({}, m, kDown, 1, 1.1).empty()) << "a slip of the mouse is no rep";
}

TEST(RepEdits, OneThatIsOverlappedIsCutBack) {
  const Motion m = threeSquats();
  const HeldReps held = withRep(two(m), m, kDown, 3, 5);
  ASSERT_EQ(held.size(), 3u);
  EXPECT_LE(held[0].rep.end_t(), 3);
  EXPECT_GE(held[2].rep.start_t(), 5);
}

TEST(RepEdits, SplitAndJoinedAgainItIsWhatItWas) {
  const Motion m = threeSquats();
  const HeldReps one = withRep({}, m, kDown, 0, 8);
  const HeldReps parted = split(one, m, kDown, 0, 4);
  ASSERT_EQ(parted.size(), 2u);
  EXPECT_NEAR(parted[0].rep.bottom_t(), 2, 0.04);
  EXPECT_NEAR(parted[1].rep.bottom_t(), 6, 0.04);
  EXPECT_EQ(joined(parted, m, kDown, 0), one);
  EXPECT_EQ(split(one, m, kDown, 0, 0.05), one) << "too near its edge";
  EXPECT_EQ(joined(one, m, kDown, 0), one) << "there is no next";
  EXPECT_EQ(without(parted, 1).size(), 1u);
  EXPECT_EQ(without(parted, 7).size(), 2u);
}

TEST(RepEdits, AMomentThatIsDraggedStaysBetweenItsNeighbours) {
  const Motion m = threeSquats();
  const HeldReps held = two(m);
  EXPECT_NEAR(withEvent(held, m, 0, EventKind::Bottom, 2.2)[0].rep.bottom_t(), 2.2, 0.011);
  const HeldReps far = withEvent(held, m, 0, EventKind::Bottom, 30);
  EXPECT_LT(far[0].rep.bottom_t(), far[0].rep.lockout_t());
  const HeldReps end = withEvent(held, m, 0, EventKind::Lockout, 6);
  EXPECT_LE(end[0].rep.end_t(), end[1].rep.start_t()) << "reps do not overlap";
  EXPECT_EQ(end[0].rep.end_t(), end[0].rep.lockout_t()) << "two names of one moment move as one";
  EXPECT_EQ(withEvent(held, m, 0, EventKind::LiftOff, 1), held) << "a squat has none";
}

TEST(RepEdits, APullHasItsLiftOffAndItsLockout) {
  const Motion m = threeSquats();  // from 2 s to 6 s the bar goes up and down
  const HeldReps held = withRep({}, m, RepPattern::UpFirst, 2, 6);
  ASSERT_EQ(held.size(), 1u);
  EXPECT_NEAR(*held[0].rep.when(EventKind::LiftOff), 2.1, 0.15);
  EXPECT_NEAR(held[0].rep.lockout_t(), 3.9, 0.15);
  EXPECT_GT(*held[0].rep.when(EventKind::Lowering), held[0].rep.lockout_t());
}

TEST(RepEdits, WhatIsLeftOutOrMissedIsNotJudged) {
  HeldReps held = two(threeSquats());
  held[0].left_out = true;
  EXPECT_EQ(judged(held).size(), 1u);
  held[1].rep.type = RepType::Miss;
  EXPECT_TRUE(judged(held).empty());
}

TEST(RepEdits, WhatASpotterTouchedIsNotJudged) {
  HeldReps held = two(threeSquats());
  held[0].spotted = true;
  ASSERT_EQ(judged(held).size(), 1u);
  EXPECT_EQ(judged(held)[0], held[1].rep);
}

TEST(RepEdits, ASetBeginsWhereTheCoachSaysAlsoIfThatRepIsNotJudged) {
  HeldReps held = two(threeSquats());
  held.push_back(held.back());
  EXPECT_EQ(setsTold(held), (std::vector<std::optional<bool>>(3)));
  held[1].opens_set = true;
  EXPECT_EQ(setsTold(held), (std::vector<std::optional<bool>>{std::nullopt, true, std::nullopt}));
  held[1].left_out = true;
  held[2].opens_set = false;
  EXPECT_EQ(setsTold(held), (std::vector<std::optional<bool>>{std::nullopt, true}));
  EXPECT_EQ(without(held, 1)[1].opens_set, true) << "nor is it lost with a rep that is removed";
}

TEST(RepEdits, AreKeptExactly) {
  HeldReps held = two(threeSquats());
  held[1].opens_set = true;
  held[0].spotted = true;
  held[1].left_out = true;
  held[1].rep.type = RepType::Paused;
  EXPECT_EQ(heldFromJson(heldToJson(held)), held);
  EXPECT_TRUE(heldFromJson("[{\"events\": {}}, 3]").empty());
  EXPECT_TRUE(heldFromJson("no json").empty());
}

}  // namespace
}  // namespace jib::motion
