// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/rival_cause.h"

#include <gtest/gtest.h>

#include "core/coaching/cue.h"
#include "core/coaching/finding.h"
#include "core/coaching/mark.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {
namespace {

using namespace coaching;

lifts::NamedMeasure measured(const char* id, double value, double sigma) {
  return {lifts::measureDefinition(id), lifts::Measured{value, sigma, 2.0}};
}

lifts::SetMeasures twoReps(double slide_pct, double mismatch_deg, double sigma) {
  lifts::SetMeasures set;
  for (double offset : {-1.0, 1.0})
    set.reps.push_back({measured("knee_slide_back_pct_shin", slide_pct + offset, sigma),
                        measured("lean_mismatch_deg", mismatch_deg + 0.1 * offset, sigma)});
  return set;
}

const std::vector<CauseRule> kRules{
    {"weak thighs",
     "front squats for weeks",
     3,
     {{"knee_slide_back_pct_shin", true, 12, true}, {"knee_slide_back_pct_shin", false, 6, false}}},
    {"upright descent",
     "match the lean",
     1,
     {{"lean_mismatch_deg", true, 8, true}, {"lean_mismatch_deg", false, 4, false}}},
    {"stance", "feet in", 1, {}}};

const RivalCause& named(const std::vector<RivalCause>& rivals, const std::string& cause) {
  return *std::find_if(rivals.begin(), rivals.end(), [&](const auto& r) { return r.cause == cause; });
}

TEST(RivalCauses, AreSupportedOrUnlikelyOnlyWhereTheNumbersAreSure) {
  const auto sure = weigh(kRules, twoReps(19, 2, 1));
  EXPECT_EQ(named(sure, "weak thighs").standing, Standing::Supported);
  EXPECT_EQ(named(sure, "upright descent").standing, Standing::Unlikely);
  EXPECT_EQ(named(sure, "stance").standing, Standing::Open);
  const auto unsure = weigh(kRules, twoReps(19, 2, 6));
  for (const auto& r : unsure) EXPECT_EQ(r.standing, Standing::Open) << r.cause;
}

TEST(RivalCauses, PutTheCheapestTestFirstAndTheUnlikelyLast) {
  const auto rivals = weigh(kRules, twoReps(19, 2, 1));
  EXPECT_EQ(rivals[0].cause, "stance") << "open, at no cost, before the supported one that takes weeks";
  EXPECT_EQ(rivals[1].cause, "weak thighs");
  EXPECT_EQ(rivals[2].cause, "upright descent");
  const auto both = weigh(kRules, twoReps(19, 11, 1));
  EXPECT_EQ(both[0].cause, "upright descent") << "of two cheap tests the one with evidence";
}

TEST(RivalCauses, ShowTheMeanAndWhatItIsHeldAgainst) {
  const auto rivals = weigh(kRules, twoReps(19, 2, 1));
  const auto& e = named(rivals, "weak thighs").speaking_for.at(0);
  EXPECT_DOUBLE_EQ(e.value.value, 19);
  EXPECT_DOUBLE_EQ(e.value.sigma, 1) << "reps err alike, so more of them do not make it surer";
  EXPECT_EQ(textOf(e), "Knees slide back 19 ± 2 % of shin (more than 12 %)");
}

TEST(RivalCauses, SayNothingAboutWhatWasNotMeasured) {
  lifts::SetMeasures set;
  set.reps.push_back({{lifts::measureDefinition("knee_slide_back_pct_shin"), lifts::Absent{"Not seen."}}});
  for (const auto& r : weigh(kRules, set)) {
    EXPECT_EQ(r.standing, Standing::Open);
    EXPECT_TRUE(r.speaking_for.empty() && r.speaking_against.empty());
  }
}

TEST(CueBook, ComparesCausesForWhatHasSeveral) {
  const auto book = CueBook::shipped();
  ASSERT_TRUE(book) << book.error().sentence();
  for (const char* id : {"squat.hips_lead", "squat.chest_drops", "squat.too_high", "squat.knees_slide_back"}) {
    const auto* entry = book->entry(id);
    ASSERT_TRUE(entry);
    EXPECT_GE(entry->rivals.size(), 3u) << id;
    for (const auto& r : entry->rivals) {
      EXPECT_FALSE(r.test.empty());
      EXPECT_GE(r.cost, 1);
      EXPECT_LE(r.cost, 3);
    }
  }
}

std::string bookWith(const std::string& rule) {
  return "[squat.hips_lead]\nlink = 1\ntitle = \"t\"\nkeep = \"k\"\ncauses = []\nwordings = [\"w\"]\ndrill = \"d\"\n"
         "load = \"l\"\nweeks = 3\nproof = \"p\"\nside_effect = \"s\"\nclears = []\n"
         "[[squat.hips_lead.rival]]\ncause = \"c\"\ntest = \"t\"\ncost = 1\nfor = [\"" +
         rule + "\"]\nagainst = []\n";
}

TEST(CueBook, ReadsAnEvidenceRule) {
  const ScratchFolder folder;
  const auto book = CueBook::load(folder.write("cues.toml", bookWith("descent_s < 1.25")));
  ASSERT_TRUE(book) << book.error().sentence();
  const auto& rule = book->entry("squat.hips_lead")->rivals.at(0).evidence.at(0);
  EXPECT_EQ(rule.measure, "descent_s");
  EXPECT_FALSE(rule.above);
  EXPECT_DOUBLE_EQ(rule.threshold, 1.25);
  EXPECT_TRUE(rule.speaks_for);
}

TEST(CueBook, RefusesARuleItCannotReadWithFileAndLine) {
  const ScratchFolder folder;
  for (const char* wrong :
       {"descent_s", "descent_s = 1", "descent_s < fast", "descent_s < 1 2", "no_such_measure > 1"}) {
    const auto book = CueBook::load(folder.write("cues.toml", bookWith(wrong)));
    ASSERT_FALSE(book) << wrong;
    EXPECT_NE(book.error().what.find("cues.toml, line"), std::string::npos) << book.error().what;
  }
}

// Every finding a style knows can be said, and every cue in the book answers to a finding.
TEST(CueBook, HasWordsForEveryFindingOfEveryStyle) {
  const auto book = CueBook::shipped();
  for (const char* id : {"balanced", "lean_friendly", "upright", "minimal"}) {
    const auto style = shippedStyle(id);
    ASSERT_TRUE(style) << style.error().sentence();
    for (const auto& limit : style->limits) {
      EXPECT_TRUE(book->entry(limit.finding)) << limit.finding;
      EXPECT_TRUE(lifts::measureDefinition(limit.measure)) << limit.measure;
      EXPECT_FALSE(limit.settle.empty()) << limit.finding;
    }
  }
}

TEST(RivalCause, ATestThatWasTriedHasTheLastWord) {
  const auto before = weigh(kRules, twoReps(19, 2, 1));
  const std::string last = before.back().cause, first = before.front().cause;
  const auto after = weigh(kRules, twoReps(19, 2, 1), [&](std::string_view cause) -> std::optional<bool> {
    return cause == last ? std::optional(true) : cause == first ? std::optional(false) : std::nullopt;
  });
  EXPECT_EQ(after.front().cause, last);
  EXPECT_EQ(after.front().standing, Standing::Supported);
  EXPECT_EQ(after.back().cause, first);
  EXPECT_EQ(after.back().standing, Standing::Unlikely);
}

TEST(RivalCause, HowATestWentIsKeptAsAMarkAndIsNoFinding) {
  Marks marks;
  setMark(marks, {causeCheck("squat.too_high", "stance too wide"), MarkState::Seen, 0, 0}, true);
  setMark(marks, {causeCheck("squat.too_high", "too heavy today"), MarkState::Fine, 0, 0}, true);
  const Marks back = marksFromJson(marksToJson(marks));
  EXPECT_EQ(causeHelped(back, "squat.too_high", "stance too wide"), true);
  EXPECT_EQ(causeHelped(back, "squat.too_high", "too heavy today"), false);
  EXPECT_EQ(causeHelped(back, "squat.hips_lead", "stance too wide"), std::nullopt);
  EXPECT_TRUE(findingsFrom(back).empty());
}

}  // namespace
}  // namespace jib::tests
