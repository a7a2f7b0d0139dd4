// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/topic.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/coaching/cue.h"
#include "core/coaching/reading.h"
#include "core/coaching/style_book.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/scratch_folder.h"

namespace jib::coaching {
namespace {

const lifts::LiftDefinition& kSquat = lifts::definition(lifts::LiftId::Squat);

Style balanced() {
  return *shippedStyle("balanced");
}

TEST(Topics, EveryShippedChoiceIsUsable) {
  const auto topics = Topics::shipped();
  ASSERT_TRUE(topics) << topics.error().sentence();
  const auto book = *CueBook::shipped();
  const auto styles = *StyleBook::shipped();
  for (const Topic& t : topics->all()) {
    EXPECT_GE(t.choices.size(), 2u) << t.id;
    for (const Choice& c : t.choices) {
      EXPECT_FALSE(c.title.empty() || c.text.empty()) << t.id << " " << c.id;
      for (const Style& s : styles.styles()) {
        const Style chosen = topics->applied(s, {{t.id, c.id}});
        for (const Limit& l : chosen.limits) {
          EXPECT_FALSE(l.measure.empty()) << t.id << " " << c.id << ": " << l.finding << " has no measure in " << s.id;
          EXPECT_NE(book.entry(l.finding), nullptr) << l.finding << " has no words";
        }
      }
      for (const auto& [finding, wording] : c.say) EXPECT_NE(book.entry(finding), nullptr) << finding;
      for (const auto& limit : c.limits) EXPECT_NE(book.entry(limit.finding), nullptr) << limit.finding;
    }
  }
}

TEST(Topics, ConcernTheirLiftsAlone) {
  const auto topics = *Topics::shipped();
  EXPECT_TRUE(topics.topic("depth")->concerns(lifts::LiftId::Squat));
  EXPECT_FALSE(topics.topic("depth")->concerns(lifts::LiftId::Deadlift));
  EXPECT_TRUE(topics.topic("left_right")->concerns(lifts::LiftId::Bench)) << "one that names none concerns all";
  for (const auto lift : {lifts::LiftId::Squat, lifts::LiftId::Bench, lifts::LiftId::Deadlift})
    EXPECT_GE(std::count_if(topics.all().begin(), topics.all().end(), [&](const Topic& t) { return t.concerns(lift); }),
              5);
  // What is said of the sides taken names those of the lift at hand.
  Analysis a = tests::smallAnalysis();
  judgeAgain(a, topics.applied(balanced(), {{"depth", "full"}, {"pull_reset", "touch"}}), *CueBook::shipped());
  EXPECT_EQ(a.sides, (std::vector<std::string>{"Depth: as deep as you control"}));
}

TEST(Topics, TheOrderOfLookingGoesFromTheFloorUpOrFromTheTopDownAndIsNotTheAthletesToRead) {
  const auto topics = *Topics::shipped();
  const Style plain = balanced(), up = topics.applied(plain, {{"looking", "ground_up"}}),
              down = topics.applied(plain, {{"looking", "top_down"}});
  const auto before = [](const Style& s, const char* one, const char* other) {
    return s.lookedAt(one) < s.lookedAt(other);
  };
  EXPECT_FALSE(before(plain, "squat.heels_lift", "squat.head_jerks")) << "without a choice none comes first";
  EXPECT_TRUE(before(up, "squat.heels_lift", "squat.knees_cave") && before(up, "squat.knees_cave", "squat.hips_lead") &&
              before(up, "squat.hips_lead", "squat.chest_drops"));
  EXPECT_TRUE(before(down, "squat.chest_drops", "squat.hips_lead") &&
              before(down, "squat.hips_lead", "squat.heels_lift"));
  EXPECT_TRUE(before(topics.applied(plain, {{"looking", "hips_first"}}), "squat.hips_lead", "squat.heels_lift"));
  EXPECT_TRUE(up.sides.empty()) << "how a coach looks is no side taken";
  EXPECT_EQ(up.limits.size(), plain.limits.size());
  // What is listed by eye follows it, and so do findings of one standing.
  const auto book = *CueBook::shipped();
  const auto listed = asLookedAt(book.byEye(lifts::LiftId::Squat), down);
  EXPECT_TRUE(std::is_sorted(listed.begin(), listed.end(), [&](const CueEntry* a, const CueEntry* b) {
    return down.lookedAt(a->finding) < down.lookedAt(b->finding);
  }));
  std::vector<Finding> findings(3);
  findings[0].id = "squat.chest_drops";
  findings[1].id = "squat.heels_lift";
  findings[2].id = "squat.knees_cave";
  for (Finding& f : findings) f.verdict = Verdict::Yes;
  findings[0].severity = 3;
  EXPECT_EQ(byWorth(findings, {}).front()->id, "squat.chest_drops") << "the strongest first, where there is no order";
  EXPECT_EQ(byWorth(findings, {}, up).front()->id, "squat.heels_lift");
  EXPECT_EQ(byWorth(findings, {"squat.knees_cave"}, up).front()->id, "squat.knees_cave") << "what is said comes first";
}

TEST(Topics, OfPullsAndPressesChangeWhatIsJudgedThere) {
  const auto topics = *Topics::shipped();
  const Style plain = balanced(), touch = topics.applied(plain, {{"pull_reset", "touch"}}),
              reset = topics.applied(plain, {{"pull_reset", "reset"}}),
              stop = topics.applied(plain, {{"bench_pause", "stop"}}),
              tucked = topics.applied(plain, {{"bench_feet", "tucked"}});
  EXPECT_NE(plain.limit("deadlift.rolling_start"), nullptr);
  EXPECT_EQ(touch.limit("deadlift.rolling_start"), nullptr) << "touch and go is no fault";
  EXPECT_EQ(reset.limit("deadlift.rolling_start")->limit, 0.8);
  EXPECT_EQ(plain.limit("bench.no_pause")->variant, "paused");
  EXPECT_EQ(stop.limit("bench.no_pause")->variant, "") << "in every set";
  EXPECT_NE(plain.limit("bench.heels_lift"), nullptr);
  EXPECT_EQ(tucked.limit("bench.heels_lift"), nullptr);
}

TEST(Topics, ChangeLimitsOfTheStyleAndAddTheirOwn) {
  const auto topics = *Topics::shipped();
  const Style plain = balanced();
  EXPECT_EQ(plain.limit("squat.knees_past_toes"), nullptr);
  const Style strict = topics.applied(balanced(), {{"knees_past_toes", "flag"}, {"descent", "rebound"}});
  ASSERT_NE(strict.limit("squat.knees_past_toes"), nullptr);
  EXPECT_EQ(strict.limit("squat.knees_past_toes")->limit, 0.0);
  EXPECT_EQ(strict.limit("squat.descent_too_fast")->limit, 0.7);
  EXPECT_EQ(strict.limit("squat.chest_drops")->limit, plain.limit("squat.chest_drops")->limit);
  EXPECT_EQ(strict.sides.size(), 2u);
  EXPECT_EQ(strict.sides[0].words, "Knees past the toes: not past them");
}

TEST(Topics, SilenceAFinding) {
  const Style comfort = Topics::shipped()->applied(balanced(), {{"depth", "comfort"}});
  EXPECT_EQ(comfort.limit("squat.too_high"), nullptr);
  EXPECT_EQ(comfort.limit("squat.deeper_than_needed"), nullptr);
}

TEST(Topics, AnAthletesChoiceGoesBeforeTheStyles) {
  const auto styles = *StyleBook::shipped();
  EXPECT_EQ(styles.style("upright")->limit("squat.chest_drops")->limit, 5.0);
  EXPECT_EQ(styles.style("upright", {{"lean", "lean"}})->limit("squat.chest_drops")->limit, 10.0);
}

TEST(Topics, PauseIsAskedOfEverySquatWhenTheReboundIsKilled) {
  const auto topics = *Topics::shipped();
  lifts::SetMeasures set;
  set.reps.push_back({{lifts::measureDefinition("pause_s"), lifts::Measured{0.05, 0.01, 1.0}}});
  EXPECT_TRUE(judge(set, balanced(), kSquat, "high-bar").empty());
  const auto found = judge(set, topics.applied(balanced(), {{"pause", "stop"}}), kSquat, "high-bar");
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].id, "squat.pause_short");
  EXPECT_EQ(found[0].verdict, Verdict::Yes);
}

