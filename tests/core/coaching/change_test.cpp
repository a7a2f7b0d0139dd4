// SPDX-License-Identifier: GPL-3.0-or-later
// A change is a quantity: read from the film, said in both units, and held against what the next film shows.
#include "core/coaching/change.h"

#include <gtest/gtest.h>

#include "core/base/display_units.h"
#include "core/coaching/cue.h"
#include "tests/core/must.h"

namespace jib::coaching {
namespace {

using lifts::Measured;

const lifts::LiftDefinition& kSquat = lifts::definition(lifts::LiftId::Squat);
const lifts::LiftDefinition& kBench = lifts::definition(lifts::LiftId::Bench);

// A set whose only measure is the width of its stance.
lifts::SetMeasures standing(double width_m, double sigma) {
  lifts::SetMeasures m;
  m.reps.push_back({{lifts::measureDefinition("stance_width_m"), Measured{width_m, sigma, 0}}});
  return m;
}

Change stance(std::optional<double> from, double to, double sigma = 0) {
  Change c;
  c.from = from;
  c.to = to;
  c.from_sigma = sigma;
  return c;
}

TEST(Change, IsSaidFromToInBothUnitsAndPerSide) {
  EXPECT_EQ(textOf(stance(0.45, 0.50)),
            "Stance width: from 45 to 50 cm (17¾ to 19¾ in), 2.5 cm (1 in) out on each side");
  EXPECT_EQ(textOf(stance(0.50, 0.44)), "Stance width: from 50 to 44 cm (19¾ to 17¼ in), 3 cm (1¼ in) in on each side");
  Change hooks;
  hooks.kind = ChangeKind::Hooks;
  hooks.by = -1;
  EXPECT_EQ(textOf(hooks), "Rack hooks: 1 notch lower");
  Change heel;
  heel.kind = ChangeKind::HeelRaise;
  heel.from = 0;
  heel.to = 0.015;
  EXPECT_EQ(textOf(heel), "Heel raise: from 0 to 1.5 cm (0 to ½ in)");
  Change grip;
  grip.kind = ChangeKind::Grip;
  grip.to_words = "one finger wider";
  EXPECT_EQ(textOf(grip), "Grip: one finger wider");
  grip.from_words = "little finger on the rings";
  EXPECT_EQ(textOf(grip), "Grip: from little finger on the rings to one finger wider");
  Change load;
  load.kind = ChangeKind::Load;
  load.from = 140;
  load.to = 125;
  EXPECT_EQ(textOf(load), "Load: from 140 to 125 kg (309 to 276 lb)");
  EXPECT_EQ(textOf(Change{}), "") << "nothing to do yet";
}

TEST(Change, InchesComeFirstWhereTheCoachReadsInches) {
  setDisplayUnits({MassUnit::Pounds, LengthUnit::Inches, false});
  EXPECT_EQ(fromTo(stance(0.45, 0.50)), "from 17¾ to 19¾ in (45 to 50 cm)");
  setDisplayUnits({MassUnit::Pounds, LengthUnit::Inches, true});
  EXPECT_EQ(fromTo(stance(0.45, 0.50)), "from 17¾ to 19¾ in");
  setDisplayUnits({});
}

TEST(Change, BeginsWithWhatTheFilmShows) {
  ChangeIdea idea;
  idea.by = -0.04;
  const Change seen = changeFrom(idea, standing(0.487, 0.01));
  EXPECT_EQ(seen.from, 0.487);
  EXPECT_NEAR(*seen.to, 0.45, 1e-9) << "to the centimetre";
  EXPECT_EQ(seen.from_sigma, 0.01);
  const Change unseen = changeFrom(idea, {});
  EXPECT_FALSE(unseen.from || unseen.to);
  EXPECT_EQ(textOf(unseen), "Stance width: 4 cm (1½ in) narrower, 2 cm (¾ in) in on each side");
}

TEST(Change, TheNextFilmTellsWhetherItWasDone) {
  const Change wider = stance(0.45, 0.52, 0.01);
  EXPECT_EQ(doneBy(wider, Measured{0.51, 0.01, 0}), Done::Yes);
  EXPECT_EQ(doneBy(wider, Measured{0.455, 0.01, 0}), Done::No);
  EXPECT_EQ(doneBy(wider, Measured{0.47, 0.01, 0}), Done::No) << "surely not all of it, and less than half";
  EXPECT_EQ(doneBy(wider, Measured{0.48, 0.03, 0}), Done::CantTell);
  EXPECT_EQ(doneBy(wider, Measured{0.40, 0.01, 0}), Done::No) << "the other way";
  EXPECT_EQ(doneBy(wider, Measured{0.52, 0.2, 0}), Done::CantTell) << "that film tells nothing";
  EXPECT_EQ(doneBy(stance({}, 0.52), Measured{0.525, 0.005, 0}), Done::Yes) << "only the goal is known";
  EXPECT_EQ(doneBy(stance({}, 0.52), Measured{0.45, 0.005, 0}), Done::No);
  Change words;
  words.to_words = "straight ahead";
  EXPECT_EQ(doneBy(words, Measured{0.5, 0.01, 0}), Done::CantTell);
}

TEST(Change, WhatItMayBringDependsOnTheWayAndTheLift) {
  const auto brings = [](const Change& c, const lifts::LiftDefinition& lift, const char* finding) {
    const auto found = sideEffectOf(c, lift).findings;
    return std::find(found.begin(), found.end(), finding) != found.end();
  };
  EXPECT_TRUE(brings(stance(0.45, 0.52), kSquat, "squat.knees_cave"));
  EXPECT_FALSE(brings(stance(0.52, 0.45), kSquat, "squat.knees_cave"));
  Change grip;
  grip.kind = ChangeKind::Grip;
  grip.to_words = "one finger wider";
  EXPECT_TRUE(brings(grip, kBench, "bench.shoulders_reach"));
  EXPECT_FALSE(brings(grip, kSquat, "bench.shoulders_reach"));
}

// Every finding a change or the book speaks of is one that is judged, or it would be watched for in vain.
TEST(Change, WatchesOnlyForWhatTheBookKnows) {
  const CueBook book = tests::must(CueBook::shipped());
  for (const lifts::LiftDefinition& lift : lifts::allLifts())
    for (const ChangeKind kind : changesFor(lift))
      for (const double by : {-1.0, 1.0}) {
        Change c;
        c.kind = kind;
        c.by = by;
        for (const std::string& finding : sideEffectOf(c, lift).findings)
          EXPECT_NE(book.entry(finding), nullptr) << finding;
      }
  for (const lifts::LiftDefinition& lift : lifts::allLifts())
    for (const CueEntry* entry : book.all(lift.id))
      for (const std::string& finding : entry->brings) EXPECT_NE(book.entry(finding), nullptr) << entry->finding;
}

TEST(Change, ComesBackFromItsFile) {
  for (Change c : {stance(0.45, 0.5, 0.01), stance({}, 0.5)}) EXPECT_EQ(changeFromJson(changeToJson(c)), c);
  Change words;
  words.kind = ChangeKind::Bar;
  words.from_words = "straight bar";
  words.to_words = "safety squat bar";
  EXPECT_EQ(changeFromJson(changeToJson(words)), words);
  for (const char* no : {"", "null", "[]", "{}", R"({"kind":"moon"})", R"({"kind":3})"})
    EXPECT_FALSE(changeFromJson(no)) << no;
  EXPECT_FALSE(changeFromJson(R"({"kind":"stance","to":"wide"})")->to) << "no number";
}

}  // namespace
}  // namespace jib::coaching
