// SPDX-License-Identifier: GPL-3.0-or-later
// What is not offered to the sore and the young, and what is not called good because nobody saw it.
#include <gtest/gtest.h>

#include "core/coaching/analysis.h"
#include "core/coaching/strain.h"
#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

using Strains = std::vector<Strain>;

TEST(Strain, IsReadFromTheWordsWhoeverWroteThem) {
  EXPECT_EQ(strainsIn("Sit to a box below parallel."), Strains{Strain::Deeper});
  EXPECT_EQ(strainsIn("3 x 3 pause squats"), Strains{Strain::Paused});
  EXPECT_EQ(strainsIn("go a bit HEAVIER next week"), Strains{Strain::Heavier});
  EXPECT_EQ(strainsIn("work up to a max"), Strains{Strain::Maximal});
  EXPECT_EQ(strainsIn("about 70 % of max"), Strains{}) << "a share of it is light";
  EXPECT_EQ(strainsIn("Knees out, sit down."), Strains{});
  EXPECT_EQ(strainsIn(""), Strains{});
}

TEST(Strain, WhatIsOfferedToTheSoreAsksForNoneOfIt) {
  const CueBook book = *CueBook::shipped();
  const Style style = *shippedStyle("balanced");
  for (const lifts::LiftDefinition& lift : lifts::allLifts())
    for (const CueEntry* e : book.all(lift.id)) {
      Finding f;
      f.id = e->finding;
      const Cue cue = gentled(cueFor(f, *e, style), *e);
      EXPECT_TRUE(strainsIn(cue.drill).empty()) << cue.drill;
      EXPECT_TRUE(cue.load.empty());
      const bool none_gentle = std::all_of(e->wordings.begin(), e->wordings.end(),
                                           [](const std::string& w) { return !strainsIn(w).empty(); });
      EXPECT_TRUE(none_gentle || strainsIn(cue.wording).empty()) << cue.wording;
    }
}

TEST(AskedAbout, HearsTheFaultInTheAthletesWords) {
  const CueBook book = *CueBook::shipped();
  const auto asked = [&](const char* text, lifts::LiftId lift) { return askedAbout(text, lift, book); };
  const auto has = [](const std::vector<std::string>& all, const char* id) {
    return std::find(all.begin(), all.end(), id) != all.end();
  };
  EXPECT_TRUE(has(asked("my hips shoot up outta the hole", lifts::LiftId::Squat), "squat.hips_lead"));
  EXPECT_TRUE(has(asked("Felt like my butt comes up before the bar even moves", lifts::LiftId::Deadlift),
                  "deadlift.hips_rise_first"));
  EXPECT_TRUE(has(asked("Do my knees cave in?", lifts::LiftId::Squat), "squat.knees_cave"));
  EXPECT_TRUE(has(asked("Should I go deeper?", lifts::LiftId::Squat), "squat.too_high"));
  EXPECT_TRUE(has(asked("is the pause long enough", lifts::LiftId::Bench), "bench.no_pause"));
  EXPECT_TRUE(asked("squat 140 x 3, felt good", lifts::LiftId::Squat).empty());
}

// A set in which nothing is wrong, judged with what is known of it.
Analysis judgedWith(const std::function<void(Analysis&)>& change) {
  Analysis a = tests::smallAnalysis();
  change(a);
  judgeAgain(a, *shippedStyle("balanced"), *CueBook::shipped());
  return a;
}

TEST(NoPraise, WhereNoJointWasTrackedNothingIsCalledGood) {
  const auto with = judgedWith([](Analysis&) {});
  ASSERT_FALSE(with.proposal.keep.empty()) << "this clip shows something good";
  const auto without = judgedWith([](Analysis& a) { a.trace.body.reset(); });
  EXPECT_TRUE(without.proposal.keep.empty());
  EXPECT_FALSE(without.proposal.change_nothing);
  EXPECT_NE(without.proposal.no_praise.find("No joints"), std::string::npos);
}

TEST(NoPraise, NorOfALiftThatWasGuessed) {
  const auto a = judgedWith([](Analysis& x) { x.request.lift_guessed = true; });
  EXPECT_TRUE(a.proposal.keep.empty());
  EXPECT_FALSE(a.proposal.change_nothing);
}

TEST(NoPraise, NorWhereTheyAskedAboutWhatTheClipDoesNotShow) {
  const auto a = judgedWith([](Analysis& x) { x.request.message = "Do my knees cave in?"; });
  ASSERT_FALSE(a.asked.empty());
  const auto unseen = std::find_if(a.not_seen.begin(), a.not_seen.end(), [](const NotSeen& n) { return n.asked; });
  ASSERT_NE(unseen, a.not_seen.end()) << "the knees cannot be seen from the side";
  EXPECT_EQ(unseen->finding, "squat.knees_cave");
  EXPECT_FALSE(unseen->why.empty());
  EXPECT_TRUE(a.proposal.keep.empty());
}

}  // namespace
}  // namespace jib::coaching
