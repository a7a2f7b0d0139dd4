// SPDX-License-Identifier: GPL-3.0-or-later
// What follows from a cue: shares in kilos, the week, and training around what hurts. A sore or a young lifter is told
// nothing of a max.
#include <gtest/gtest.h>

#include "core/coaching/load_words.h"
#include "core/coaching/pain_plan.h"
#include "core/coaching/strain.h"
#include "core/coaching/week.h"
#include "tests/core/must.h"

namespace jib::coaching {
namespace {

using tests::must;

const Rack kKilos = Rack::usual(MassUnit::Kilograms);
const CueBook kBook = must(CueBook::shipped());

LoadBasis of(std::optional<double> max_kg, std::optional<double> top_kg = {}) {
  LoadBasis b;
  b.max_kg = max_kg;
  b.top_kg = top_kg;
  return b;
}

TEST(LoadWords, SharesOfAMaxInKilosAndPounds) {
  EXPECT_EQ(inKilos("60 to 70 % of max", of(180), kKilos), "107.5 to 125 kg (237 to 276 lb)");
  EXPECT_EQ(inKilos("about 70 % of max", of(180), kKilos), "125 kg (276 lb)");
  EXPECT_EQ(inKilos("light, then up to 70% of your max", of(100), kKilos), "70 kg (154 lb)");
  EXPECT_EQ(inKilos("60-70 % of max", of(100), kKilos), "60 to 70 kg (132 to 154 lb)");
  EXPECT_EQ(withKilos("60 to 70 % of max.", of(100), kKilos), "60 to 70 % of max: 60 to 70 kg (132 to 154 lb)");
  LoadBasis guessed = of(100);
  guessed.max_estimated = true;
  EXPECT_EQ(inKilos("70 % of max", guessed, kKilos), "about 70 kg (154 lb)");
}

TEST(LoadWords, SoMuchOffTheSetThatWasFilmed) {
  EXPECT_EQ(inKilos("5 to 10 % off your usual top sets", of({}, 150), kKilos), "135 to 142.5 kg (298 to 314 lb)");
  EXPECT_EQ(inKilos("10 % lighter", of({}, 100), kKilos), "90 kg (198 lb)");
}

TEST(LoadWords, NothingIsMadeUp) {
  EXPECT_EQ(inKilos("60 to 70 % of max", of({}), kKilos), "") << "nobody knows the max";
  EXPECT_EQ(inKilos("light", of(180), kKilos), "");
  EXPECT_EQ(inKilos("70 to 80 %", of(180), kKilos), "") << "of what";
  EXPECT_EQ(inKilos("5 % of max", of(180), kKilos), "") << "less than the bar";
  EXPECT_EQ(withKilos("3 x 3 at 125 kg", of(180), kKilos), "3 x 3 at 125 kg");
  EXPECT_EQ(withKilos("70 % of max: 125 kg (276 lb)", of(180), kKilos), "70 % of max: 125 kg (276 lb)") << "once";
}

// Whatever the book gives as a load with a share in it comes to kilos.
TEST(LoadWords, TheBooksLoadsAreRead) {
  for (const lifts::LiftDefinition& lift : lifts::allLifts())
    for (const CueEntry* entry : kBook.all(lift.id)) {
      if (entry->load.find('%') == std::string::npos) continue;
      EXPECT_NE(inKilos(entry->load, of(200, 150), kKilos), "") << entry->finding << ": " << entry->load;
    }
}

std::string all(const std::vector<std::string>& lines) {
  std::string text;
  for (const std::string& line : lines) text += line + "\n";
  return text;
}

TEST(Week, HasThreeDaysAndSaysWhatStaysTheSame) {
  Cue cue = ownCue(0);
  cue.finding = "squat.hips_lead";
  cue.load = "3 x 3 at 125 kg";
  const auto& squat = lifts::definition(lifts::LiftId::Squat);
  const std::string week = all(weekOf({cue}, kBook, squat, "low-bar", false));
  for (const char* part : {"Day 1", "Day 2", "Day 3", "125 kg", "stance, grip, shoes and bar", "two sessions"})
    EXPECT_NE(week.find(part), std::string::npos) << part << " in\n" << week;
  EXPECT_NE(week.find("knees kept forward"), std::string::npos) << "the book's own second day";
  cue.change.emplace();
  cue.change->to = 0.5;
  EXPECT_EQ(all(weekOf({cue}, kBook, squat, "low-bar", false)).find("stance, grip"), std::string::npos)
      << "what changes can't stay the same";
  EXPECT_TRUE(weekOf({}, kBook, squat, "low-bar", false).empty());
}

TEST(Week, NamesNoShareToTheYoung) {
  Cue cue = ownCue(0);
  cue.load = "85 % of max";
  for (const lifts::LiftDefinition& lift : lifts::allLifts()) {
    const std::string week = all(weekOf({cue}, kBook, lift, "", true));
    EXPECT_EQ(week.find('%'), std::string::npos) << week;
    EXPECT_EQ(week.find("max"), std::string::npos) << week;
    EXPECT_TRUE(strainsIn(week).empty()) << week;
  }
}

TEST(Strain, SeesWhatAChangeAsksFor) {
  Cue cue = ownCue(0);
  cue.wording = "Stay tight.";
  cue.change.emplace();
  cue.change->kind = ChangeKind::Pause;
  cue.change->from = 0.5;
  cue.change->to = 2;
  EXPECT_EQ(strainsIn(cue), std::vector<Strain>{Strain::Paused});
  cue.change->to = 0.2;
  EXPECT_TRUE(strainsIn(cue).empty()) << "shorter";
  cue.change->kind = ChangeKind::Load;
  cue.change->from = 100;
  cue.change->to = 110;
  EXPECT_EQ(strainsIn(cue), std::vector<Strain>{Strain::Heavier});
}

TEST(PainPlan, StaysUnderWhatBringsItOnAndSaysWhenToStop) {
  PainPlan plan;
  plan.where = "left knee";
  plan.trigger_kg = 100;
  plan.trigger_sets = 4;
  const std::string text = all(sentencesOf(plan));
  for (const char* part :
       {"95 kg", "3 sets and no more", "3 weeks", "2.5 %", "doctor or physical therapist", "at night"})
    EXPECT_NE(text.find(part), std::string::npos) << part << " in\n" << text;
  EXPECT_EQ(titleOf(plan), "left knee: up to 95 kg (209 lb) for 3 weeks");
  for (double kg = 20; kg <= 200; kg += 2.5) EXPECT_LT(justUnder(kg), kg);
}

TEST(PainPlan, NamesNothingAndAsksForNothingThatStrains) {
  PainPlan plan;
  plan.range = "to just above parallel";
  plan.part = "off the chest";
  const std::string text = all(sentencesOf(plan));
  for (const char* word : {"tendon", "tear", "injur", "inflam", "strain", "arthr", "impinge"})
    EXPECT_EQ(text.find(word), std::string::npos) << word;
  EXPECT_TRUE(strainsIn(text).empty()) << text;
  EXPECT_EQ(painPlanFromJson(painPlanToJson(plan)), plan);
  EXPECT_FALSE(painPlanFromJson("[]"));
}

}  // namespace
}  // namespace jib::coaching
