// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/reports/progress_page.h"

#include <gtest/gtest.h>

#include "core/review/progress_sheet.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::exchange {
namespace {

using tests::must;

ProgressStep step() {
  ProgressStep s;
  s.title = "Hips <first>";
  s.state = "Done: inside the goal.";
  s.then = "1.4 ± 0.1";
  s.now = "1.1 ± 0.1";
  s.unit = "ratio";
  s.limit = 1.2;
  s.course = {{"2026-01-01", 1.4, 0.1, true}, {"2026-02-01", 2.0, 0.1, false}, {"2026-03-02", 1.1, 0.1, true}};
  return s;
}

TEST(ProgressPage, DrawsTheCourseAndJoinsOnlyWhatCompares) {
  const std::string svg = courseSvg(step());
  const std::size_t line = svg.find("points=\"");
  const std::string joined = svg.substr(line + 8, svg.find('"', line + 8) - line - 8);
  EXPECT_EQ(std::count(joined.begin(), joined.end(), ','), 2) << joined;
  EXPECT_EQ(svg.find("<first>"), std::string::npos) << "a title is text";
  // The first day at the left edge, the last at the right; half the time in between lies half-way.
  EXPECT_NE(svg.find("cx=\"34.0\""), std::string::npos) << svg;
  EXPECT_NE(svg.find("cx=\"310.0\""), std::string::npos) << svg;
  ProgressStep alone = step();
  alone.course.resize(1);
  EXPECT_TRUE(courseSvg(alone).empty());
}

TEST(ProgressPage, HoldsThenAndNowAndNoPictureThatIsNotThere) {
  ProgressPage page;
  page.athlete = "Ola Marsh";
  page.coach = "Mara Quill";
  page.steps = {step()};
  page.steps[0].now_jpeg = "bytes";
  page.next = {"Chest falls: Drive your upper back into the bar."};
  const std::string html = progressToHtml(page);
  EXPECT_NE(html.find("1.4 ± 0.1 → 1.1 ± 0.1"), std::string::npos);
  EXPECT_EQ(html.find("<img"), html.rfind("<img")) << "one picture, as there is one";
  EXPECT_NE(html.find("What's next"), std::string::npos);
  EXPECT_EQ(html.find("<h2>Meets"), std::string::npos) << "none were lifted";
}

// An athlete with one cue that was asked, and measured again four weeks later.
struct Asked {
  tests::ScratchFolder folder;
  library::Library library = must(library::Library::open(folder / "lib"));
  library::AthleteId ola{0};
  library::SubmissionId then{0}, now{0};

  explicit Asked(bool measured_again) {
    library::Athlete a;
    a.name = "Ola Marsh";
    a.note = "my own words";
    library::Meet meet;
    meet.on = "2026-02-14";
    meet.name = "Winter Open";
    meet.attempts[0] = {{100, true}};
    a.profile.meets = {meet};
    ola = must(library.addAthlete(a));
    then = clip("2026-01-05");
    library::CueThread t;
    t.athlete = ola;
    t.asked_in = then;
    t.asked_on = "2026-01-06";
    t.review_on = "2026-02-01";
    t.finding = "squat.chest_drops";
    t.measure = "trunk_lean_gain_deg";
    t.title = "Chest falls";
    t.wording = "Drive your upper back into the bar.";
    t.value_then = 12;
    t.sigma_then = 1;
    library::Library::Return back;
    back.id = then;
    back.asked = {t};
    must(library.returnReview(back));
    if (!measured_again) return;
    now = clip("2026-02-20");
    auto threads = must(library.threads(ola));
    threads[0].value_now = 4;
    threads[0].sigma_now = 1;
    threads[0].measured_in = now;
    threads[0].measured_on = "2026-02-20";
    threads[0].state = library::ThreadState::Met;
    must(library.saveMeasuredNow(threads));
  }
  library::SubmissionId clip(const char* day) {
    library::Submission s;
    s.athlete = ola;
    s.received_on = day;
    s.lift = "squat";
    s.variant = "low-bar";
    s.load_kg = 100;
    Task task;
    const auto id = must(library.addSubmission(s, folder.write(std::string(day) + ".mp4", day), task));
    must(library.saveResults(id, tests::smallAnalysis()));
    return id;
  }
};

TEST(ProgressSheet, GathersWhatWasAskedAndWhatBecameOfIt) {
  Asked ola(true);
  const auto draft = must(review::progressOf(ola.library, ola.ola, "2026-03-01"));
  ASSERT_EQ(draft.page.steps.size(), 1u);
  const ProgressStep& s = draft.page.steps[0];
  EXPECT_EQ(s.state, "Done: inside the goal.");
  EXPECT_EQ(s.now_on, "20 Feb 2026");
  EXPECT_EQ(s.course.size(), 2u);
  EXPECT_TRUE(s.limit);
  ASSERT_TRUE(draft.frames[0][0] && draft.frames[0][1]);
  EXPECT_EQ(draft.frames[0][0]->film.id, ola.then);
  EXPECT_EQ(draft.frames[0][1]->film.id, ola.now);
  ASSERT_EQ(draft.page.meets.size(), 1u);
  const std::string html = progressToHtml(draft.page);
  EXPECT_EQ(html.find("my own words"), std::string::npos) << "the coach's note stays here";
}

TEST(ProgressSheet, WhatWasAskedAgainCountsFromTheFirstTime) {
  Asked ola(true);
  auto again = must(ola.library.threads(ola.ola)).at(0);
  again.asked_in = ola.now;
  again.asked_on = "2026-02-10";
  again.value_then = 6;
  library::Library::Return back;
  back.id = ola.now;
  back.asked = {again};
  must(ola.library.returnReview(back));
  auto threads = must(ola.library.threads(ola.ola));
  ASSERT_EQ(threads.size(), 2u);
  for (auto& t : threads) {
    t.value_now = 4;
    t.sigma_now = 1;
    t.measured_in = ola.now;
    t.measured_on = "2026-02-20";
    t.state = library::ThreadState::Met;
  }
  must(ola.library.saveMeasuredNow(threads));
  const auto draft = must(review::progressOf(ola.library, ola.ola, "2026-03-01"));
  ASSERT_EQ(draft.page.steps.size(), 1u) << "one thing, asked twice";
  EXPECT_EQ(draft.page.since, "6 Jan 2026");
  EXPECT_EQ(draft.frames[0][0]->film.id, ola.then);
}

TEST(ProgressSheet, IsNotMadeOfNothingAndTellsTheYoungNothingOfMeets) {
  Asked waiting(false);
  EXPECT_EQ(review::progressOf(waiting.library, waiting.ola, "2026-03-01").error().code, ErrorCode::CannotJudge);
  Asked young(true);
  must(young.library.edit(young.ola, [](library::Athlete& a) { a.profile.birth_year = 2012; }));
  EXPECT_TRUE(must(review::progressOf(young.library, young.ola, "2026-03-01")).page.meets.empty());
}

}  // namespace
}  // namespace jib::exchange
