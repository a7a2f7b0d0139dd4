// SPDX-License-Identifier: GPL-3.0-or-later
// How a coach coaches goes to another coach in one file: what is their own, nothing of their athletes, and nothing in
// it is trusted before it was read.
#include "core/review/coaching_file.h"

#include <gtest/gtest.h>

#include "core/coaching/rule_book.h"
#include "core/coaching/style_book.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::review {
namespace {

namespace fs = std::filesystem;
using tests::must;

// A coach with a cue of their own, a moved limit, a changed rule and a side taken.
struct Coach {
  tests::ScratchFolder folder;
  fs::path place = folder / "lib";
  library::Library library = must(library::Library::open(place));
  Task task;

  void coaches() {
    library::CoachCard card;
    card.name = "Mara Quill";
    card.switches["depth"] = "full";
    must(library.setCoach(card));
    must(coaching::StyleBook::moveLimit(place, "balanced", "squat.chest_drops", 9.5));
    auto rules = coaching::RuleBook::shipped().setOf("granite-coast");
    rules.checks.front().limit.limit = 0.01;
    must(coaching::RuleBook::keep(place, rules, "2026-12-01"));
    library::Submission s;
    s.received_on = "2026-11-20";
    s.clip_name = "a.mp4";
    const auto id = must(library.addSubmission(s, folder.write("a.mp4", "film"), task, "Ida Fenn"));
    library::Library::Return back;
    back.id = id;
    library::CueThread cue;
    cue.athlete = must(library.submission(id)).athlete;
    cue.asked_in = id;
    cue.asked_on = "2026-11-21";
    cue.finding = "squat.chest_drops";
    cue.title = "Chest falls";
    cue.wording = "Show me the logo.";
    cue.drill = "3 x 3 with \"a pause\"";
    back.asked = {cue};
    must(library.returnReview(back));
  }
  fs::path exported() { return folder.write("how.toml", coachingToToml(must(coachingOf(library, "2026-12-01")))); }
};

TEST(CoachingFile, HandsOnWhatIsTheCoachsOwnAndNothingOfTheirAthletes) {
  Coach mara, tom;
  mara.coaches();
  const auto file = mara.exported();
  EXPECT_EQ(tests::bytesOf(file).find("Ida"), std::string::npos);
  const auto read = must(readCoaching(file));
  EXPECT_EQ(read.from, "Mara Quill");
  ASSERT_EQ(read.cues.size(), 1u);
  EXPECT_EQ(read.cues[0].drill, "3 x 3 with \"a pause\"");
  EXPECT_EQ(read.sides.at("depth"), "full");
  ASSERT_EQ(read.files.size(), 2u);

  must(takeOver(tom.library, read, {true, true, {"limits.json", "rules.toml"}}, "2026-12-02"));
  const auto book = must(tom.library.saidBefore(library::AthleteId(1)));
  ASSERT_EQ(book.size(), 1u);
  EXPECT_EQ(book[0].wording, "Show me the logo.");
  EXPECT_EQ(book[0].times, 0) << "it was not said here";
  EXPECT_EQ(must(tom.library.coach()).switches.at("depth"), "full");
  EXPECT_EQ(coaching::RuleBook::forLibrary(tom.place).setOf("granite-coast").checks.front().limit.limit, 0.01);
  const auto style = must(must(coaching::StyleBook::forLibrary(tom.place)).style("balanced"));
  const auto moved = std::find_if(style.limits.begin(), style.limits.end(),
                                  [](const auto& l) { return l.finding == "squat.chest_drops"; });
  EXPECT_DOUBLE_EQ(moved->limit, 9.5);
  // Twice is once, and a borrowed wording can be reworded and put away like one's own.
  must(takeOver(tom.library, read, {true, false, {}}, "2026-12-02"));
  auto entry = must(tom.library.book()).at(0);
  entry.wording = "Logo to the wall.";
  must(tom.library.setBookEntry(entry));
  ASSERT_EQ(must(tom.library.book()).size(), 1u);
  EXPECT_EQ(must(tom.library.book())[0].wording, "Logo to the wall.");
}

TEST(CoachingFile, WhatIsTickedReplacesAndWhatWasThereIsKeptBesideIt) {
  Coach mara, tom;
  mara.coaches();
  must(coaching::StyleBook::moveLimit(tom.place, "balanced", "squat.chest_drops", 5));
  const std::string mine = tests::bytesOf(tom.place / "limits.json");
  must(takeOver(tom.library, must(readCoaching(mara.exported())), {false, false, {"limits.json"}}, "2026-12-02"));
  EXPECT_EQ(tests::bytesOf(tom.place / "limits.json.before-2026-12-02"), mine);
  EXPECT_TRUE(must(tom.library.book()).empty());
  EXPECT_FALSE(fs::exists(tom.place / "rules.toml"));
}

TEST(CoachingFile, NothingOfAStrangersFileIsTrusted) {
  Coach c;
  const std::string head = "schema = \"jagged-jib/coaching\"\nversion = 1.0\nfrom = \"X\"\nmade_on = \"2026-12-01\"\n";
  const auto read = [&](const std::string& more) { return readCoaching(c.folder.write("x.toml", head + more)); };
  EXPECT_TRUE(read(""));
  for (const char* name : {"../library.sqlite", "library.sqlite", "styles/../../x.toml", "styles/.toml", "/etc/x.toml",
                           "styles/A b.toml", "media/x.toml"})
    EXPECT_FALSE(read("[files]\n\"" + std::string(name) + "\" = \"x\"\n")) << name;
  EXPECT_FALSE(read("[files]\n\"rules.toml\" = \"not rules\"\n")) << "it is read before it is taken";
  EXPECT_FALSE(read("[files]\n\"limits.json\" = \"[1, 2]\"\n"));
  EXPECT_FALSE(read("[files]\n\"styles/x.toml\" = 3\n"));
  EXPECT_FALSE(readCoaching(c.folder.write("y.toml", "schema = \"else\"\nversion = 1\n")));
  EXPECT_FALSE(readCoaching(c.folder / "none.toml"));
}

}  // namespace
}  // namespace jib::review
