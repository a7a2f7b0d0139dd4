// SPDX-License-Identifier: GPL-3.0-or-later
// Is it technique? What points to pain, kit, build, load or technique behind a fault.
#include "core/coaching/where_it_lies.h"

#include <gtest/gtest.h>

namespace jib::coaching {
namespace {

struct Case {
  Finding finding;
  LiesAsked asked;
  explicit Case(const char* id, std::vector<int> reps = {1, 2, 3}) {
    finding.id = id;
    finding.verdict = Verdict::Yes;
    finding.reps = std::move(reps);
    asked.finding = &finding;
    asked.reps = 3;
  }
  LiesHint hint(LiesIn in) const {
    for (const LiesHint& h : whereItLies(asked))
      if (h.in == in) return h;
    ADD_FAILURE() << "no such hint";
    return {LiesIn::Pain, Standing::Open, {}, {}, {}};
  }
  LiesHint first() const { return whereItLies(asked).front(); }
};

TEST(WhereItLies, WithNothingKnownEveryPlaceIsAskedAboutPainFirst) {
  const Case c("squat.knees_slide_back");
  const auto all = whereItLies(c.asked);
  ASSERT_EQ(all.size(), 5u);
  EXPECT_EQ(all[0].in, LiesIn::Pain);
  for (const auto& hint : all) EXPECT_FALSE(hint.question.empty());
  EXPECT_EQ(c.hint(LiesIn::Build).standing, Standing::Unlikely) << "no limb makes knees slide back";
  EXPECT_EQ(c.hint(LiesIn::Technique).standing, Standing::Open);
}

TEST(WhereItLies, WhatIsCleanLightAndShowsHeavyIsLoadBeforeTechnique) {
  Case c("squat.hips_lead");
  c.asked.clean_kg = 120;
  c.asked.shown_kg = 140;
  EXPECT_EQ(c.first().in, LiesIn::Load);
  EXPECT_EQ(c.first().reasons[0], "Clean up to 120 kg (265 lb), shows from 140 kg (309 lb).");
  c.asked.clean_kg = 150;
  EXPECT_EQ(c.hint(LiesIn::Load).standing, Standing::Open) << "clean heavier than it showed says nothing of load";
}

TEST(WhereItLies, OnlyTheLastRepsIsFatigueAndTheFirstRepsAreNot) {
  EXPECT_EQ(Case("squat.hips_lead", {3}).first().reasons[0], "Starts with rep 3: it comes with fatigue.");
  EXPECT_EQ(Case("squat.hips_lead", {1, 3}).hint(LiesIn::Load).standing, Standing::Open);
  EXPECT_EQ(Case("squat.hips_lead", {2}).hint(LiesIn::Load).standing, Standing::Open) << "and gone again in rep 3";
}

TEST(WhereItLies, LightInEveryRepIsTechniqueAndHeavyIsToBeSeenLighter) {
  Case c("squat.hips_lead");
  c.asked.best_kg = 200;
  c.asked.load_kg = 120;
  EXPECT_EQ(c.first().in, LiesIn::Technique);
  EXPECT_EQ(c.hint(LiesIn::Load).standing, Standing::Unlikely);
  c.asked.load_kg = 190;
  EXPECT_EQ(c.hint(LiesIn::Technique).standing, Standing::Open);
  EXPECT_NE(c.hint(LiesIn::Load).reasons[0].find("95 %"), std::string::npos);
}

TEST(WhereItLies, AskedOftenWithoutAChangeIsThePlanAndAskedWithOneIsTechnique) {
  Case c("squat.hips_lead");
  c.asked.asked_before = 3;
  EXPECT_EQ(c.first().in, LiesIn::Load);
  c.asked.helped = 1;
  EXPECT_EQ(c.first().in, LiesIn::Technique);
}

TEST(WhereItLies, PainComesBeforeEverythingElse) {
  Case c("squat.hips_lead");
  c.asked.clean_kg = 120;
  c.asked.shown_kg = 140;
  c.asked.pain = true;
  EXPECT_EQ(c.first().in, LiesIn::Pain);
}

TEST(WhereItLies, NewKitIsNamedAndTheSameKitIsUnlikely) {
  Case c("squat.heels_lift");
  c.asked.kit_clean = {{"shoes", "raised"}};
  c.asked.kit_now = {{"shoes", "flat"}};
  EXPECT_EQ(c.first().in, LiesIn::Kit);
  EXPECT_TRUE(c.first().reasons[0].starts_with("Since the last clean clip: ")) << c.first().reasons[0];
  c.asked.kit_now = c.asked.kit_clean;
  EXPECT_EQ(c.hint(LiesIn::Kit).standing, Standing::Unlikely);
  c.asked.kit_now = {{"belt", "yes"}};
  EXPECT_EQ(c.hint(LiesIn::Kit).standing, Standing::Open) << "one told of shoes, the other of a belt";
  c.asked.kit_now.clear();
  EXPECT_EQ(c.hint(LiesIn::Kit).standing, Standing::Open);
}

TEST(WhereItLies, LongThighsExplainALeanOnlyBeyondTheirDoubt) {
  Case c("squat.chest_drops");
  c.asked.thigh_to_trunk = lifts::Measured{1.05, 0.02, 0};
  EXPECT_EQ(c.hint(LiesIn::Build).standing, Standing::Supported);
  c.asked.thigh_to_trunk->sigma = 0.1;
  EXPECT_EQ(c.hint(LiesIn::Build).standing, Standing::Open);
  c.asked.thigh_to_trunk = lifts::Measured{0.8, 0.03, 0};
  EXPECT_EQ(c.hint(LiesIn::Build).standing, Standing::Unlikely);
}

}  // namespace
}  // namespace jib::coaching
