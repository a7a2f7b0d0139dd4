// SPDX-License-Identifier: GPL-3.0-or-later
// Where a referee could have signalled: by when the bar had rested.
#include "core/motion/signals.h"

#include <gtest/gtest.h>

namespace jib::motion {
namespace {

// A bar that is lowered from 1 to 2 s, rests on the chest until `press_s`, and is up again a second later, at 100
// frames a second.
Motion pressed(double press_s) {
  Motion m;
  for (int i = 0; i <= 600; ++i) {
    const double t = i / 100.0;
    m.times_s.push_back(t);
    const bool down = t > 1 && t<2, up = t> press_s && t < press_s + 1;
    m.bar_vz_mps.push_back(down ? -0.4 : up ? 0.4 : 0.0);
    m.bar_vx_mps.push_back(0.0);
  }
  return m;
}

std::vector<Rep> repOf(double press_s) {
  return {loweredAndRaised(1, 2, press_s, press_s + 1, 0.4)};
}

TEST(Signals, StandWhereTheBarHasRestedLongEnough) {
  const auto s = signalsOf(repOf(2.7), pressed(2.7), RepPattern::DownFirst);
  ASSERT_EQ(s.size(), 3u);
  const SignalPlace places[]{SignalPlace::BeforeDescent, SignalPlace::AtTurn, SignalPlace::AtTop};
  const double times[]{kStill_s, 2 + kStill_s, 3.7 + kStill_s};
  for (std::size_t i = 0; i < 3; ++i) {
    EXPECT_EQ(s[i].place, places[i]);
    EXPECT_NEAR(s[i].t_s, times[i], 0.02);
  }
}

TEST(Signals, ABarThatBouncesOffTheChestGetsNone) {
  const auto s = signalsOf(repOf(2.1), pressed(2.1), RepPattern::DownFirst);
  ASSERT_EQ(s.size(), 2u);
  EXPECT_EQ(s[1].place, SignalPlace::AtTop);
}

TEST(Signals, OfSeveralRepsThereIsOneStartOneRackAndAPressForEach) {
  Motion m = pressed(2.7);
  std::vector<Rep> reps = repOf(2.7);
  reps.push_back(loweredAndRaised(4.2, 4.3, 4.9, 5.2, 0.4));
  int at_top = 0, before = 0, turns = 0;
  for (const auto& s : signalsOf(reps, m, RepPattern::DownFirst)) {
    before += s.place == SignalPlace::BeforeDescent ? 1 : 0;
    turns += s.place == SignalPlace::AtTurn ? 1 : 0;
    at_top += s.place == SignalPlace::AtTop ? 1 : 0;
  }
  EXPECT_EQ(before, 1);
  EXPECT_EQ(turns, 2);
  EXPECT_EQ(at_top, 1);
}

TEST(Signals, OfAPullComeAfterEveryLockoutHeldLongEnough) {
  Motion m;
  for (int i = 0; i <= 600; ++i) {
    const double t = i / 100.0;
    m.times_s.push_back(t);
    m.bar_vz_mps.push_back(t > 1 && t < 2       ? 0.5
                           : t > 2.6 && t < 3.4 ? -0.6
                           : t > 4 && t < 5     ? 0.5
                           : t > 5.1            ? -0.6
                                                : 0.0);
    m.bar_vx_mps.push_back(0.0);
  }
  const auto pull = [](double off, double lockout, double lowering, double end) {
    Rep rep;
    rep.set(EventKind::LiftOff, off);
    rep.set(EventKind::Lockout, lockout);
    rep.set(EventKind::Lowering, lowering);
    rep.set(EventKind::End, end);
    return rep;
  };
  const auto s = signalsOf({pull(1, 2, 2.6, 3.4), pull(4, 5, 5.1, 5.9)}, m, RepPattern::UpFirst);
  ASSERT_EQ(s.size(), 1u) << "the second was lowered at once";
  EXPECT_EQ(s[0].place, SignalPlace::AtTop);
  EXPECT_NEAR(s[0].t_s, 2 + kStill_s, 0.02);
  // The same, filmed twice as slowly.
  Motion slow = m;
  slow.slow_factor = 4;
  EXPECT_TRUE(signalsOf({pull(1, 2, 2.6, 3.4)}, slow, RepPattern::UpFirst).empty()) << "0.6 s of film are 0.15 s";
}

}  // namespace
}  // namespace jib::motion
