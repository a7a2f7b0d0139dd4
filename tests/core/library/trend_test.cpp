// SPDX-License-Identifier: GPL-3.0-or-later
// The course of a measure: like joined to like, one point a set, and a cue that is dropped and comes back.
#include "core/library/trend.h"

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "tests/core/analysed_clip.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

constexpr const char* kLean = "trunk_lean_bottom_deg";

struct Course {
  tests::ScratchFolder folder;
  Library library = *Library::open(folder / "lib");
  AthleteId ola = *library.addAthlete({AthleteId(0), "Ola Marsh", "", "balanced"});

  // A squat whose trunk leans by `more` than the small clip's, in every rep.
  Submission add(const std::string& day, double more, double load_kg = 100, const std::string& variant = "low-bar",
                 std::optional<SubmissionId> pair = {}, double sigma = 1.0) {
    Submission s;
    s.athlete = ola;
    s.received_on = day;
    s.lift = "squat";
    s.variant = variant;
    s.load_kg = load_kg;
    s.pair = pair;
    Task task;
    s.id = *library.addSubmission(s, JIB_MADE_CLIP, task);
    coaching::Analysis a = tests::smallAnalysis();
    a.request.variant = variant;
    for (auto& rep : a.measures.reps)
      for (auto& m : rep)
        if (auto* measured = std::get_if<lifts::Measured>(&m.measure); measured && m.kind->id == kLean) {
          measured->value += more;
          measured->sigma = sigma;
        }
    EXPECT_TRUE(library.saveResults(s.id, a));
    return s;
  }
  std::vector<TrendPoint> lean() { return *trendOf(library, ola, kLean, "squat"); }
};

TEST(Trend, JoinsLikeToLikeOverTimeAndSaysWhatChanged) {
  Course c;
  c.add("2026-01-05", 8);
  c.add("2026-03-02", 0);
  c.add("2026-02-02", 4);
  const auto points = c.lean();
  ASSERT_EQ(points.size(), 3u);
  EXPECT_EQ(points[1].on, "2026-02-02") << "by day, not as they came in";
  for (const auto& p : points) EXPECT_EQ(p.group, 1);
  const auto change = changeOver(points);
  EXPECT_EQ(change.change, Change::Less);
  EXPECT_NEAR(change.difference, -8, 1e-9);
  EXPECT_EQ(change.from.on, "2026-01-05");
}

TEST(Trend, ALighterSetAnotherVariationAndAnotherAngleAreNoChange) {
  Course c;
  c.add("2026-01-05", 8);
  c.add("2026-01-12", 0, 70);
  c.add("2026-01-19", 0, 100, "high-bar");
  const auto points = c.lean();
  ASSERT_EQ(points.size(), 3u);
  EXPECT_NE(points[0].group, points[1].group);
  EXPECT_NE(points[0].group, points[2].group);
  EXPECT_EQ(changeOver(points).change, Change::None) << "nothing like the latest came before";
  c.add("2026-02-02", 7.5);
  const auto later = c.lean();
  EXPECT_EQ(later.back().group, later.front().group) << "the line goes on where it left off";
  EXPECT_EQ(changeOver(later).change, Change::NoneSeen);
}

TEST(Trend, AnotherFilmOfTheSameSetIsNoSecondPoint) {
  Course c;
  const Submission first = c.add("2026-01-05", 8, 100, "low-bar", {}, 2.0);
  const Submission surer = c.add("2026-01-05", 3, 100, "low-bar", first.id, 0.8);
  const auto points = c.lean();
  ASSERT_EQ(points.size(), 1u);
  EXPECT_EQ(points[0].submission, surer.id) << "the one that measures more surely counts";
  EXPECT_EQ(changeOver(points).change, Change::None);
}

TEST(Trend, TwoSetsOfOneDayShowNoCourse) {
  Course c;
  c.add("2026-01-05", 8);
  c.add("2026-01-05", 0);
  EXPECT_EQ(changeOver(c.lean()).change, Change::None);
}

TEST(Trend, KnowsFromWhereAClipWasFilmed) {
  Course c;
  const Submission s = c.add("2026-01-05", 0);
  const auto as = *c.library.filmedAs(s);
  const auto film = coaching::filmedAs(tests::smallAnalysis());
  EXPECT_EQ(as.view, film.view);
  EXPECT_FALSE(as.view.empty());
  EXPECT_NEAR(*as.turned_deg, *film.turned_deg, 1e-9);
  EXPECT_EQ(as.load_kg, 100.0);
}

TEST(Trend, OffersWhatAtLeastTwoClipsHave) {
  Course c;
  c.add("2026-01-05", 8);
  EXPECT_TRUE(trendChoices(c.library, c.ola)->empty());
  c.add("2026-01-12", 8);
  const auto choices = *trendChoices(c.library, c.ola);
  EXPECT_TRUE(std::any_of(choices.begin(), choices.end(), [](const TrendChoice& t) {
    return t.lift == "squat" && t.measure == kLean && t.clips == 2;
  }));
}

TEST(Trend, IsWrittenAsRowsAndAsJson) {
  Course c;
  c.add("2026-01-05", 8);
  c.add("2026-01-12", 0, 70);
  const std::string text = trendToText(c.lean());
  EXPECT_TRUE(text.starts_with("date\tsubmission\tview\tvariant\tload_kg\treps\tvalue\tsigma\tgroup\n")) << text;
  EXPECT_EQ(std::count(text.begin(), text.end(), '\n'), 3);
  EXPECT_NE(text.find("\t70\t"), std::string::npos);
  const auto json = nlohmann::json::parse(trendToJson(kLean, c.lean()));
  EXPECT_EQ(json["schema"], "jagged-jib/trend");
  EXPECT_EQ(json["points"].size(), 2u);
  EXPECT_EQ(json["points"][1]["load_kg"], 70);
}

TEST(CueThreads, OneThatIsDroppedKeepsItsReasonAndComesBack) {
  Course c;
  const Submission s = c.add("2026-01-05", 8);
  CueThread t;
  t.athlete = c.ola;
  t.asked_in = s.id;
  t.asked_on = "2026-01-05";
  t.review_on = "2026-01-26";
  t.finding = "squat.chest_drops";
  t.title = "Chest falls";
  t.wording = "Chest up.";
  Library::Return back;
  back.id = s.id;
  back.asked = {t};
  ASSERT_TRUE(c.library.returnReview(back));
  const auto id = c.library.threads(c.ola)->at(0).id;
  ASSERT_TRUE(c.library.dropThread(id, "shoulder first"));
  EXPECT_EQ(c.library.threads(c.ola)->at(0).state, ThreadState::Dropped);
  EXPECT_EQ(c.library.threads(c.ola)->at(0).dropped_why, "shoulder first");
  ASSERT_TRUE(c.library.resumeThread(id));
  EXPECT_EQ(c.library.threads(c.ola)->at(0).state, ThreadState::Asked);
  EXPECT_TRUE(c.library.threads(c.ola)->at(0).dropped_why.empty());
  EXPECT_FALSE(c.library.dropThread(CueThreadId(999), "")) << "one that is gone";
}

}  // namespace
}  // namespace jib::library
