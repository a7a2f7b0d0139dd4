// SPDX-License-Identifier: GPL-3.0-or-later
// A view of both sides, bent through what the coach placed.
#include "core/tracing/front/front_pins.h"

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/tracing/trace_store.h"

namespace jib::tracing {
namespace {

constexpr std::size_t kFrames = 90;
constexpr double kMetre_px = 200;
constexpr PointName kLeftKnee{Landmark::Knee, BodySide::Left};

PixelPoint trueKnee(std::size_t frame) {
  return {400 + 6 * std::sin(0.2 * static_cast<double>(frame)), 300};
}

// Three reps in three seconds; the left knee is seen 4 cm too far out, 2 mm more or less from frame to frame.
struct Seen {
  FrontTrace front;
  BarTrace bar;
  Seen() {
    front.metre_px = kMetre_px;
    front.frames.resize(kFrames);
    bar.plate.resize(kFrames);
    for (std::size_t i = 0; i < kFrames; ++i) {
      const double t = static_cast<double>(i) / 30;
      bar.times_s.push_back(t);
      bar.plate[i] = TracedPoint{{320, 200 - 60 * std::cos(2 * 3.14159265 * t)}, 1, Origin::Optical};
      const PixelPoint off{8 + (i % 2 == 0 ? 0.4 : -0.4), 0};
      front.frames[i].at(BodySide::Left, Landmark::Knee) = TracedPoint{trueKnee(i) + off, 4, Origin::Fitted};
      front.frames[i].at(BodySide::Right, Landmark::Knee) = TracedPoint{{240, 300}, 4, Origin::Fitted};
    }
  }
  FrontTrace pinned(const std::vector<PlacedFrame>& placed) const { return withPins(front, bar, placed); }
  PlacedFrame pin(std::size_t frame, PixelPoint where) const {
    PlacedFrame p{bar.times_s[frame], {}, {}};
    p.at(kLeftKnee) = where;
    return p;
  }
};

double missOf(const FrontTrace& front, std::size_t frame) {
  return length(front.frames[frame].at(BodySide::Left, Landmark::Knee)->place - trueKnee(frame));
}

TEST(FrontPins, APlacedPointIsKeptExactlyAndSurely) {
  const Seen seen;
  const auto bent = seen.pinned({seen.pin(15, trueKnee(15))});
  const auto& p = bent.frames[15].at(BodySide::Left, Landmark::Knee);
  EXPECT_DOUBLE_EQ(p->place.x, trueKnee(15).x);
  EXPECT_EQ(p->origin, Origin::Pinned);
  EXPECT_LT(p->sigma_px, 2);
}

TEST(FrontPins, TheSameErrorIsTakenOffElsewhereMostWhereTheBarIsAsHigh) {
  const Seen seen;
  const auto bent = seen.pinned({seen.pin(15, trueKnee(15))});
  EXPECT_LT(missOf(bent, 16), 2) << "the frame beside it";
  EXPECT_LT(missOf(bent, 45), 5) << "the bottom of the next rep";
  EXPECT_LT(missOf(bent, 45), missOf(bent, 60)) << "standing";
  EXPECT_LT(missOf(bent, 60), 6.5);
  EXPECT_LT(bent.frames[45].at(BodySide::Left, Landmark::Knee)->sigma_px, 4) << "it is known better";
  EXPECT_EQ(bent.frames[45].at(BodySide::Left, Landmark::Knee)->origin, Origin::Fitted);
  EXPECT_DOUBLE_EQ(bent.frames[15].at(BodySide::Right, Landmark::Knee)->place.x, 240) << "the other side stays";
}

TEST(FrontPins, ASlipOfOneMomentIsMendedThereOnly) {
  Seen seen;
  for (std::size_t i = 30; i < 33; ++i)
    seen.front.frames[i].at(BodySide::Left, Landmark::Knee)->place = trueKnee(i) + PixelPoint{70, 10};
  const auto bent = seen.pinned({seen.pin(31, trueKnee(31))});
  EXPECT_LT(missOf(bent, 30), 12);
  EXPECT_LT(missOf(bent, 32), 12);
  EXPECT_NEAR(missOf(bent, 50), missOf(seen.front, 50), 0.1) << "nothing is learnt from it";
}

TEST(FrontPins, TwoPinsAreBothKept) {
  const Seen seen;
  const auto bent = seen.pinned({seen.pin(15, trueKnee(15)), seen.pin(60, trueKnee(60) + PixelPoint{8, 0})});
  EXPECT_LT(missOf(bent, 45), 6.5) << "low, as in the first";
  EXPECT_NEAR(bent.frames[61].at(BodySide::Left, Landmark::Knee)->place.x, trueKnee(61).x + 7.6, 2.5)
      << "high, as in the second";
}

TEST(FrontPins, APointThatWasLostStandsAlone) {
  Seen seen;
  seen.front.frames[31].at(BodySide::Left, Landmark::Knee).reset();
  const auto bent = seen.pinned({seen.pin(31, {390, 300})});
  EXPECT_DOUBLE_EQ(bent.frames[31].at(BodySide::Left, Landmark::Knee)->place.x, 390);
  EXPECT_NEAR(missOf(bent, 45), missOf(seen.front, 45), 1e-9);
}

TEST(FrontPins, APinAfterTheEndOfTheFilmIsNoPin) {
  const Seen seen;
  PlacedFrame late{99, {}, {}};
  late.at(kLeftKnee) = {0, 0};
  EXPECT_NEAR(missOf(seen.pinned({late}), 45), missOf(seen.front, 45), 1e-9);
}

TEST(PointNames, AreReadAsTheyAreWritten) {
  for (const PointName& name : allPointNames()) EXPECT_EQ(pointNamed(nameOf(name)), name) << nameOf(name);
  EXPECT_EQ(nameOf(kLeftKnee), "left_knee");
  EXPECT_EQ(nameOf({Landmark::Bar, BodySide::Right}), "bar_right");
  EXPECT_EQ(titleOf({Landmark::Bar, BodySide::Right}), "right end of the bar");
  EXPECT_EQ(pointNamed("tail"), std::nullopt);
}

TEST(PointNames, OfBothSidesAreKeptInAPointsFile) {
  PlacedFrame frame{1.5, {}, {}};
  frame.at(kLeftKnee) = {3, 4};
  frame.at({Landmark::Bar, BodySide::Right}) = {5, 6};
  EXPECT_FALSE(anyFromTheSide({frame}));
  const auto again = placedFromJson(nlohmann::json::parse(placedToJson({frame}).dump()));
  ASSERT_TRUE(again);
  EXPECT_EQ(again->front().at(kLeftKnee)->y, 4);
  EXPECT_EQ(again->front().at({Landmark::Bar, BodySide::Right})->x, 5);
  EXPECT_FALSE(again->front().at({Landmark::Knee, BodySide::Right}));
  frame.at(Landmark::Hip) = {1, 1};
  EXPECT_TRUE(anyFromTheSide({frame}));
}

}  // namespace
}  // namespace jib::tracing
