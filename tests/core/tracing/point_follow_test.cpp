// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/point_follow.h"

#include <gtest/gtest.h>

#include "tests/core/analysed_clip.h"

namespace jib::tracing {
namespace {

// The middle of the plate, whose way is known to a fraction of a pixel, put down at the bottom of the first rep.
TEST(PointFollow, FollowsASpotBothWaysFromWhereItWasPut) {
  const auto& truth = tests::smallTruth();
  const auto reps = simulate::trueSet(truth).reps;
  const auto frame = static_cast<std::size_t>(reps[0].bottom_t() * 30);
  const std::size_t first = frame - 12, last = frame + 12;
  const auto at = [&](std::size_t i) { return truth.frames[i].pixels[tracing::at(Landmark::Plate)]->place; };
  Task task;
  const auto followed = followPoint(JIB_MADE_CLIP, at(frame), frame, first, last, task);
  ASSERT_TRUE(followed);
  ASSERT_EQ(followed->places.size(), 25u);
  EXPECT_EQ(followed->first, first);
  std::size_t seen = 0;
  for (std::size_t i = first; i <= last; ++i)
    if (const auto& p = followed->places[i - first]) {
      EXPECT_LT(length(*p - at(i)), 3) << i;
      ++seen;
    }
  EXPECT_GE(seen, 23u);
}

TEST(PointFollow, WhatLeavesThePictureIsLostAndSaysSo) {
  Task task;
  const auto followed = followPoint(JIB_MADE_CLIP, {-40, -40}, 5, 0, 10, task);
  ASSERT_TRUE(followed);
  EXPECT_FALSE(followed->places[0]);
  EXPECT_FALSE(followed->places[10]);
  EXPECT_TRUE(followed->places[5]) << "where it was put it is";
}

TEST(PointFollow, StopsWhenAskedAndSaysWhatIsNoFilm) {
  Task task;
  task.cancel();
  EXPECT_EQ(followPoint(JIB_MADE_CLIP, {50, 50}, 5, 0, 10, task).error().code, ErrorCode::Cancelled);
  Task other;
  EXPECT_FALSE(followPoint("/nowhere.mp4", {50, 50}, 5, 0, 10, other));
}

}  // namespace
}  // namespace jib::tracing
