// SPDX-License-Identifier: GPL-3.0-or-later
// What was lost between two careful parts, each as a test named after what went wrong.
#include <SQLiteCpp/SQLiteCpp.h>
#include <gtest/gtest.h>
#include <sys/stat.h>
#include <unistd.h>

#include <fstream>

#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "core/library/backup.h"
#include "core/library/export.h"
#include "core/library/follow_up.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/returned.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

namespace fs = std::filesystem;
using tests::bytesOf;
using tests::must;
using tests::ScratchFolder;

struct Shelf {
  ScratchFolder folder;
  fs::path place = folder / "lib";
  Library library = must(Library::open(place));
  Task task;

  SubmissionId film(const std::string& name, const std::string& bytes, const std::string& on = "2026-05-04",
                    const std::string& whose = "Ida Fenn") {
    Submission s;
    s.received_on = on;
    s.clip_name = name;
    return must(library.addSubmission(s, folder.write(name, bytes), task, whose));
  }
  std::size_t filesIn(const char* part) {
    std::error_code error;
    return static_cast<std::size_t>(
        std::distance(fs::directory_iterator(place / part, error), fs::directory_iterator()));
  }
  SQLite::Database database() { return {(place / "library.sqlite").string(), SQLite::OPEN_READWRITE}; }
};

// Their key was empty of words, and so each was taken for the first.
TEST(Import, FilmsWithoutAWordAreEachARowAndNoneTwice) {
  Shelf s;
  const auto take = [&](const fs::path& film) {
    return must(exchange::receive(s.library, film, "2026-05-04", s.task));
  };
  for (const char* name : {"a.mp4", "b.mp4", "c.mp4"})
    EXPECT_EQ(take(s.folder.write(name, std::string("film ") + name)).clips, 1) << name;
  EXPECT_EQ(must(s.library.submissions()).size(), 3u);
  EXPECT_EQ(take(s.folder / "b.mp4").known, 1);
  EXPECT_EQ(must(s.library.submissions()).size(), 3u);
}

TEST(Import, TwoAthletesWhoSendEqualWordsAreTwo) {
  Shelf s;
  for (const char* name : {"Ida Fenn", "Bo Marsh"}) {
    fs::create_directories(s.folder / "in" / name);
    std::ofstream(s.folder / "in" / name / "a.mp4") << name;
    std::ofstream(s.folder / "in" / name / "a.txt") << "squat 140 kg";
  }
  EXPECT_EQ(must(exchange::receive(s.library, s.folder / "in", "2026-05-04", s.task)).messages, 2);
  EXPECT_EQ(must(s.library.athletes()).size(), 2u);
}

TEST(Import, AFilmThatMayNotBeReadKeepsNoOtherOut) {
  Shelf s;
  fs::create_directories(s.folder / "in/Ida");
  for (const char* name : {"a", "b", "c"}) {
    std::ofstream(s.folder / "in/Ida" / (std::string(name) + ".mp4")) << name;
    std::ofstream(s.folder / "in/Ida" / (std::string(name) + ".txt")) << "squat 100 kg x 3, set " << name;
  }
  fs::permissions(s.folder / "in/Ida/a.mp4", fs::perms::none);
  const bool root = ::geteuid() == 0;  // who may read everything: try it as somebody else
  if (root) {
    for (const auto& e : fs::recursive_directory_iterator(s.folder.path()))
      ASSERT_EQ(::lchown(e.path().c_str(), 65534, 65534), 0);
    ASSERT_EQ(::chown(s.folder.path().c_str(), 65534, 65534), 0);
    ASSERT_EQ(::seteuid(65534), 0);
  }
  const auto r = exchange::receive(s.library, s.folder / "in", "2026-05-04", s.task);
  if (root) {
    ASSERT_EQ(::seteuid(0), 0);
  }
  ASSERT_TRUE(r) << r.error().sentence();
  EXPECT_EQ(r->clips, 2);
  ASSERT_EQ(r->troubles.size(), 1u);
  EXPECT_TRUE(r->troubles[0].starts_with("a.mp4: ")) << r->troubles[0];
}

