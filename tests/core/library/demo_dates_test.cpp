// SPDX-License-Identifier: GPL-3.0-or-later
// The demo played on another day: everything in it moves by whole weeks, its mail too.
#include <gtest/gtest.h>

#include "core/library/dates.h"
#include "core/library/demo.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using tests::must;

TEST(DemoDates, MoveByWholeWeeksInRowsAndMail) {
  const tests::ScratchFolder folder;
  const auto lib = folder / "lib";
  {
    Library library = must(Library::open(lib));
    Athlete a;
    a.name = "Ola Marsh";
    a.profile.meet_on = "2026-12-12";
    a.profile.birth_year = 1998;
    Submission s;
    s.athlete = must(library.addAthlete(a));
    s.received_on = "2026-11-24";
    Task task;
    must(library.addSubmission(s, folder.write("a.mp4", "2026-11-24"), task));
  }
  std::filesystem::create_directories(lib / "inbox/new");
  const std::string head =
      "From: a@example.invalid\nDate: Sat, 21 Nov 2026 12:00:00 +0000\n\nThe meet is on 12 December "
      "2026, since 2019.\n";
  const std::string film = "Content-Transfer-Encoding: base64\n\n1 January 2026";
  folder.write("lib/inbox/new/1.eml", head + film);
  must(bringUpToDate(lib, "2027-03-09"));  // 103 days later: 14 weeks
  Library library = must(Library::openAgain(lib));
  const auto row = must(library.submissions()).at(0);
  EXPECT_EQ(row.received_on, daysLater("2026-11-24", 98));
  EXPECT_EQ(must(library.athletes()).at(0).profile.meet_on, "2027-03-20");
  EXPECT_EQ(must(library.athletes()).at(0).profile.birth_year, 1998);
  EXPECT_TRUE(must(library.check()).empty()) << "the film's bytes are as they were";
  const std::string mail = tests::bytesOf(lib / "inbox/new/1.eml");
  EXPECT_NE(mail.find("Date: Sat, 27 Feb 2027 12:00:00 +0000"), std::string::npos) << mail;
  EXPECT_NE(mail.find("The meet is on 20 March 2027, since 2019."), std::string::npos) << mail;
  EXPECT_NE(mail.find(film), std::string::npos) << "what is attached is not words";
  // On the day it was written for, and within its week, nothing moves.
  must(bringUpToDate(lib, "2026-11-29"));
  EXPECT_EQ(must(library.submissions()).at(0).received_on, row.received_on);
}

}  // namespace
}  // namespace jib::library
