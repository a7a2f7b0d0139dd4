// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_follow.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "core/tracing/body/body_fit.h"
#include "tests/core/analysed_clip.h"

namespace jib::tests {
namespace {

using namespace tracing;

constexpr double kRate_hz = 30;

// A bar at 100 px/m: stands, goes down half a metre and up in 2 s from each of the given moments.
BarTrace barThat(const std::vector<double>& goes_s, double end_s) {
  BarTrace bar;
  bar.rim.radius_px = 22.5;
  for (double t = 0; t < end_s; t += 1 / kRate_hz) {
    double down = 0;
    for (double from : goes_s)
      if (t > from && t < from + 2) down = (1 - std::cos(kPi * (t - from))) / 2;
    bar.times_s.push_back(t);
    bar.plate.push_back(TracedPoint{{300, 100 + 50 * down}, 1, Origin::Optical});
  }
  bar.end = bar.plate;
  return bar;
}

TEST(StretchesOnTheWay, BeginAndEndStanding) {
  const BarTrace bar = barThat({1, 4}, 7);
  const auto found = stretchesOnTheWay(bar, {}, 0.45, 0, bar.plate.size() - 1);
  ASSERT_EQ(found.size(), 2u);
  EXPECT_NEAR(static_cast<double>(found[0].first), kRate_hz * (1.1 - 0.25), 3);
  EXPECT_NEAR(static_cast<double>(found[0].last), kRate_hz * (2.9 + 0.25), 3);
  EXPECT_GT(found[1].first, found[0].last);
}

TEST(StretchesOnTheWay, AreNotThoseOfAHandThatSinks) {
  BarTrace bar = barThat({1}, 5);
  std::vector<CameraMove> moves;
  for (std::size_t i = 0; i < bar.plate.size(); ++i) {
    moves.push_back({1, 0, {0, 0.2 * static_cast<double>(i)}});
    bar.plate[i]->place = moves.back().moved(bar.plate[i]->place);
  }
  EXPECT_EQ(stretchesOnTheWay(bar, moves, 0.45, 0, bar.plate.size() - 1),
            stretchesOnTheWay(barThat({1}, 5), {}, 0.45, 0, bar.plate.size() - 1));
}

TEST(StretchesOnTheWay, DipsAndALostBarAreNone) {
  BarTrace bar = barThat({1}, 5);
  for (auto& p : bar.plate) p->place.y = 100 + 0.15 * (p->place.y - 100);
  EXPECT_TRUE(stretchesOnTheWay(bar, {}, 0.45, 0, bar.plate.size() - 1).empty()) << "8 cm are no descent";
  BarTrace lost = barThat({1}, 5);
  for (std::size_t i = 0; i < 40; ++i) lost.plate[i].reset();
  const auto found = stretchesOnTheWay(lost, {}, 0.45, 0, lost.plate.size() - 1);
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].first, 40u);
}

footage::ClipInfo clipAt(const char* file) {
  footage::ClipInfo clip;
  clip.file = file;
  return clip;
}

// The made clip's chain as a coach placed it, to be followed from.
const BodyTrack& fitted() {
  return *smallAnalysis().trace.body;
}

std::vector<Stretch> stretches() {
  const auto& clip = smallAnalysis().trace;
  return stretchesOnTheWay(*clip.bar, {}, 0.45, 0, clip.trace.size() - 1);
}

TEST(FollowBody, SaysByHowMuchTheShinTurns) {
  const auto& clip = smallAnalysis().trace;
  Task task;
  const auto followed = followBody(clipAt(JIB_MADE_CLIP), *clip.bar, fitted(), {}, stretches(), task);
  ASSERT_TRUE(followed) << followed.error().what;
  ASSERT_EQ(followed->size(), 2u);
  const auto set = simulate::trueSet(smallTruth());
  for (std::size_t r = 0; r < 2; ++r) {
    const Followed& f = (*followed)[r];
    const std::size_t bottom = set.motion.frameAt(set.reps[r].bottom_t());
    ASSERT_TRUE(f.poses[bottom - f.stretch.first]);
    const double turned = degrees(f.poses[bottom - f.stretch.first]->shin_rad - f.poses.front()->shin_rad);
    EXPECT_NEAR(turned, *set.motion.angles[bottom].shin_deg - *set.motion.angles[f.stretch.first].shin_deg, 3.5)
        << "patches lag behind a turn by a tenth";
  }
}

TEST(FollowBody, StopsWhenAskedAndSaysWhatIsMissing) {
  const auto& clip = smallAnalysis().trace;
  Task stopped;
  stopped.cancel();
  EXPECT_EQ(followBody(clipAt(JIB_MADE_CLIP), *clip.bar, fitted(), {}, stretches(), stopped).error().code,
            ErrorCode::Cancelled);
  Task task;
  EXPECT_EQ(followBody(clipAt("/nowhere/clip.mp4"), *clip.bar, fitted(), {}, stretches(), task).error().code,
            ErrorCode::ClipUnreadable);
  BodyTrack nobody = fitted();
  for (auto& pose : nobody.poses) pose.reset();
  EXPECT_TRUE(followBody(clipAt(JIB_MADE_CLIP), *clip.bar, nobody, {}, stretches(), task)->empty());
}

}  // namespace
}  // namespace jib::tests
