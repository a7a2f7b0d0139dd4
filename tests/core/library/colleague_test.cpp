// SPDX-License-Identifier: GPL-3.0-or-later
// Several coaches on one library: whose turn it is, who stands in, who signs, and what stays among them.
#include "core/library/colleague.h"

#include <gtest/gtest.h>

#include <fstream>

#include "core/library/export.h"
#include "core/library/rename_coach.h"
#include "core/library/roster.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using tests::must;

constexpr const char* kToday = "2026-12-01";

CoachCard three() {
  CoachCard card;
  card.name = "Mara Quill";
  card.address = "mara@quill.invalid";
  card.colleagues = {{"Tom Reeve", "tom@reeve.invalid"}, {"Ines Dahl", "ines@dahl.invalid"}};
  return card;
}

TEST(Colleague, TheRowsOwnReviewerComesBeforeTheAthletesCoachAndNobodyIsAnybody) {
  Submission row;
  Profile athlete;
  const CoachCard card = three();
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "");
  EXPECT_TRUE(waitsFor("Tom Reeve", row, athlete, card, kToday)) << "whoever gets to it";
  athlete.coach = "Tom Reeve";
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "Tom Reeve");
  EXPECT_FALSE(waitsFor("Mara Quill", row, athlete, card, kToday));
  row.details.reviewer = "Mara Quill";
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "Mara Quill");
  row.details.reviewer = "Somebody who left";
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "") << "nothing waits for ever for who is gone";
}

TEST(Colleague, WhoIsAwayIsCoveredUntilTheLastDayAndACircleOfAbsentsIsAnybodys) {
  Submission row;
  Profile athlete;
  athlete.coach = "Tom Reeve";
  CoachCard card = three();
  card.colleagues[0].absence = {"2026-12-05", "Ines Dahl"};
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "Ines Dahl");
  EXPECT_EQ(whoseTurn(row, athlete, card, "2026-12-05"), "Ines Dahl") << "the last day away";
  EXPECT_EQ(whoseTurn(row, athlete, card, "2026-12-06"), "Tom Reeve");
  card.colleagues[1].absence = {"2026-12-03", "Mara Quill"};
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "Mara Quill");
  card.absence = {"2026-12-24", "Tom Reeve"};
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "") << "all three are away for one another";
  card.absence.covered.clear();
  EXPECT_EQ(whoseTurn(row, athlete, card, kToday), "");
}

TEST(Colleague, AnOpinionWaitsForWhoWasAskedUntilItIsGiven) {
  Submission row;
  row.details.reviewer = "Mara Quill";
  row.details.second_opinion = SecondOpinion{"Mara Quill", "Ines Dahl", "Is that depth?", ""};
  EXPECT_TRUE(waitsFor("Ines Dahl", row, {}, three(), kToday));
  EXPECT_TRUE(waitsFor("Mara Quill", row, {}, three(), kToday)) << "the reply stays with who asks";
  EXPECT_FALSE(waitsFor("Tom Reeve", row, {}, three(), kToday));
  row.details.second_opinion->answer = "Yes, by a thumb.";
  EXPECT_FALSE(waitsFor("Ines Dahl", row, {}, three(), kToday));
}

TEST(Colleague, CardAndRowComeBackFromTheLibraryAsTheyWere) {
  const tests::ScratchFolder folder;
  auto library = must(Library::open(folder / "lib"));
  CoachCard card = three();
  card.absence = {"2026-12-24", "Tom Reeve"};
  card.signature = "Kelpstone Barbell\nMondays and Thursdays";
  card.colleagues[1].absence = {"2026-12-03", ""};
  card.colleagues[1].signature = "I answer on weekends.";
  ASSERT_TRUE(library.setCoach(card));
  EXPECT_EQ(must(library.coach()), card);
  SubmissionDetails details;
  details.reviewer = "Tom Reeve";
  details.second_opinion = SecondOpinion{"Tom Reeve", "Mara Quill", "Grip?", "A finger in."};
  details.answered_by = "Tom Reeve";
  details.answered_on = kToday;
  EXPECT_EQ(detailsFromJson(detailsToJson(details)), details);
  Profile profile;
  profile.coach = "Ines Dahl";
  profile.replies_a_week = 2;
  EXPECT_EQ(profileFromJson(profileToJson(profile)), profile);
}

