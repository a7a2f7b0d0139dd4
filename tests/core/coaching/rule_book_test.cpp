// SPDX-License-Identifier: GPL-3.0-or-later
// Rule sets as data: the same set under two of them, and what a film cannot tell.
#include "core/coaching/rule_book.h"

#include <gtest/gtest.h>

#include "tests/core/analysed_clip.h"
#include "tests/core/scratch_folder.h"

namespace jib::coaching {
namespace {

constexpr const char* kDepth = "hip_crease_above_knee_m";

// The small squat with its reps as deep as given: metres below the knee are negative.
Analysis asDeepAs(const std::vector<double>& depths, double sigma = 0.004) {
  Analysis a = tests::smallAnalysis();
  const lifts::MeasureList rep = a.measures.reps.front();
  a.measures.reps.assign(depths.size(), rep);
  for (std::size_t i = 0; i < depths.size(); ++i)
    for (auto& m : a.measures.reps[i])
      if (m.kind->id == kDepth) m.measure = lifts::Measured{depths[i], sigma, 1.0 + static_cast<double>(i)};
  return a;
}

RuleJudgement depthUnder(const Analysis& a, const char* rules) {
  for (const RuleJudgement& j : judgedUnder(a, RuleBook::shipped().setOf(rules)))
    if (j.check.limit.measure == kDepth) return j;
  ADD_FAILURE() << "no depth under " << rules;
  return {};
}

TEST(RuleBook, ThreeFederationsDifferInDepthPauseAndCalls) {
  const auto& sets = RuleBook::shipped().sets();
  ASSERT_EQ(sets.size(), 3u);
  for (const RuleSet& set : sets) {
    EXPECT_FALSE(set.kit.empty()) << set.id;
    EXPECT_FALSE(set.version.empty()) << set.id;
    for (const RuleCheck& check : set.checks) {
      EXPECT_EQ(check.asks.back(), '.') << check.asks;
      EXPECT_EQ((set.title + check.asks).find("legal"), std::string::npos) << "the referees say that";
    }
  }
  EXPECT_EQ(RuleBook::shipped().setOf("granite-coast").calls.at("bench"), std::vector<std::string>{"Rack"});
  EXPECT_EQ(&RuleBook::shipped().setOf("nobody's"), &sets.front());
}

TEST(RuleBook, TheSameSetEndsDifferentlyUnderTwoOfThem) {
  const Analysis a = asDeepAs({0.012, -0.010, -0.050});
  const auto strict = depthUnder(a, "open-lakes"), level = depthUnder(a, "granite-coast");
  using enum Outcome;
  EXPECT_EQ(strict.reps, (std::vector{NotLikely, Likely, Likely}));
  EXPECT_EQ(level.reps, (std::vector{Likely, Likely, Likely}));
  EXPECT_EQ(strict.words, "Not likely in rep 1; likely good in reps 2 and 3.");
  EXPECT_EQ(level.words, "Likely good.");
  ASSERT_TRUE(strict.worst);
  EXPECT_DOUBLE_EQ(strict.worst->measured()->value, 0.012);
  const auto lines =
      differencesBetween(a, RuleBook::shipped().setOf("open-lakes"), RuleBook::shipped().setOf("granite-coast"));
  ASSERT_FALSE(lines.empty());
  EXPECT_EQ(lines[0], "Depth of rep 1: not likely under Open Lakes Lifting, likely good under Granite Coast Union.");
}

TEST(RuleBook, WhatIsWithinItsErrorIsLeftOpenAndWhatIsNotSeenIsSaid) {
  Analysis a = asDeepAs({0.002}, 0.01);
  EXPECT_EQ(depthUnder(a, "open-lakes").reps, std::vector{Outcome::TooClose});
  for (auto& m : a.measures.reps[0])
    if (m.kind->id == kDepth) m.measure = lifts::Absent{"The hips are hidden."};
  const auto hidden = depthUnder(a, "open-lakes");
  EXPECT_EQ(hidden.reps, std::vector{Outcome::CannotTell});
  EXPECT_EQ(hidden.words, "This clip can't tell.");
  EXPECT_FALSE(hidden.worst);
}

TEST(RuleBook, TheCoachsOwnRulesStandOverTheShippedOnesAndCanBeGivenBack) {
  const tests::ScratchFolder folder;
  const auto place = folder / "lib";
  std::filesystem::create_directories(place);
  EXPECT_EQ(RuleBook::forLibrary(place).sets().size(), 3u);
  RuleSet mine = RuleBook::shipped().setOf("granite-coast");
  mine.title = "Granite \"Coast\" Union";
  mine.checks.front().limit.limit = -0.015;
  ASSERT_TRUE(RuleBook::keep(place, mine, "2026-12-01"));
  const RuleBook book = RuleBook::forLibrary(place);
  ASSERT_EQ(book.sets().size(), 3u);
  const RuleSet& now = book.setOf("granite-coast");
  EXPECT_EQ(now.title, mine.title);
  EXPECT_EQ(now.edited_on, "2026-12-01");
  EXPECT_EQ(now.calls.at("bench"), std::vector<std::string>{"Rack"});
  ASSERT_EQ(now.checks.size(), mine.checks.size());
  EXPECT_DOUBLE_EQ(now.checks.front().limit.limit, -0.015);
  // The same film, another end.
  const Analysis a = asDeepAs({0.012});
  EXPECT_EQ(judgedUnder(a, now).front().reps, std::vector{Outcome::NotLikely});
  RuleSet own = mine;
  own.id = "own-1";
  ASSERT_TRUE(RuleBook::keep(place, own, "2026-12-02"));
  EXPECT_EQ(RuleBook::forLibrary(place).sets().size(), 4u);
  EXPECT_TRUE(std::filesystem::exists(place / "rules.before-2026-12-02.toml")) << "what was in force stays readable";
  ASSERT_TRUE(RuleBook::giveBack(place, "granite-coast", "2026-12-03"));
  EXPECT_EQ(RuleBook::forLibrary(place).setOf("granite-coast").edited_on, "");
  ASSERT_TRUE(RuleBook::giveBack(place, "own-1", "2026-12-03"));
  EXPECT_EQ(RuleBook::forLibrary(place).sets().size(), 3u);
  EXPECT_FALSE(std::filesystem::exists(place / "rules.toml"));
}

TEST(RuleBook, OwnRulesThatCannotBeReadAreToldAndNeverWrittenOver) {
  const tests::ScratchFolder folder;
  const auto file = folder.write("rules.toml", "[[sets]]\nid = 3\n");
  const RuleBook book = RuleBook::forLibrary(file.parent_path());
  EXPECT_EQ(book.sets().size(), 3u);
  EXPECT_NE(book.trouble().find("rules.toml"), std::string::npos) << book.trouble();
  EXPECT_FALSE(RuleBook::keep(file.parent_path(), RuleBook::shipped().sets()[0], "2026-12-01"));
  EXPECT_EQ(tests::bytesOf(file), "[[sets]]\nid = 3\n");
}

TEST(RuleBook, AFileIsReadStrictly) {
  const tests::ScratchFolder folder;
  const std::string head = "[[sets]]\nid = \"a\"\ntitle = \"A\"\nversion = \"1\"\nkit = \"None.\"\n";
  const auto load = [&](const std::string& more) { return RuleBook::load(folder.write("rules.toml", head + more)); };
  const std::string check =
      "[[sets.checks]]\nlift = \"squat\"\ntitle = \"Depth\"\nasks = \"Deep.\"\nlimit = 0.0\nnot_when = \"above\"\n";
  EXPECT_TRUE(load(check + "measure = \"hip_crease_above_knee_m\"\n"));
  EXPECT_FALSE(load(check + "measure = \"no_such_thing\"\n"));
  EXPECT_FALSE(load(check + "measure = \"hip_crease_above_knee_m\"\nmercy = true\n"));
  EXPECT_FALSE(RuleBook::load(folder.write("none.toml", "")));
}

}  // namespace
}  // namespace jib::coaching
