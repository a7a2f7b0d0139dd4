// SPDX-License-Identifier: GPL-3.0-or-later
// From which load on a fault shows, day by day.
#include "core/library/load_shown.h"

#include <gtest/gtest.h>

#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using tests::must;
using Day = Library::ShownOn;

Day shown(const char* on, double kg) {
  return {on, kg, {}, SubmissionId(1)};
}
Day clean(const char* on, double kg) {
  return {on, {}, kg, SubmissionId(1)};
}

TEST(LoadShown, OneDayIsNoCourse) {
  EXPECT_EQ(loadShownText({}), "");
  EXPECT_EQ(loadShownText({shown("2026-05-04", 150)}), "");
}

TEST(LoadShown, TellsHowTheLoadHasMovedAndWhenItWasGone) {
  EXPECT_EQ(loadShownText({shown("2026-05-04", 150), shown("2026-06-01", 150), shown("2026-08-02", 165),
                           clean("2026-11-03", 170)}),
            "Shows from 150 kg (331 lb) on 4 May 2026, from 165 kg (364 lb) on 2 Aug 2026; not at 170 kg (375 lb) on "
            "3 Nov 2026.");
}

TEST(LoadShown, ALighterCleanDayIsNoProgress) {
  EXPECT_EQ(loadShownText({shown("2026-05-04", 150), clean("2026-06-01", 100)}),
            "Shows from 150 kg (331 lb) on 4 May 2026.");
}

TEST(LoadShown, OnlyTheLatestFewAreTold) {
  std::vector<Day> days;
  for (int month = 1; month <= 7; ++month)
    days.push_back(shown(("2026-0" + std::to_string(month) + "-01").c_str(), 100 + 5 * month));
  const std::string text = loadShownText(days);
  EXPECT_EQ(text.find("105 kg"), std::string::npos);
  EXPECT_NE(text.find("135 kg"), std::string::npos);
}

TEST(LoadShown, TheLibraryTellsEachDaysLightestThatShowsAndHeaviestThatIsClean) {
  const tests::ScratchFolder folder;
  auto library = must(Library::open(folder / "lib"));
  Athlete athlete;
  athlete.name = "Kit Lunde";
  const auto kit = must(library.addAthlete(athlete));
  const auto set = [&](const char* on, double kg, coaching::Verdict verdict) {
    Submission s;
    s.athlete = kit;
    s.received_on = on;
    s.load_kg = kg;
    Task task;
    const auto id = must(library.addSubmission(s, folder.write(std::to_string(kg), on + std::to_string(kg)), task));
    coaching::Finding f;
    f.id = "squat.hips_lead";
    f.verdict = verdict;
    must(library.saveFindings(id, {f}));
    return id;
  };
  set("2026-05-04", 120, coaching::Verdict::No);
  const auto at150 = set("2026-05-04", 150, coaching::Verdict::Yes);
  set("2026-05-04", 160, coaching::Verdict::Yes);
  set("2026-05-04", 130, coaching::Verdict::TooClose);
  const auto later = set("2026-06-04", 150, coaching::Verdict::No);
  const auto days = must(library.shownByDay(kit, "squat.hips_lead"));
  ASSERT_EQ(days.size(), 2u);
  EXPECT_EQ(days[0].shown_kg, 150);
  EXPECT_EQ(days[0].clean_kg, 120);
  EXPECT_EQ(days[0].submission, at150);
  EXPECT_FALSE(days[1].shown_kg);
  EXPECT_EQ(days[1].clean_kg, 150);
  EXPECT_EQ(days[1].submission, later);
}

}  // namespace
}  // namespace jib::library
