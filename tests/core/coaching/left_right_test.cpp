// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/left_right.h"

#include <gtest/gtest.h>

#include "core/coaching/topic.h"
#include "core/lifts/lift.h"
#include "core/lifts/side_words.h"

namespace jib::coaching {
namespace {

constexpr const char* kTilt = "bench.bar_tilts";

lifts::SetMeasures tilted(const std::vector<double>& degrees) {
  const auto* kind = lifts::measureDefinition("bar_tilt_max_deg");
  lifts::SetMeasures set;
  for (const double d : degrees) set.reps.push_back({{kind, lifts::Measured{d, 0.3, 1}}});
  return set;
}

std::string whyWaits(const std::vector<double>& degrees, const SidesSeen& before, const Switches& sides = {}) {
  const Style style = Topics::shipped()->applied(*shippedStyle("balanced"), sides);
  const auto measures = tilted(degrees);
  const auto waits =
      leftRightThatWaits(judge(measures, style, lifts::definition(lifts::LiftId::Bench)), measures, before, style);
  const auto own = waits.find(kTilt);
  return own == waits.end() ? "" : own->second;
}

TEST(LeftRight, WaitsUntilItComesBackInAnotherSet) {
  EXPECT_NE(whyWaits({6, 6, 6}, {}).find("this set only"), std::string::npos);
  EXPECT_NE(whyWaits({6, 6, 6}, {{kTilt, {1, 0}}}).find("this set only"), std::string::npos)
      << "the other side was up then";
  EXPECT_EQ(whyWaits({6, 6, 6}, {{kTilt, {0, 1}}}), "");
  EXPECT_EQ(whyWaits({-6, -6, -6}, {{kTilt, {1, 0}}}), "");
}

TEST(LeftRight, WaitsUntilThreeRepsShowIt) {
  const SidesSeen before{{kTilt, {3, 3}}};
  EXPECT_EQ(whyWaits({6, 0, 6, 0, 0}, before), "The same side shows in 2 of 5 reps: wait and see whether more do.");
  EXPECT_NE(whyWaits({6, -7, 6, 0, 0}, before).find("1 of 5 reps"), std::string::npos)
      << "one side, then the other, is no side";
  EXPECT_EQ(whyWaits({6, 0, 6, 6, 0}, before), "");
  EXPECT_EQ(whyWaits({6, 6}, before), "") << "a double shows it twice";
}

TEST(LeftRight, IsSaidAtOnceByThoseWhoWantThat) {
  EXPECT_EQ(whyWaits({6, 0, 0}, {}, {{"left_right", "at_once"}}), "");
  EXPECT_NE(whyWaits({6, 0, 0}, {}, {{"left_right", "comes_back"}}), "");
}

TEST(LeftRight, IsSaidWithItsSide) {
  const auto limits = shippedLimits();
  ASSERT_TRUE(limits);
  int sided = 0;
  for (const Limit& limit : *limits) {
    if (!lifts::isSided(limit.measure)) continue;
    ++sided;
    EXPECT_EQ(limit.side, Side::Beyond) << limit.finding << " has two sides to its limit as well";
    EXPECT_NE(lifts::sideWords(limit.measure, 1), lifts::sideWords(limit.measure, -1)) << limit.finding;
  }
  EXPECT_GE(sided, 6);
  EXPECT_TRUE(lifts::sideWords("descent_s", 1).empty());
}

// Knees before hips or hips before knees is signed too, and says nothing of left and right.
TEST(LeftRight, WhatHasASignButNoSideIsACueAtOnce) {
  lifts::SetMeasures set;
  for (int rep = 0; rep < 3; ++rep)
    set.reps.push_back({{lifts::measureDefinition("lockout_gap_s"), lifts::Measured{0.6, 0.02, 1}}});
  const auto findings = judge(set, *shippedStyle("balanced"), lifts::definition(lifts::LiftId::Squat));
  const auto apart =
      std::find_if(findings.begin(), findings.end(), [](const Finding& f) { return f.id == "squat.lockout_apart"; });
  ASSERT_TRUE(apart != findings.end() && apart->verdict == Verdict::Yes);
  EXPECT_TRUE(leftRightThatWaits(findings, set, {}, *shippedStyle("balanced")).empty());
}

TEST(LeftRight, WhatIsWithinTheLimitHasNothingToWaitFor) {
  EXPECT_EQ(whyWaits({0.5, 0.5, 0.5}, {}), "");
}

}  // namespace
}  // namespace jib::coaching