// Opening a pipe waits for somebody to write into it.
TEST(Import, APipeOrALinkBesideAFilmIsNoText) {
  Shelf s;
  fs::create_directories(s.folder / "in/Ida");
  std::ofstream(s.folder / "in/Ida/a.mp4") << "one";
  std::ofstream(s.folder / "in/Ida/b.mp4") << "two";
  ASSERT_EQ(::mkfifo((s.folder / "in/Ida/a.txt").c_str(), 0600), 0);
  fs::create_symlink(s.folder.write("secret", "my password"), s.folder / "in/Ida/b.txt");
  EXPECT_EQ(must(exchange::receive(s.library, s.folder / "in", "2026-05-04", s.task)).clips, 2);
  for (const Submission& row : must(s.library.submissions())) EXPECT_EQ(row.message, "");
  EXPECT_EQ(FileSystem::real().read(s.folder / "in/Ida/a.txt").error().code, ErrorCode::CannotRead);
  EXPECT_EQ(contentHash(s.folder / "in/Ida/a.txt").error().code, ErrorCode::CannotRead);
}

TEST(Import, WhatAWrongClockSaysIsDoubtedAndTheFilmIsTodaysWork) {
  for (const char* dated : {"Sun, 29 Nov 2099 10:00:00 +0000", "Thu, 01 Jan 1970 10:00:00 +0000"}) {
    Shelf s;
    const auto mail = s.folder.write(
        "m.eml", std::string("From: Ida <ida@tide.invalid>\nSubject: squat\nMessage-ID: <a@tide.invalid>\nDate: ") +
                     dated + "\n\nDo my knees cave in?\n");
    const auto r = must(exchange::receive(s.library, mail, "2026-11-29", s.task));
    const Submission row = must(s.library.submissions()).front();
    EXPECT_EQ(row.received_on, "2026-11-29") << dated;
    EXPECT_NE(must(s.library.message(*row.message_id)).dated, "");
    ASSERT_EQ(r.troubles.size(), 1u);
    EXPECT_NE(r.troubles[0].find("can't be right"), std::string::npos) << r.troubles[0];
  }
}

TEST(Edit, TwoWhoChangeDifferentThingsOfARowBothKeepTheirs) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one");
  auto other = must(Library::openAgain(s.place));
  must(s.library.edit(id, [&](Submission& row) {
    row.load_kg = 140;
    // As a window does between the two: SQLite makes it wait, and it sees the load.
  }));
  must(other.edit(id, [](Submission& row) { row.plate_mm = 400; }));
  const Submission now = must(s.library.submission(id));
  EXPECT_EQ(now.load_kg, 140);
  EXPECT_EQ(now.plate_mm, 400);
}

TEST(Edit, OfARowThatIsGoneIsAnError) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one");
  must(s.library.remove(must(s.library.removalOf(id))));
  const auto edited = s.library.edit(id, [](Submission& row) { row.load_kg = 140; });
  ASSERT_FALSE(edited);
  EXPECT_NE(edited.error().what.find("deleted"), std::string::npos);
  EXPECT_FALSE(s.library.saveReview(id, Review{}));
  EXPECT_FALSE(s.library.saveTracing(id, "{}"));
}

