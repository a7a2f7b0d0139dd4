// SPDX-License-Identifier: GPL-3.0-or-later
// The frames by which a rep is known, and the same bar height on the way down and on the way up.
#include "core/motion/key_moments.h"

#include <gtest/gtest.h>

namespace jib::motion {
namespace {

// A bar at 1.4 m that goes down half a metre from 1 to 2 s and, more slowly, up again from 2 to 4 s, at 50 frames a
// second.
Motion downAndUp() {
  Motion m;
  auto& bar = m.paths[tracing::at(tracing::Landmark::Bar)].at;
  for (int i = 0; i <= 250; ++i) {
    const double t = i / 50.0;
    m.times_s.push_back(t);
    const double down = t < 1 ? 0 : t < 2 ? t - 1 : t < 4 ? 1 - (t - 2) / 2 : 0;
    bar.push_back(MetrePoint{0, 1.4 - 0.5 * down});
  }
  return m;
}

TEST(KeyFrames, AreTheMomentsInTheirOrderAndHalfWayIsOfHeight) {
  Rep rep = loweredAndRaised(1, 2, 2, 4, 0.5);
  rep.set(EventKind::Sticking, 2.8);
  const auto frames = keyFramesOf(rep, downAndUp(), RepPattern::DownFirst);
  ASSERT_EQ(frames.size(), 5u);
  const KeyMoment order[] = {KeyMoment::Before, KeyMoment::HalfWay, KeyMoment::Turn, KeyMoment::Sticking,
                             KeyMoment::Lockout};
  const double times[] = {1, 1.5, 2, 2.8, 4};
  for (std::size_t i = 0; i < 5; ++i) {
    EXPECT_EQ(frames[i].moment, order[i]);
    EXPECT_NEAR(frames[i].t_s, times[i], 0.021);
  }
}

TEST(KeyFrames, OfAPullAreHalfWayOnTheWayUp) {
  Rep pull;
  pull.set(EventKind::LiftOff, 2);
  pull.set(EventKind::Lockout, 4);
  const auto frames = keyFramesOf(pull, downAndUp(), RepPattern::UpFirst);
  ASSERT_EQ(frames.size(), 4u);
  const double times[] = {1.5, 2, 3, 4};
  for (std::size_t i = 0; i < 4; ++i) EXPECT_NEAR(frames[i].t_s, times[i], 0.021) << "ready a moment before lift-off";
  EXPECT_EQ(frames[2].moment, KeyMoment::HalfWay);
}

TEST(KeyFrames, OfABarThatIsNotTracedStandHalfWayInTime) {
  Motion unseen = downAndUp();
  for (auto& p : unseen.paths[tracing::at(tracing::Landmark::Bar)].at) p.reset();
  const auto frames = keyFramesOf(loweredAndRaised(1, 2, 2, 4, 0.5), unseen, RepPattern::DownFirst);
  EXPECT_EQ(frames[1].t_s, 1.5);
}

TEST(SameHeight, GoesFromTheWayDownToTheWayUpAndBack) {
  const Motion m = downAndUp();
  const Rep rep = loweredAndRaised(1, 2, 2, 4, 0.5);
  EXPECT_NEAR(*sameHeight(rep, m, 1.25), 3.5, 0.04);
  EXPECT_NEAR(*sameHeight(rep, m, 3.0), 1.5, 0.04);
  EXPECT_FALSE(sameHeight(rep, m, 0.5)) << "outside the rep";
  Rep dropped;
  dropped.set(EventKind::LiftOff, 2);
  dropped.set(EventKind::Lockout, 4);
  EXPECT_FALSE(sameHeight(dropped, m, 3)) << "a pull that was dropped has no way down";
}

}  // namespace
}  // namespace jib::motion