TEST(Topics, SetTheWordsProposedFirst) {
  const auto book = *CueBook::shipped();
  const Style heel = Topics::shipped()->applied(balanced(), {{"foot", "heel"}});
  Finding f;
  f.id = "squat.heels_lift";
  EXPECT_NE(cueFor(f, *book.entry(f.id), heel).wording, cueFor(f, *book.entry(f.id), balanced()).wording);
}

TEST(Topics, WhatIsNotKnownIsLeftOut) {
  const Style same = Topics::shipped()->applied(balanced(), {{"barefoot", "yes"}, {"depth", "abyss"}});
  EXPECT_TRUE(same.sides.empty());
  EXPECT_EQ(same.limits.size(), balanced().limits.size());
}

TEST(StyleBook, TakesTheCoachsOwnFilesAndTellsWhatItCannotRead) {
  const tests::ScratchFolder folder;
  std::filesystem::create_directory(folder.path() / "styles");
  folder.write("styles/mine.toml",
               "[style]\nid = \"mine\"\ntitle = \"Mine\"\nwhy = \"w\"\ncue_limit = 1\n[switches]\ndepth = \"full\"\n"
               "[squat.too_high]\nmeasure = \"hip_crease_above_knee_m\"\nside = \"above\"\nlimit = 0.0\n"
               "strong = 0.05\nunit = \"m\"\nwhy = \"w\"\nsettle = \"s\"\n");
  folder.write("styles/broken.toml", "[style]\nid = \"broken\"\n");
  const auto book = StyleBook::forLibrary(folder.path());
  ASSERT_TRUE(book);
  EXPECT_EQ(book->styles().size(), 5u);
  ASSERT_EQ(book->troubles().size(), 1u);
  EXPECT_NE(book->troubles()[0].find("broken.toml"), std::string::npos);
  const auto mine = book->style("mine");
  ASSERT_TRUE(mine);
  EXPECT_EQ(mine->limit("squat.too_high")->limit, -0.06) << "its own side on depth";
  const auto none = book->style("yours");
  ASSERT_FALSE(none);
  EXPECT_NE(none.error().next.find("mine"), std::string::npos);
}

}  // namespace
}  // namespace jib::coaching