// Typed while the clip was looked at in the background.
TEST(Prepare, LeavesWhatTheCoachTypedMeanwhile) {
  Shelf s;
  Submission row;
  row.received_on = "2026-05-04";
  const SubmissionId id = must(s.library.addSubmission(row, JIB_MADE_CLIP, s.task, "Ida Fenn"));
  bool typed = false;
  Task work([&](double f) {
    if (std::exchange(typed, typed || f >= 0.3) || !typed) return;
    auto window = must(Library::openAgain(s.place));
    must(window.edit(id, [](Submission& now) {
      now.load_kg = 140;
      now.plate_mm = 400;
      now.state = SubmissionState::CarriedOver;
      now.details.reps_said = 5;
    }));
  });
  ASSERT_TRUE(exchange::prepare(s.library, id, work));
  ASSERT_TRUE(typed);
  const Submission now = must(s.library.submission(id));
  EXPECT_EQ(now.load_kg, 140);
  EXPECT_EQ(now.plate_mm, 400);
  EXPECT_EQ(now.state, SubmissionState::CarriedOver);
  EXPECT_EQ(now.details.reps_said, 5);
  EXPECT_EQ(now.lift, "squat") << "and what the film tells";
  // Numbers are made with the plate that was typed: 400 mm for 450 is a stroke shorter by a ninth.
  const double stroke_m = must(s.library.results(id)).at("stroke_m").front().measured.value;
  const double with_450_m = lifts::find(tests::unplaced().measures.reps[0], "stroke_m")->measured()->value;
  EXPECT_NEAR(stroke_m / with_450_m, 400.0 / 450, 0.01);
}

// The same film under two extensions was two files, and one of them stayed for ever.
TEST(Removal, TakesAFilmUnderEveryNameItWasKeptBy) {
  Shelf s;
  const SubmissionId one = s.film("IMG.MOV", "the same film"), two = s.film("img.mov", "the same film");
  EXPECT_EQ(s.filesIn("media"), 2u);
  must(s.library.remove(must(s.library.removalOf(one))));
  EXPECT_EQ(s.filesIn("media"), 2u) << "the other row holds it";
  must(s.library.remove(must(s.library.removalOf(two))));
  EXPECT_EQ(s.filesIn("media"), 0u);
}

TEST(Removal, IsWorkedOutWhenItIsDoneAndNotWhenItWasAnnounced) {
  Shelf s;
  const SubmissionId one = s.film("a.mp4", "film a");
  const auto whose = must(s.library.submission(one)).athlete;
  const auto announced = must(s.library.removalOf(whose));
  s.film("b.mp4", "film b");                            // came meanwhile
  s.film("c.mp4", "film a", "2026-05-05", "Bo Marsh");  // somebody else sent the first one, too
  must(s.library.remove(announced));
  EXPECT_EQ(must(s.library.submissions()).size(), 1u);
  EXPECT_EQ(s.filesIn("media"), 1u) << "film b is gone, film a is another's";
  EXPECT_TRUE(must(s.library.check()).empty());
}

TEST(Removal, OfOneOfTwoWhoWroteTheSameWordsLeavesTheOthersMessage) {
  Shelf s;
  for (const char* name : {"Ida", "Bo"}) {
    fs::create_directories(s.folder / "in" / name);
    std::ofstream(s.folder / "in" / name / "a.mp4") << name;
    std::ofstream(s.folder / "in" / name / "a.txt") << "squat 140 kg";
  }
  must(exchange::receive(s.library, s.folder / "in", "2026-05-04", s.task));
  const auto rows = must(s.library.submissions());
  must(s.library.remove(must(s.library.removalOf(rows[0].athlete))));
  EXPECT_TRUE(fs::exists(s.library.mailFile(must(s.library.message(*rows[1].message_id)))));
  EXPECT_TRUE(must(s.library.check()).empty());
}

TEST(Removal, TakesWhatTheFilmTaughtOfEarlierCues) {
  Shelf s;
  const SubmissionId asked = s.film("a.mp4", "one"), later = s.film("b.mp4", "two", "2026-06-04");
  CueThread t;
  t.athlete = must(s.library.submission(asked)).athlete;
  t.asked_on = "2026-05-05";
  t.finding = "squat.too_high";
  ASSERT_TRUE(tests::returned(s.library, asked, {t}));
  CueThread now = must(s.library.threads(t.athlete)).front();
  now.value_now = 0.01;
  now.sigma_now = 0.02;
  now.measured_in = later;
  now.measured_on = "2026-06-04";
  now.state = ThreadState::Met;
  must(s.library.saveMeasuredNow({now}));
  must(s.library.remove(must(s.library.removalOf(later))));
  const CueThread left = must(s.library.threads(t.athlete)).front();
  EXPECT_FALSE(left.value_now || left.measured_in);
  EXPECT_EQ(left.state, ThreadState::Asked);
}

