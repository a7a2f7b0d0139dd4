// SPDX-License-Identifier: GPL-3.0-or-later
// Two films of one set judged as one: what each view carries comes from it, in one time.
#include "core/coaching/two_films.h"

#include <gtest/gtest.h>

#include "core/coaching/style_book.h"
#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

constexpr double kLater_s = 3.4;  // the same moment in the other film

const lifts::MeasureDefinition& knee() {
  return *lifts::measureDefinition("knee_gap_fall_pct");
}

// What a film from the front would tell of the small clip's set: knees that come in by a quarter, and a depth it cannot
// know.
std::shared_ptr<const Analysis> fromFront(std::size_t reps = 2) {
  auto other = std::make_shared<Analysis>(tests::smallAnalysis());
  tracing::FrontTrace front;
  front.facing = tracing::Facing::Front;
  other->trace.front = std::make_shared<const tracing::FrontTrace>(front);
  other->reps.resize(std::min(reps, other->reps.size()));
  other->measures = {};
  for (motion::Rep& rep : other->reps) {
    for (motion::Event& e : rep.events) e.t_s += kLater_s;
    lifts::MeasureList list;
    list.push_back({&knee(), lifts::Measured{25, 3, rep.bottom_t()}});
    list.push_back({lifts::measureDefinition("stroke_m"), lifts::Measured{9.9, 0.1, rep.bottom_t()}});
    other->measures.reps.push_back(std::move(list));
  }
  return other;
}

Analysis joined(std::size_t reps = 2, double offset_s = kLater_s) {
  Analysis a = tests::smallAnalysis();
  a.others = {{fromFront(reps), offset_s, {}}};
  judgeAgain(a, *shippedStyle("balanced"), *CueBook::shipped());
  return a;
}

TEST(TwoFilms, WhatTheSideCannotShowComesFromTheFrontInThisClipsTime) {
  const Analysis a = joined();
  ASSERT_EQ(a.reps.size(), 2u);
  for (std::size_t i = 0; i < 2; ++i) {
    const auto* m = lifts::find(a.measures.reps[i], knee().id);
    ASSERT_TRUE(m && m->measured());
    EXPECT_EQ(m->measured()->value, 25);
    EXPECT_NEAR(m->measured()->t_s, a.reps[i].bottom_t(), 1e-9);
    // What this film measures itself stays its own.
    EXPECT_LT(lifts::find(a.measures.reps[i], "stroke_m")->measured()->value, 1);
  }
  EXPECT_TRUE(isJoined(a));
  EXPECT_EQ(filmOf(a, knee().id), &a.others[0]);
  EXPECT_EQ(filmOf(a, "stroke_m"), nullptr);
  EXPECT_EQ(filmToDrawOn(a, lifts::Drawing::Sides), &a.others[0]);
  EXPECT_EQ(filmToDrawOn(a, lifts::Drawing::Depth), nullptr);
  EXPECT_EQ(filmToDrawOn(a, lifts::Drawing::None), nullptr);
}

TEST(TwoFilms, TheFrontsFindingIsJudgedWithTheSidesAndHasCauses) {
  const Analysis a = joined();
  const auto at =
      std::find_if(a.findings.begin(), a.findings.end(), [](const auto& f) { return f.id == "squat.knees_cave"; });
  ASSERT_NE(at, a.findings.end());
  EXPECT_EQ(at->verdict, Verdict::Yes);
  EXPECT_EQ(at->reps, (std::vector<int>{1, 2}));
  EXPECT_FALSE(at->rivals.empty()) << "the side view helps to tell the causes apart";
  const auto sides = std::count_if(a.findings.begin(), a.findings.end(),
                                   [](const auto& f) { return f.id == "squat.knees_slide_back"; });
  EXPECT_EQ(sides, 1) << "and what the side shows is still there";
  EXPECT_TRUE(std::any_of(a.notices.begin(), a.notices.end(), [](const auto& n) { return n.id == "two_films"; }));
}

