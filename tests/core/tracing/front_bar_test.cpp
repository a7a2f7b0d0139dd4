// SPDX-License-Identifier: GPL-3.0-or-later
// The bar of a front view where its ends are lost: what the hands may stand for, and what they may not.
#include <gtest/gtest.h>

#include "core/tracing/front/front_tracer.h"

namespace jib::tracing {
namespace {

constexpr std::size_t kFrames = 60;

std::vector<double> times() {
  std::vector<double> t;
  for (std::size_t i = 0; i < kFrames; ++i) t.push_back(static_cast<double>(i) / 30);
  return t;
}

void put(FrontPoints& frame, Landmark l, double y) {
  frame.at(BodySide::Left, l) = TracedPoint{{500, y}, 1, Origin::Optical};
  frame.at(BodySide::Right, l) = TracedPoint{{100, y}, 1, Origin::Optical};
}

// Hands at 300 all along but for the first and the last ten frames, in which they hang at 150; ends 5 below the hands
// on frames `from` to `to`.
FrontTrace filmed(std::size_t from, std::size_t to) {
  FrontTrace front;
  front.metre_px = 200;
  front.frames.resize(kFrames);
  for (std::size_t i = 0; i < kFrames; ++i) {
    put(front.frames[i], Landmark::Wrist, i < 10 || i >= 50 ? 150 : 300);
    if (i >= from && i < to) put(front.frames[i], Landmark::Bar, 305);
  }
  return front;
}

TEST(BarAcross, HandsThatHaveNotTakenTheBarYetTellNothingOfIt) {
  const auto bar = barAcross(filmed(10, 50), times(), 0.45);
  for (std::size_t i = 0; i < kFrames; ++i) {
    EXPECT_EQ(bar.plate[i].has_value(), i >= 10 && i < 50) << i;
    if (bar.plate[i]) {
      EXPECT_NEAR(bar.plate[i]->place.y, 305, 1e-9);
    }
  }
}

TEST(BarAcross, HandsStandForEndsThatAreLostInBetween) {
  FrontTrace front = filmed(10, 50);
  for (std::size_t i = 25; i < 30; ++i)
    for (BodySide side : {BodySide::Left, BodySide::Right}) front.frames[i].at(side, Landmark::Bar).reset();
  const auto bar = barAcross(front, times(), 0.45);
  ASSERT_TRUE(bar.plate[27]);
  EXPECT_NEAR(bar.plate[27]->place.y, 305, 1e-9) << "as far from the hands as in the other frames";
}

TEST(BarAcross, OneEndTellsWhereTheOtherIsLost) {
  FrontTrace front = filmed(10, 50);
  front.frames[30].at(BodySide::Left, Landmark::Bar).reset();
  front.frames[30].at(BodySide::Right, Landmark::Bar)->place = {100, 250};
  const auto bar = barAcross(front, times(), 0.45);
  ASSERT_TRUE(bar.plate[30]);
  EXPECT_NEAR(bar.plate[30]->place.x, 300, 1e-9) << "half a bar from the end that is seen";
  EXPECT_NEAR(bar.plate[30]->place.y, 250, 1e-9);
  EXPECT_GT(bar.plate[30]->sigma_px, bar.plate[29]->sigma_px) << "the bar may be crooked";
}

TEST(BarAcross, HandsAreAllThereIsWhereTheEndsWereHardlySeen) {
  const auto bar = barAcross(filmed(20, 24), times(), 0.45);
  ASSERT_TRUE(bar.plate[0]);
  EXPECT_NEAR(bar.plate[0]->place.y, 155, 1e-9);
}

}  // namespace
}  // namespace jib::tracing
