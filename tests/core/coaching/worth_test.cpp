// SPDX-License-Identifier: GPL-3.0-or-later
// Whether a change is worth its price: the rules in their order.
#include "core/coaching/worth.h"

#include <gtest/gtest.h>

namespace jib::coaching {
namespace {

// Holds what it points to: not to be copied.
struct Asked {
  Cue cue;
  CueEntry entry;
  WorthAsked asked;

  Asked(const Asked&) = delete;
  explicit Asked(Stake stake) {
    cue.weeks = 4;
    cue.load = "70 to 80 % of max";
    entry.stake = stake;
    entry.second_day = "front squats, 3 x 5";
    asked.cue = &cue;
    asked.entry = &entry;
    asked.severity = 2;
    asked.reps_with = asked.reps = 3;
  }
  WorthAnswer answer() const { return worthChanging(asked); }
  Worth worth() const { return answer().worth; }
  bool says(std::string_view words) const {
    for (const std::string& reason : answer().reasons)
      if (reason.find(words) != std::string::npos) return true;
    return false;
  }
};

TEST(Worth, SafetyGoesBeforeTheMeet) {
  Asked q(Stake::Safety);
  q.asked.days_to_meet = 3;
  EXPECT_EQ(q.worth(), Worth::Now);
}

TEST(Worth, AMeetBeforeTheWeeksAreOverComesFirst) {
  for (const auto& [days, worth] : {std::pair(27, Worth::AfterMeet), {28, Worth::Now}, {-1, Worth::Now}}) {
    Asked q(Stake::Standard);
    q.asked.days_to_meet = days;
    EXPECT_EQ(q.worth(), worth) << days;
  }
}

TEST(Worth, WhetherRepsCountIsWorthItAtAnySize) {
  Asked q(Stake::Standard);
  q.asked.severity = 1;
  q.asked.reps_with = 1;
  EXPECT_EQ(q.worth(), Worth::Now);
}

TEST(Worth, OneRepOfSeveralWaitsAndASmallOneIsLeft) {
  Asked once(Stake::Economy);
  once.asked.reps_with = 1;
  EXPECT_EQ(once.worth(), Worth::WaitAndSee);
  once.asked.reps = 1;
  EXPECT_NE(once.worth(), Worth::WaitAndSee) << "of a single nothing else is known";
  Asked small(Stake::Economy);
  small.asked.severity = 1;
  EXPECT_EQ(small.worth(), Worth::LightTouch);
  EXPECT_FALSE(small.says("Cost"));
}

TEST(Worth, ALongHabitIsTriedOnTheSecondDay) {
  Asked q(Stake::Economy);
  q.asked.years_training = 9;
  EXPECT_EQ(q.worth(), Worth::SecondDay);
  EXPECT_TRUE(q.says("9 years") && q.says("front squats") && q.says("4 weeks of lighter top sets; load: 70 to 80 %"));
  q.cue.weeks = 2;
  EXPECT_EQ(q.worth(), Worth::Now) << "two weeks cost little";
  q.asked.years_training.reset();
  q.cue.weeks = 4;
  EXPECT_EQ(q.worth(), Worth::Now);
}

TEST(Worth, TheSoreAndTheYoungAreToldToStayLight) {
  Asked q(Stake::Economy);
  q.asked.careful = true;
  EXPECT_EQ(q.answer().answer, "Yes, but light.");
}

TEST(Worth, ACueOfTheCoachsOwnHasNoBookToAsk) {
  Asked q(Stake::Economy);
  q.asked.entry = nullptr;
  EXPECT_EQ(q.worth(), Worth::Now);
}

}  // namespace
}  // namespace jib::coaching
