// SPDX-License-Identifier: GPL-3.0-or-later
// The coach's own book: what was said in cues, changed for the next time, put away, written out.
#include <gtest/gtest.h>

#include "core/library/book_file.h"
#include "tests/core/returned.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

struct Coach {
  tests::ScratchFolder folder;
  Library library = *Library::open(folder / "lib");
  AthleteId ola = *library.addAthlete({AthleteId(0), "Ola Marsh", "", "balanced"});
  AthleteId kit = *library.addAthlete({AthleteId(0), "Kit Marlin", "", "balanced"});
  int films = 0;

  void say(AthleteId to, const std::string& on, const std::string& wording, ThreadState state = ThreadState::Asked) {
    Submission s;
    s.athlete = to;
    s.received_on = on;
    Task task;
    const std::string name = "film" + std::to_string(++films);
    const auto id = *library.addSubmission(s, folder.write(name, name), task);
    CueThread t;
    t.athlete = to;
    t.asked_in = id;
    t.asked_on = on;
    t.finding = "squat.hips_lead";
    t.title = "Hips lead";
    t.wording = wording;
    t.drill = "Pause squats, 3 x 3";
    ASSERT_TRUE(tests::returned(library, id, {t}));
    if (state == ThreadState::Asked) return;
    auto threads = *library.threads(to);
    threads.back().state = state;
    ASSERT_TRUE(library.saveMeasuredNow({threads.back()}));
  }
};

TEST(OwnBook, CountsWhatWasSaidToWhomAndHowOftenItHelped) {
  Coach c;
  c.say(c.ola, "2026-10-01", "Chest up first.", ThreadState::Met);
  c.say(c.kit, "2026-10-05", "Chest up first.");
  c.say(c.kit, "2026-10-09", "Chest up first.");
  const auto book = *c.library.book();
  ASSERT_EQ(book.size(), 1u);
  EXPECT_EQ(book[0].times, 3);
  EXPECT_EQ(book[0].helped, 1);
  EXPECT_EQ(book[0].last_on, "2026-10-09");
  EXPECT_EQ(book[0].most_to, "Kit Marlin");
}

TEST(OwnBook, AChangeIsOfferedFromNowOnAndWhatWentOutStays) {
  Coach c;
  c.say(c.ola, "2026-10-01", "Chest up first.");
  auto entry = (*c.library.book())[0];
  entry.wording = "Lead with the chest.";
  entry.drill = "Tempo squats";
  ASSERT_TRUE(c.library.setBookEntry(entry));
  const auto said = *c.library.saidBefore(c.ola);
  ASSERT_EQ(said.size(), 1u);
  EXPECT_EQ(said[0].wording, "Lead with the chest.");
  EXPECT_EQ(said[0].drill, "Tempo squats");
  EXPECT_EQ(said[0].times_here, 1);
  EXPECT_EQ((*c.library.threads(c.ola))[0].wording, "Chest up first.") << "the athlete has read these words";
}

TEST(OwnBook, TwoWordingsThatWereMadeTheSameAreOne) {
  Coach c;
  c.say(c.ola, "2026-10-01", "Chest up first.");
  c.say(c.kit, "2026-10-02", "Chest first!");
  auto book = *c.library.book();
  ASSERT_EQ(book.size(), 2u);
  for (auto entry : book) {
    entry.wording = "Lead with the chest.";
    ASSERT_TRUE(c.library.setBookEntry(entry));
  }
  book = *c.library.book();
  ASSERT_EQ(book.size(), 1u);
  EXPECT_EQ(book[0].times, 2);
  EXPECT_EQ(book[0].as_said.size(), 2u) << "and both follow the next change";
}

TEST(OwnBook, WhatIsPutAwayIsNotOfferedAndNotExported) {
  Coach c;
  c.say(c.ola, "2026-10-01", "Chest up first.");
  c.say(c.ola, "2026-10-02", "Push the floor \"away\".");
  auto book = *c.library.book();
  auto away = book[0].wording == "Chest up first." ? book[0] : book[1];
  away.put_away = true;
  ASSERT_TRUE(c.library.setBookEntry(away));
  ASSERT_EQ(c.library.saidBefore(c.ola)->size(), 1u);
  ASSERT_EQ(c.library.book()->size(), 2u) << "it can be taken back";
  const std::string toml = bookToToml(*c.library.book());
  EXPECT_EQ(toml.find("Chest up first."), std::string::npos);
  EXPECT_NE(toml.find("Push the floor"), std::string::npos);
  away.put_away = false;
  ASSERT_TRUE(c.library.setBookEntry(away));
  EXPECT_EQ(c.library.saidBefore(c.ola)->size(), 2u);
}

}  // namespace
}  // namespace jib::library