// A library may come from somebody else: what it says is not believed.
TEST(Removal, NeverLeadsOutOfTheLibrary) {
  Shelf s;
  fs::create_directories(s.folder / "victim");
  s.folder.write("victim/file", "precious");
  const fs::path linked = s.folder / "elsewhere";
  fs::create_directories(linked);
  std::ofstream(linked / "taxes.pdf") << "precious";
  fs::create_directory_symlink(linked, s.place / "replies");
  for (const std::string& file : {std::string("../victim"), (s.folder / "victim").string(), std::string("."),
                                  std::string("media/../../victim"), std::string("replies/taxes.pdf")})
    s.database().exec("INSERT INTO doomed(file) VALUES('" + file + "')");
  must(Library::open(s.place));
  EXPECT_TRUE(fs::exists(s.folder / "victim/file"));
  EXPECT_TRUE(fs::exists(linked / "taxes.pdf"));
  EXPECT_TRUE(fs::exists(s.place / "library.sqlite"));
}

TEST(Library, AnEmptyDatabaseBesideFilmsIsNoNewLibrary) {
  Shelf s;
  s.film("a.mp4", "one");
  s.folder.write("lib/library.sqlite.before-8", "a copy");
  const fs::path other = s.folder / "other";
  fs::copy(s.place, other, fs::copy_options::recursive);
  for (const char* side : {"-wal", "-shm"}) fs::remove(other / (std::string("library.sqlite") + side));
  std::ofstream(other / "library.sqlite", std::ios::trunc);
  const auto opened = Library::open(other);
  ASSERT_FALSE(opened);
  EXPECT_EQ(opened.error().code, ErrorCode::CannotRead);
  EXPECT_NE(opened.error().next.find("library.sqlite.before-8"), std::string::npos) << opened.error().sentence();
  EXPECT_EQ(fs::file_size(other / "library.sqlite"), 0u) << "nothing was written into it";
  std::ofstream(s.folder / "fresh-db");
  fs::create_directories(s.folder / "fresh");
  fs::rename(s.folder / "fresh-db", s.folder / "fresh/library.sqlite");
  EXPECT_TRUE(Library::open(s.folder / "fresh")) << "killed while it was made";
}

TEST(Library, CheckSaysWhichTableIsMissing) {
  Shelf s;
  s.database().exec("DROP TABLE clip_check");
  const auto troubles = must(s.library.check());
  ASSERT_FALSE(troubles.empty());
  EXPECT_NE(troubles[0].find("clip_check"), std::string::npos) << troubles[0];
}

TEST(Review, ASecondWindowDoesNotWriteOverTheFirstOnes) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one");
  auto second = must(Library::openAgain(s.place));
  Review first_words, second_words;
  first_words.greeting = "first window words";
  second_words.greeting = "second window words";
  const int seen_by_both = must(s.library.reviewNumber(id));
  must(s.library.saveReview(id, first_words, seen_by_both));
  const auto refused = second.saveReview(id, second_words, seen_by_both);
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().code, ErrorCode::Conflict);
  EXPECT_EQ(must(s.library.review(id)).greeting, "first window words");
  Library::Return reply;
  reply.id = id;
  reply.over = seen_by_both;
  EXPECT_EQ(second.returnReview(reply).error().code, ErrorCode::Conflict);
  EXPECT_EQ(must(s.library.submission(id)).state, SubmissionState::New);
}

