// SPDX-License-Identifier: GPL-3.0-or-later
// Where a pressed bar is high and low, seen from behind the head, when the arms of nobody are made out.
#include <gtest/gtest.h>

#include <algorithm>

#include "core/lifts/lift.h"
#include "core/tracing/front/apart.h"
#include "core/tracing/front/front_tracer.h"
#include "tests/core/must.h"

namespace jib::tracing {
namespace {

constexpr double kMetre_px = 222;  // of the small clip from behind the head

const std::string kClip = std::string(JIB_MADE_CLIPS) + "/small-head.mp4";

void put(PoseReading& reading, PoseMark mark, PixelPoint left, PixelPoint right, double sure) {
  reading.places[reading.index(mark, BodySide::Left)] = left;
  reading.places[reading.index(mark, BodySide::Right)] = right;
  reading.confidence[reading.index(mark, BodySide::Left)] = sure;
  reading.confidence[reading.index(mark, BodySide::Right)] = sure;
}

// Shoulders in every look, hands under the bench.
std::vector<Sighting> shouldersOnly(std::size_t frames) {
  std::vector<Sighting> out;
  for (std::size_t i = 0; i < frames; i += 4) {
    Sighting s;
    s.frame = i;
    put(s.reading, PoseMark::Shoulder, {357, 366}, {442, 366}, 0.8);
    put(s.reading, PoseMark::Wrist, {345, 340}, {456, 356}, 0.1);
    out.push_back(s);
  }
  return out;
}

TEST(FarthestApart, IsFoundOverTheShouldersWhereNoLookHasTheArmsUp) {
  auto reader = tests::must(footage::FrameReader::open(kClip));
  Task task;
  const auto sightings = shouldersOnly(reader.info().frames());
  EXPECT_FALSE(farthestApart(sightings, kMetre_px)) << "the hands tell nothing";
  const auto likely = tests::must(farthestApartByPlates(reader, {}, sightings, kMetre_px, task));
  ASSERT_FALSE(likely.empty());
  const Apart& apart = likely.front();
  const double down_m = apart.went.y / kMetre_px;
  EXPECT_GT(down_m, 0.2);
  EXPECT_LT(down_m, 0.45) << "the bar's way is 0.39 m";
  EXPECT_NEAR(apart.line.y, 0, 1e-9);
}

TEST(FarthestApart, IsNotFoundWhereNobodyIsSeen) {
  auto reader = tests::must(footage::FrameReader::open(kClip));
  Task task;
  EXPECT_TRUE(tests::must(farthestApartByPlates(reader, {}, {}, kMetre_px, task)).empty());
}

TEST(FarthestApart, LooksAtWhatThePictureHoldsOnly) {
  // Somebody at the picture's edge: the bar's ends would be outside.
  auto reader = tests::must(footage::FrameReader::open(kClip));
  Task task;
  auto sightings = shouldersOnly(reader.info().frames());
  for (Sighting& s : sightings) put(s.reading, PoseMark::Shoulder, {20, 366}, {60, 366}, 0.8);
  EXPECT_TRUE(tests::must(farthestApartByPlates(reader, {}, sightings, kMetre_px, task)).empty());
  // Of a bar that only hands would tell of, nothing is told.
  const auto front = traceFront(reader, sightings, Facing::Head, 0.45,
                                lifts::definition(lifts::LiftId::Bench).bodyOf("paused"), task, {});
  ASSERT_FALSE(front);
  EXPECT_EQ(front.error().code, ErrorCode::NoLiftFound);
  EXPECT_NE(front.error().sentence().find("both plates"), std::string::npos) << front.error().sentence();
}

}  // namespace
}  // namespace jib::tracing
