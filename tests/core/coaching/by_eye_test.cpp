// SPDX-License-Identifier: GPL-3.0-or-later
// What only a person can judge, and limits that belong to one variant.
#include <gtest/gtest.h>

#include "core/library/follow_up.h"
#include "core/library/review_store.h"
#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

const Style kStyle = *shippedStyle("balanced");
const CueBook kBook = *CueBook::shipped();

Mark markFor(const char* check, bool there) {
  return {check, there ? MarkState::Seen : MarkState::Fine, 0, 2.0};  // of the set
}

Analysis judgedByEye(const Marks& seen) {
  Analysis a = tests::smallAnalysis();
  a.request.marks = seen;
  judgeAgain(a, kStyle, kBook);
  return a;
}

const Finding* findingOf(const Analysis& a, std::string_view id) {
  for (const Finding& f : a.findings)
    if (f.id == id) return &f;
  return nullptr;
}

TEST(ByEye, TheBookSaysWhatToLookAtAndWhere) {
  const auto checks = kBook.byEye(lifts::LiftId::Squat);
  ASSERT_GE(checks.size(), 6u);
  for (std::size_t i = 0; i < checks.size(); ++i) {
    EXPECT_FALSE(checks[i]->look.empty());
    // Elbows and steps are measured where they are seen, which is seldom; all else here never is.
    const bool seldom = checks[i]->finding == "squat.elbows_move" || checks[i]->finding == "squat.unrack_loose";
    EXPECT_EQ(kStyle.limit(checks[i]->finding) != nullptr, seldom) << checks[i]->finding;
    if (i > 0) {
      EXPECT_LE(checks[i - 1]->link, checks[i]->link) << "along the chain of the lift";
    }
  }
}

TEST(ByEye, AMarkBecomesAFindingACueAndAThread) {
  const Analysis a = judgedByEye({markFor("squat.unrack_loose", true), markFor("squat.eyes_on_floor", false)});
  const Finding* loose = findingOf(a, "squat.unrack_loose");
  ASSERT_NE(loose, nullptr);
  EXPECT_EQ(loose->verdict, Verdict::Yes);
  EXPECT_EQ(findingOf(a, "squat.pelvis_tucks"), nullptr) << "not looked at";
  ASSERT_FALSE(a.proposal.cues.empty());
  EXPECT_EQ(a.proposal.cues[0].finding, "squat.unrack_loose") << "the earliest link of the chain";
  EXPECT_NE(a.proposal.cues[0].why_first.find("by you"), std::string::npos);
  EXPECT_FALSE(a.proposal.change_nothing);
  const auto& keep = a.proposal.keep;
  EXPECT_NE(std::find(keep.begin(), keep.end(), "Head stays still."), keep.end());

  library::Submission asked, later;
  asked.id = library::SubmissionId(1);
  asked.received_on = "2026-09-01";
  later.id = library::SubmissionId(2);
  later.received_on = "2026-10-01";
  const auto threads = library::threadsFor(asked, a.proposal.cues, "2026-09-01");
  EXPECT_EQ(library::measuredNow(threads, later, judgedByEye({}), kStyle)[0].state, library::ThreadState::Asked);
  EXPECT_EQ(library::measuredNow(threads, later, judgedByEye({markFor("squat.unrack_loose", true)}), kStyle)[0].state,
            library::ThreadState::NotYet);
  EXPECT_EQ(library::measuredNow(threads, later, judgedByEye({markFor("squat.unrack_loose", false)}), kStyle)[0].state,
            library::ThreadState::Met);
}

TEST(ByEye, TheEyeHasTheLastWordOverAMeasure) {
  Style strict = kStyle;
  for (Limit& l : strict.limits)
    if (l.finding == "squat.too_high") l.limit = -0.5;
  Analysis a = tests::smallAnalysis();
  judgeAgain(a, strict, kBook);
  ASSERT_EQ(findingOf(a, "squat.too_high")->verdict, Verdict::Yes);
  a.request.marks = {markFor("squat.too_high", false)};
  judgeAgain(a, strict, kBook);
  ASSERT_NE(findingOf(a, "squat.too_high"), nullptr);
  EXPECT_TRUE(findingOf(a, "squat.too_high")->by_eye);
  EXPECT_EQ(findingOf(a, "squat.too_high")->verdict, Verdict::No);
  EXPECT_EQ(std::count_if(a.findings.begin(), a.findings.end(), [](const auto& f) { return f.id == "squat.too_high"; }),
            1);
}

TEST(ByEye, MarksAreKeptWithTheReview) {
  library::Review review;
  review.marks = {markFor("squat.pelvis_tucks", true), {"own.Grip", MarkState::CouldNotSee, 2, 3.25}};
  EXPECT_EQ(library::reviewFromJson(library::reviewToJson(review))->marks, review.marks);
}

TEST(ByEye, MarksOfOlderReviewsAreReadAndStandAtTheBottom) {
  const auto review = library::reviewFromJson(R"({"placed": [], "cues": [], "by_eye": {"squat.pelvis_tucks": true}})");
  ASSERT_TRUE(review);
  ASSERT_EQ(review->marks.size(), 1u);
  const Analysis a = judgedByEye(review->marks);
  ASSERT_NE(findingOf(a, "squat.pelvis_tucks"), nullptr);
  EXPECT_EQ(findingOf(a, "squat.pelvis_tucks")->worst.t_s, a.reps.front().bottom_t());
}

TEST(ByEye, SaysInWhichRepsAndShowsTheFrameTheCoachLookedAt) {
  const Marks marks{{"squat.pelvis_tucks", MarkState::Fine, 1, 2.0},
                    {"squat.pelvis_tucks", MarkState::Seen, 2, 5.5},
                    {"squat.eyes_on_floor", MarkState::CouldNotSee, 1, 2.0}};
  const Analysis a = judgedByEye(marks);
  const Finding* tucks = findingOf(a, "squat.pelvis_tucks");
  ASSERT_NE(tucks, nullptr);
  EXPECT_EQ(tucks->verdict, Verdict::Yes);
  EXPECT_EQ(tucks->reps, std::vector<int>{2});
  EXPECT_EQ(tucks->worst.t_s, 5.5);
  EXPECT_EQ(findingOf(a, "squat.eyes_on_floor"), nullptr) << "what could not be seen says nothing";
}

TEST(Findings, ThatTheCoachDoesNotShareAreInNothingThatIsSaid) {
  Analysis a = judgedByEye({markFor("squat.unrack_loose", true)});
  ASSERT_FALSE(a.proposal.cues.empty());
  a.request.rejected["squat.unrack_loose"] = "The clip misleads here";
  judgeAgain(a, kStyle, kBook);
  EXPECT_EQ(findingOf(a, "squat.unrack_loose"), nullptr);
  ASSERT_EQ(a.rejected.size(), 1u) << "it stays in the coach's sight";
  for (const Cue& cue : a.proposal.cues) EXPECT_NE(cue.finding, "squat.unrack_loose");
}

TEST(Variant, AShortPauseIsAFaultOfPausedWorkOnly) {
  Analysis a = tests::smallAnalysis();
  EXPECT_EQ(findingOf(a, "squat.pause_short"), nullptr);
  a.request.variant = "paused";
  judgeAgain(a, kStyle, kBook);
  ASSERT_NE(findingOf(a, "squat.pause_short"), nullptr);
  EXPECT_EQ(findingOf(a, "squat.pause_short")->verdict, Verdict::Yes) << "the clip's reps turn at once";
}

}  // namespace
}  // namespace jib::coaching