TEST(Return, RecordsAllOrNothing) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one"), other = s.film("b.mp4", "two");
  CueThread t;
  t.athlete = must(s.library.submission(id)).athlete;
  t.finding = "squat.too_high";
  Library::Return reply;
  reply.id = id;
  reply.asked = {t};
  reply.together = {{other, "Answered together with a.mp4."}};
  reply.letter = Outgoing{};
  reply.letter->submission = id;
  reply.letter->kind = "reply";
  reply.letter->file = "x.eml";
  // The last of its steps fails.
  s.database().exec("CREATE TRIGGER no_room BEFORE INSERT ON outgoing BEGIN SELECT RAISE(ABORT, 'no room'); END");
  EXPECT_FALSE(s.library.returnReview(reply));
  EXPECT_EQ(must(s.library.submission(id)).state, SubmissionState::New);
  EXPECT_EQ(must(s.library.submission(other)).state, SubmissionState::New);
  EXPECT_TRUE(must(s.library.threads(t.athlete)).empty());
  s.database().exec("DROP TRIGGER no_room");
  must(s.library.returnReview(reply));
  EXPECT_EQ(must(s.library.submission(other)).state, SubmissionState::Returned);
  EXPECT_EQ(must(s.library.threads(t.athlete)).size(), 1u);
}

TEST(Return, PressedAgainReplacesTheLetterThatStillWaits) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one");
  fs::create_directories(s.place / "outbox");
  const auto send = [&](const std::string& file) {
    s.folder.write("lib/outbox/" + file, "To: Ida");
    Library::Return reply;
    reply.id = id;
    reply.letter = Outgoing{};
    reply.letter->submission = id;
    reply.letter->kind = "reply";
    reply.letter->file = file;
    return must(s.library.returnReview(reply))->id;
  };
  const OutgoingId first = send("1.eml");
  send("2.eml");
  ASSERT_EQ(must(s.library.outgoing()).size(), 1u);
  EXPECT_EQ(must(s.library.outgoing())[0].file, "2.eml");
  EXPECT_FALSE(fs::exists(s.place / "outbox/1.eml"));
  // What has gone stays.
  must(s.library.setOutgoingState(must(s.library.outgoing())[0].id, OutgoingState::HandedOver, "2026-05-04"));
  send("3.eml");
  EXPECT_EQ(must(s.library.outgoing()).size(), 2u);
  EXPECT_NE(first, must(s.library.outgoing())[0].id);
}

TEST(Outbox, WhatAMailProgramDidNotTakeWaitsAgain) {
  Shelf s;
  Outgoing o;
  o.file = "x.eml";
  const OutgoingId id = must(s.library.addOutgoing(o));
  must(s.library.setOutgoingState(id, OutgoingState::HandedOver, "2026-05-04"));
  must(s.library.setOutgoingState(id, OutgoingState::Waiting, "2026-05-04"));
  EXPECT_EQ(must(s.library.outgoing())[0].state, OutgoingState::Waiting);
  EXPECT_EQ(must(s.library.outgoing())[0].handed_on, "");
}

TEST(Attempts, OfALivingProgramOrOneThatWasStoppedSayNothingAgainstAClip) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "no film at all");
  const std::string hash = must(s.library.submission(id)).clip_hash;
  // Two programs that were killed while they looked, and one that lives: process 1.
  for (const char* program : {"999999:1", "999998:1"})
    s.database().exec(std::string("INSERT INTO clip_attempt VALUES('") + hash + "', '" + program + "')");
  EXPECT_EQ(must(s.library.beginAttempt(hash)).fell, 2);
  must(s.library.dropAttempt(hash));
  ASSERT_TRUE(exchange::prepare(s.library, id, s.task));
  EXPECT_EQ(must(s.library.submission(id)).state, SubmissionState::New) << "no verdict";
  EXPECT_NE(must(s.library.checkOf(hash)).find("stopped twice"), std::string::npos);
  std::string line = bytesOf("/proc/1/stat");
  std::string starts = line.substr(line.rfind(')') + 2);
  for (int i = 0; i < 19; ++i) starts = starts.substr(starts.find(' ') + 1);
  starts = starts.substr(0, starts.find(' '));
  s.database().exec("INSERT INTO clip_attempt VALUES('" + hash + "', '1:" + starts + "')");
  EXPECT_TRUE(must(s.library.beginAttempt(hash)).elsewhere);
  EXPECT_EQ(exchange::prepare(s.library, id, s.task).error().code, ErrorCode::Conflict);
}

