// SPDX-License-Identifier: GPL-3.0-or-later
// Which set a new one is held against, and when a number has changed.
#include "core/library/last_time.h"

#include <gtest/gtest.h>

#include "tests/core/analysed_clip.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

struct Kept {
  tests::ScratchFolder folder;
  Library library = *Library::open(folder / "lib");
  AthleteId ola = *library.addAthlete({AthleteId(0), "Ola Marsh", "", "balanced"});

  Submission add(const std::string& day, const std::string& lift, bool measured) {
    Submission s;
    s.athlete = ola;
    s.received_on = day;
    s.lift = lift;
    Task task;
    s.id = *library.addSubmission(s, JIB_MADE_CLIP, task);
    if (measured) {
      EXPECT_TRUE(library.saveResults(s.id, tests::smallAnalysis()));
    }
    return s;
  }
};

TEST(LastTime, IsTheLatestEarlierSetOfTheSameLiftThatWasMeasured) {
  Kept k;
  const Submission first = k.add("2026-01-05", "squat", true);
  k.add("2026-01-12", "deadlift", true);
  k.add("2026-01-19", "squat", false);
  const Submission now = k.add("2026-02-02", "squat", true);
  k.add("2026-03-02", "squat", true);
  const auto last = *lastTime(k.library, now);
  ASSERT_TRUE(last);
  EXPECT_EQ(last->submission.id, first.id);
  EXPECT_FALSE(*lastTime(k.library, first)) << "there was none before";

  // Its numbers are the mean of the reps', as sure as the least sure of them.
  const auto& a = tests::smallAnalysis();
  double sum = 0, sigma = 0;
  for (const auto& rep : a.measures.reps) {
    const auto* m = lifts::find(rep, "stroke_m")->measured();
    sum += m->value / static_cast<double>(a.measures.reps.size());
    sigma = std::max(sigma, m->sigma);
  }
  EXPECT_NEAR(last->mean.at("stroke_m").value, sum, 1e-9);
  EXPECT_NEAR(last->mean.at("stroke_m").sigma, sigma, 1e-9);
}

TEST(LastTime, AChangeIsMoreThanWhatIsUncertain) {
  EXPECT_TRUE(changed({0.10, 0.01, 0}, {0.07, 0.01, 0}));
  EXPECT_FALSE(changed({0.10, 0.01, 0}, {0.08, 0.01, 0})) << "two centimetres, each give or take one";
  EXPECT_TRUE(changed({0.08, 0.001, 0}, {0.10, 0.001, 0})) << "either way";
}

TEST(Results, AreThoseOfOneSetRepByRepAndItsOwnLast) {
  Kept k;
  const Submission s = k.add("2026-01-05", "squat", true);
  k.add("2026-01-06", "squat", true);
  const auto results = *k.library.results(s.id);
  const auto& stroke = results.at("stroke_m");
  ASSERT_EQ(stroke.size(), tests::smallAnalysis().reps.size());
  for (std::size_t i = 0; i < stroke.size(); ++i) EXPECT_EQ(stroke[i].rep, static_cast<int>(i + 1));
  EXPECT_TRUE(k.library.results(SubmissionId(999))->empty());
}

TEST(Review, KeepsBookmarksAndHowTheDeskStood) {
  Kept k;
  const Submission s = k.add("2026-01-05", "squat", false);
  Review review;
  review.bookmarks = {{2.5, "knees", "squat.knees_cave"}};
  review.looked = true;
  review.desk = R"({"speed": 0.5})";
  ASSERT_TRUE(k.library.saveReview(s.id, review));
  const auto back = *k.library.review(s.id);
  EXPECT_EQ(back.bookmarks, review.bookmarks);
  EXPECT_TRUE(back.looked);
  EXPECT_EQ(back.desk, review.desk);
}

TEST(SidesBefore, CountsEarlierSetsBySideAndNotTheOtherFilmOfThisOne) {
  Kept k;
  // A set whose bar tilts by `degrees` in each rep.
  const auto tilted = [&](const std::string& day, double degrees) {
    Submission s = k.add(day, "squat", false);
    coaching::Analysis a = tests::smallAnalysis();
    const auto* kind = lifts::measureDefinition("bar_tilt_max_deg");
    for (auto& rep : a.measures.reps) rep.push_back({kind, lifts::Measured{degrees, 0.2, 1}});
    coaching::Finding f;
    f.id = "squat.bar_tilts";
    f.kind = kind;
    f.verdict = coaching::Verdict::Yes;
    f.worst = {degrees, 0.2, 1};
    a.findings.push_back(f);
    EXPECT_TRUE(k.library.saveResults(s.id, a));
    EXPECT_TRUE(k.library.saveFindings(s.id, a.findings));
    return s;
  };
  const auto before = [&](const Submission& now) {
    return *k.library.sidesBefore(now, "squat.bar_tilts", "bar_tilt_max_deg");
  };
  const Submission first = tilted("2026-01-05", 4);
  EXPECT_EQ(before(first), (std::array{0, 0}));
  tilted("2026-01-12", -4);
  Submission now = tilted("2026-02-02", 4);
  tilted("2026-03-02", 4);  // later
  EXPECT_EQ(before(now), (std::array{1, 1}));
  now.pair = first.id;
  EXPECT_EQ(before(now), (std::array{1, 0}));
  now.pair.reset();
  Submission third = first;
  third.pair = now.id;
  ASSERT_TRUE(k.library.edit(third.id, [&](auto& row_now) { row_now = third; }));
  EXPECT_EQ(before(now), (std::array{1, 0})) << "linked from the other side";
}

}  // namespace
}  // namespace jib::library