TEST(TwoFilms, ARepTheOtherFilmDoesNotHoldIsAbsentThereAndKeepsItsRow) {
  const Analysis a = joined(1);
  ASSERT_TRUE(lifts::find(a.measures.reps[0], knee().id)->measured());
  const auto* second = lifts::find(a.measures.reps[1], knee().id);
  ASSERT_NE(second, nullptr) << "every rep has the same rows";
  EXPECT_FALSE(second->measured());
  EXPECT_EQ(std::get<lifts::Absent>(second->measure).reason, "This rep is not in the other clip.");
  EXPECT_EQ(a.measures.reps[0].size(), a.measures.reps[1].size());
}

TEST(TwoFilms, OfAnotherTimeShareNothing) {
  const Analysis a = joined(2, 60);
  EXPECT_FALSE(isJoined(a));
  EXPECT_EQ(lifts::find(a.measures.reps[0], knee().id), nullptr);
  EXPECT_EQ(filmToDrawOn(a, lifts::Drawing::Sides), nullptr);
  // And a film that is alone again is as it was.
  Analysis alone = joined();
  alone.others.clear();
  judgeAgain(alone, *shippedStyle("balanced"), *CueBook::shipped());
  EXPECT_EQ(lifts::find(alone.measures.reps[0], knee().id), nullptr);
}

TEST(TwoFilms, WhatThisFilmCouldNotAnswerIsFilledFromTheOther) {
  Analysis a = tests::smallAnalysis();
  auto other = std::make_shared<Analysis>(*fromFront());
  const auto* mine = lifts::find(a.measures.reps[0], "stroke_m");
  ASSERT_TRUE(mine->measured());
  a.others = {{other, kLater_s, {}}};
  for (auto& list : a.measures.reps)
    for (auto& m : list)
      if (m.kind->id == "stroke_m") m.measure = lifts::Absent{"hidden"};
  joinOthers(a);
  EXPECT_EQ(lifts::find(a.measures.reps[0], "stroke_m")->measured()->value, 9.9);
  EXPECT_EQ(filmOf(a, "stroke_m"), &a.others[0]);
}

TEST(ThreeFilms, EachMeasureComesFromTheFirstThatAnswersIt) {
  const auto& tilt = *lifts::measureDefinition("bar_tilt_max_deg");
  auto rear = std::make_shared<Analysis>(*fromFront());
  for (auto& list : rear->measures.reps) {
    list[0].measure = lifts::Measured{50, 3, 1};  // of the knees, which the front told already
    list.push_back({&tilt, lifts::Measured{2, 0.2, 1}});
  }
  Analysis a = tests::smallAnalysis();
  a.others = {{fromFront(), kLater_s, {}}, {rear, kLater_s, {}}};
  joinOthers(a);
  EXPECT_EQ(lifts::find(a.measures.reps[0], knee().id)->measured()->value, 25);
  EXPECT_EQ(filmOf(a, knee().id), &a.others[0]);
  EXPECT_EQ(lifts::find(a.measures.reps[0], tilt.id)->measured()->value, 2);
  EXPECT_EQ(filmOf(a, tilt.id), &a.others[1]);
}

// The other camera was started later and missed the first rep, or saw one more.
TEST(TwoFilms, TheirRepsTellHowFarApartTheirTimesAre) {
  Analysis a = tests::smallAnalysis(), b = tests::smallAnalysis();
  a.reps = {motion::loweredAndRaised(1, 2, 2.1, 3, 0.6), motion::loweredAndRaised(4, 5.2, 5.3, 6.5, 0.6),
            motion::loweredAndRaised(8, 9, 9.1, 10, 0.6)};
  b.reps = a.reps;
  for (motion::Rep& rep : b.reps)
    for (motion::Event& e : rep.events) e.t_s += kLater_s;
  EXPECT_NEAR(*offsetByReps(a, b), kLater_s, 1e-9);
  EXPECT_NEAR(*offsetByReps(b, a), -kLater_s, 1e-9);
  b.reps.erase(b.reps.begin());
  EXPECT_NEAR(*offsetByReps(a, b), kLater_s, 1e-9) << "the rhythm of the two that are left";
  b.reps.clear();
  EXPECT_FALSE(offsetByReps(a, b));
}

}  // namespace
}  // namespace jib::coaching