TEST(Earlier, AnotherFilmOfTheSameSetIsNoEarlierOne) {
  Shelf s;
  const SubmissionId long_ago = s.film("a.mp4", "one", "2026-04-04"), side = s.film("b.mp4", "two"),
                     front = s.film("c.mp4", "three");
  must(s.library.joinSet(side, front, 0.5));
  const auto before = must(s.library.before(must(s.library.submission(front))));
  ASSERT_EQ(before.size(), 1u);
  EXPECT_EQ(before[0].id, long_ago);
}

TEST(FollowUp, AnotherFilmOfTheSetOrTheDayTellsNothingOfWhatHappenedSince) {
  CueThread t;
  t.asked_in = SubmissionId(1);
  t.asked_on = "2026-05-04";
  t.asked_film_on = "2026-05-04";
  t.finding = "squat.heels_lift";
  coaching::Analysis a;
  coaching::setMark(a.request.marks, {"squat.heels_lift", coaching::MarkState::Seen, 0, 1.0}, true);
  const auto style = must(coaching::shippedStyle("balanced"));
  Submission later;
  later.id = SubmissionId(2);
  later.received_on = "2026-06-04";
  EXPECT_EQ(measuredNow({t}, later, a, style)[0].state, ThreadState::NotYet);
  EXPECT_EQ(measuredNow({t}, later, a, style, {SubmissionId(1)})[0].state, ThreadState::Asked) << "of the same set";
  later.pair = SubmissionId(1);
  EXPECT_EQ(measuredNow({t}, later, a, style)[0].state, ThreadState::Asked);
  later.pair.reset();
  later.received_on = "2026-05-04";
  EXPECT_EQ(measuredNow({t}, later, a, style)[0].state, ThreadState::Asked) << "filmed on the same day";
}

TEST(Backup, SaysWhichFilmsItLacksAndFollowsALinkToAnotherDisk) {
  Shelf s;
  const SubmissionId gone = s.film("a.mp4", "film a");
  s.film("b.mp4", "film b");
  fs::rename(s.place / "media", s.folder / "big disk");
  fs::create_directory_symlink(s.folder / "big disk", s.place / "media");
  const auto whole = must(backUp(s.library, s.folder / "whole.zip", s.task));
  EXPECT_TRUE(whole.missing.empty());
  fs::remove(s.library.clipFile(must(s.library.submission(gone))));
  const auto partial = must(backUp(s.library, s.folder / "partial.zip", s.task));
  EXPECT_EQ(partial.files + 1, whole.files);
  ASSERT_EQ(partial.missing.size(), 1u);
  EXPECT_NE(partial.missing[0].find("a.mp4"), std::string::npos);
  must(restore(s.folder / "whole.zip", s.folder / "again", s.task));
  EXPECT_TRUE(must(must(Library::open(s.folder / "again")).check()).empty());
}

TEST(Backup, DoesNotWriteOverTheLibraryAndLeavesNothingBehind) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "film a");
  const fs::path film = s.library.clipFile(must(s.library.submission(id)));
  for (const fs::path& target :
       {s.place / "library.sqlite", film, s.place / "b.zip", s.place / "media" / ".." / "x.zip"})
    EXPECT_EQ(backUp(s.library, target, s.task).error().code, ErrorCode::WrongUse) << target;
  EXPECT_EQ(exportAthlete(s.library, must(s.library.submission(id)).athlete, s.place / "out", s.task).error().code,
            ErrorCode::WrongUse);
  EXPECT_EQ(bytesOf(film), "film a");
  fs::create_directories(s.folder / "zips");
  must(backUp(s.library, s.folder / "zips/b.zip", s.task));
  Task stopped;
  stopped.cancel();
  EXPECT_EQ(backUp(s.library, s.folder / "zips/c.zip", stopped).error().code, ErrorCode::Cancelled);
  EXPECT_EQ(std::distance(fs::directory_iterator(s.folder / "zips"), fs::directory_iterator()), 1);
}