TEST(Colleague, WhoSitsAtTheDeskSignsAndTheCardStaysWhoseItIs) {
  const tests::ScratchFolder folder;
  auto library = must(Library::open(folder / "lib"));
  ASSERT_TRUE(library.setCoach(three()));
  EXPECT_EQ(must(library.signer()).name, "Mara Quill");
  library.seat("Tom Reeve");
  EXPECT_EQ(must(library.signer()).name, "Tom Reeve");
  EXPECT_EQ(must(library.signer()).address, "tom@reeve.invalid");
  EXPECT_EQ(signatureOf(must(library.signer())), "Tom Reeve") << "Mara's lines are not his";
  EXPECT_EQ(must(library.coach()).name, "Mara Quill");
  auto card = three();
  card.signature = "Kelpstone Barbell";
  ASSERT_TRUE(library.setCoach(card));
  library.seat("Nobody here");
  EXPECT_EQ(signatureOf(must(library.signer())), "Mara Quill\nKelpstone Barbell");
  EXPECT_EQ(must(library.signer()).name, "Mara Quill");
}

Athlete called(const char* name) {
  Athlete athlete;
  athlete.name = name;
  return athlete;
}

struct Club {
  tests::ScratchFolder folder;
  Library library = must(Library::open(folder / "lib"));
  AthleteId kit = must(library.addAthlete(called("Kit Lunde")));
  SubmissionId clip(const std::string& on, const std::string& answered_on) {
    Submission row;
    row.athlete = kit;
    row.received_on = on;
    row.lift = "squat";
    Task task;
    const auto id = must(library.addSubmission(row, folder.write(on + ".mp4", "film " + on), task));
    if (!answered_on.empty())
      must(library.edit(id, [&](Submission& s) {
        s.state = SubmissionState::Returned;
        s.details.answered_on = answered_on;
      }));
    return id;
  }
};

TEST(Colleague, TheRosterCountsRepliesOfTheWeekAndHowLongTheyUsuallyTake) {
  Club c;
  c.clip("2026-11-01", "2026-11-09");
  c.clip("2026-11-23", "2026-11-25");
  c.clip("2026-11-28", "2026-12-01");
  c.clip("2026-11-30", "");
  const auto rows = must(c.library.roster(kToday));
  ASSERT_EQ(rows.size(), 1u);
  EXPECT_EQ(rows[0].answered_this_week, 2) << "seven days, today among them";
  ASSERT_TRUE(rows[0].usual_days);
  EXPECT_EQ(*rows[0].usual_days, 3) << "of 8, 2 and 3 days the middle one";
  EXPECT_EQ(must(c.library.answeredSince(c.kit, "2026-11-26")), 1);
}

TEST(Colleague, OneAthletesClipsAreTheirsAloneLatestFirst) {
  Club c;
  const auto early = c.clip("2026-11-01", ""), late = c.clip("2026-11-23", "");
  c.kit = must(c.library.addAthlete(called("Odo Marsh")));
  c.clip("2026-11-05", "");
  const auto kits = must(c.library.submissionsOf(must(c.library.submission(early)).athlete));
  ASSERT_EQ(kits.size(), 2u);
  EXPECT_EQ(kits[0].id, late);
  EXPECT_EQ(kits[1].id, early);
}

TEST(Colleague, ACoachWhoIsCalledSomethingElseKeepsWhatWasTheirs) {
  Club c;
  const auto id = c.clip("2026-11-30", "");
  must(c.library.edit(c.kit, [](Athlete& a) { a.profile.coach = "Tom Reeve"; }));
  must(c.library.edit(id, [](Submission& s) {
    s.details.reviewer = "Tom Reeve";
    s.details.answered_by = "Tom Reeve";
    s.details.second_opinion = SecondOpinion{"Tom Reeve", "Mara Quill", "Grip?", ""};
  }));
  must(renameCoach(c.library, "Tom Reeve", "Tom Dahl"));
  EXPECT_EQ(must(c.library.athlete(c.kit)).profile.coach, "Tom Dahl");
  const auto details = must(c.library.submission(id)).details;
  EXPECT_EQ(details.reviewer, "Tom Dahl");
  EXPECT_EQ(details.second_opinion->by, "Tom Dahl");
  EXPECT_EQ(details.second_opinion->of, "Mara Quill");
  EXPECT_EQ(details.answered_by, "Tom Reeve") << "as it was signed";
}

TEST(Colleague, WhatCoachesAskOneAnotherIsNotAmongWhatAnAthleteGets) {
  Club c;
  const auto id = c.clip("2026-11-30", "");
  must(c.library.edit(id, [](Submission& s) {
    s.details.second_opinion = SecondOpinion{"Tom", "Mara", "zzz question", "zzz answer"};
  }));
  Task task;
  ASSERT_TRUE(exportAthlete(c.library, c.kit, c.folder / "out", task));
  EXPECT_EQ(tests::bytesOf(c.folder / "out" / "athlete.json").find("zzz"), std::string::npos);
}

}  // namespace
}  // namespace jib::library
