// SPDX-License-Identifier: GPL-3.0-or-later
// Two films of different sets run in step: every event together, or each at its own speed from the turn.
#include "core/motion/in_step.h"

#include <gtest/gtest.h>

namespace jib::motion {
namespace {

const std::vector<Rep> kNow{loweredAndRaised(1, 2, 2.1, 3.1, 0.6), loweredAndRaised(4, 5.5, 5.6, 7, 0.6)};
const std::vector<Rep> kThen{loweredAndRaised(10, 12, 12.3, 13, 0.5)};

TEST(InStep, EveryEventOfARepFallsTogether) {
  const InStep step{kNow, kThen};
  for (const Rep& rep : kNow)
    for (const Event& event : rep.events)
      EXPECT_NEAR(*step.thenAt(event.t_s), *kThen[0].when(event.kind), 1e-9) << static_cast<int>(event.kind);
  EXPECT_NEAR(*step.thenAt(1.5), 11, 1e-9) << "half-way down in both";
  EXPECT_NEAR(*step.thenAt(0.5), 9.5, 1e-9) << "before the rep time runs as in life";
  EXPECT_NEAR(*step.thenAt(8), 14, 1e-9);
}

TEST(InStep, NeverRunsBackwardInsideARep) {
  const InStep step{kNow, kThen};
  double last = -1;
  for (double t = kNow[1].start_t(); t <= kNow[1].end_t(); t += 0.01) {
    const double then = *step.thenAt(t);
    EXPECT_GE(then, last);
    last = then;
  }
}

TEST(InStep, AtItsOwnSpeedOnlyTheTurnFallsTogether) {
  InStep step{kNow, kThen};
  step.how = Step::OwnSpeed;
  EXPECT_NEAR(*step.thenAt(2), 12, 1e-9);
  EXPECT_NEAR(*step.thenAt(2.5), 12.5, 1e-9);
  step.then_slow = 4;  // that one was filmed in slow motion
  EXPECT_NEAR(*step.thenAt(2.5), 14, 1e-9);
}

TEST(InStep, PairsRepsInOrderOrAsFarApartAsAskedFor) {
  const InStep forth{kNow, kThen};
  EXPECT_EQ(forth.pairAt(6)->now, 1u);
  EXPECT_EQ(forth.pairAt(6)->then, 0u) << "the only one there is";
  InStep back{kThen, kNow};
  EXPECT_EQ(back.pairAt(11)->then, 0u);
  back.shift = 1;
  EXPECT_EQ(back.pairAt(11)->then, 1u);
  back.shift = 9;
  EXPECT_EQ(back.pairAt(11)->then, 1u) << "no further than there are";
  const std::vector<Rep> none;
  EXPECT_FALSE((InStep{none, kThen}.thenAt(1)));
  EXPECT_FALSE((InStep{kNow, none}.thenAt(1)));
}

}  // namespace
}  // namespace jib::motion