TEST(Backup, FolderNamesMayEndInASlashAndForeignFoldersStay) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "film a");
  const AthleteId whose = must(s.library.submission(id)).athlete;
  must(backUp(s.library, s.folder / "b.zip", s.task));
  for (const char* name : {"keep.part", "lib2.restoring"}) {
    fs::create_directories(s.folder / name);
    std::ofstream(s.folder / name / "precious") << "mine";
  }
  EXPECT_TRUE(restore(s.folder / "b.zip", s.folder / "lib2/", s.task));
  EXPECT_TRUE(exportAthlete(s.library, whose, s.folder / "keep/", s.task));
  fs::create_directories(s.folder / "empty");
  EXPECT_TRUE(exportAthlete(s.library, whose, s.folder / "empty", s.task)) << "the folder one stands in, say";
  for (const char* name : {"keep.part", "lib2.restoring"})
    EXPECT_TRUE(fs::exists(s.folder / name / "precious")) << name;
  EXPECT_TRUE(fs::exists(s.folder / "lib2/library.sqlite"));
  for (const char* name : {"keep", "empty"}) {
    EXPECT_TRUE(fs::exists(s.folder / name / "athlete.json")) << name;
    for (const auto& e : fs::directory_iterator(s.folder / name))
      EXPECT_FALSE(e.path().filename().string().starts_with(".")) << e.path();
  }
}

TEST(Export, HoldsNothingThatIsTheCoachsAlone) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "film a");
  const AthleteId whose = must(s.library.submission(id)).athlete;
  must(s.library.edit(whose, [](Athlete& a) { a.note = "TALKS-TOO-MUCH"; }));
  Review review;
  review.greeting = "Hi Ida";
  review.rejected["squat.too_high"] = "ONLY-FOR-ME";
  review.bookmarks.push_back({1.0, "HUNCH", {}});
  must(s.library.saveReview(id, review));
  must(exportAthlete(s.library, whose, s.folder / "out", s.task));
  const std::string all = bytesOf(s.folder / "out/athlete.json");
  EXPECT_NE(all.find("Hi Ida"), std::string::npos);
  for (const char* own : {"TALKS-TOO-MUCH", "ONLY-FOR-ME", "HUNCH"}) EXPECT_EQ(all.find(own), std::string::npos) << own;
}

TEST(Profile, ABuildThatWasForgottenStaysForgotten) {
  Profile p;
  p.build = tracing::KnownBuild{};
  p.build->shin_m = 0.4;
  Profile read = profileFromJson(profileToJson(p));
  ASSERT_TRUE(read.build);
  EXPECT_EQ(read.unread, "");
  read.build.reset();
  EXPECT_FALSE(profileFromJson(profileToJson(read)).build);
}

TEST(Library, AnAthleteMadeWithAClipIsJudgedAsNewAthletesAre) {
  Shelf s;
  CoachCard card;
  card.style = "upright";
  must(s.library.setCoach(card));
  EXPECT_EQ(must(s.library.athlete(must(s.library.submission(s.film("a.mp4", "one"))).athlete)).style, "upright");
}

TEST(Library, ASpeedThatIsNotMeasuredAnyMoreIsForgotten) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one");
  must(s.library.edit(id, [](Submission& row) {
    row.load_kg = 100;
    row.lift = "squat";
  }));
  must(s.library.saveSpeed(id, 0.5, 0.02));
  const AthleteId whose = must(s.library.submission(id)).athlete;
  ASSERT_EQ(must(s.library.speeds(whose, "squat")).size(), 1u);
  must(s.library.saveResults(id, coaching::Analysis{}));
  EXPECT_TRUE(must(s.library.speeds(whose, "squat")).empty());
}

TEST(Library, WordsThatAreNoUtf8DoNotKeepTheRestFromBeingKept) {
  Shelf s;
  const SubmissionId id = s.film("a.mp4", "one");
  Review review;
  review.greeting = "caf\xE9";
  EXPECT_TRUE(s.library.saveReview(id, review));
  EXPECT_TRUE(s.library.edit(must(s.library.submission(id)).athlete, [](Athlete& a) { a.profile.goal = "\xFF\xFE"; }));
}

}  // namespace
}  // namespace jib::library
