// SPDX-License-Identifier: GPL-3.0-or-later
// What a coach trusts the library with: closed to others, deleted when deleted, exported whole, backed up and restored,
// readable when the disk takes nothing.
#include <SQLiteCpp/SQLiteCpp.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdlib>
#include <fstream>

#include "core/library/backup.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "core/library/falling_due.h"
#include "core/library/library.h"
#include "core/library/schema.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

namespace fs = std::filesystem;
using tests::bytesOf;
using tests::ScratchFolder;

// A library with everything one athlete leaves in it, and a second athlete who must stay.
struct Club {
  ScratchFolder folder;
  fs::path place = folder / "lib";
  Library library = *Library::open(place);
  Task task;
  AthleteId orla{0}, bram{0};
  SubmissionId clip{0};

  Club() {
    clip = message("Orlaverbatim", "orla@tide.invalid", "orla's own film");
    orla = library.submission(clip)->athlete;
    bram = library.submission(message("Bramverbatim", "bram@tide.invalid", "bram's own film"))->athlete;
    fs::create_directories(place / "replies" / std::to_string(clip.number));
    folder.write("lib/replies/" + std::to_string(clip.number) + "/reply.mp4", "Orlaverbatim's reply");
    fs::create_directories(place / "outbox");
    folder.write("lib/outbox/x.eml", "To: Orlaverbatim");
    Outgoing out;
    out.athlete = orla;
    out.submission = clip;
    out.kind = "reply";
    out.to_address = "orla@tide.invalid";
    out.file = "x.eml";
    out.made_on = "2026-11-27";
    EXPECT_TRUE(library.addOutgoing(out));
    EXPECT_TRUE(library.saveTracing(clip, "{\"of\": \"Orlaverbatim\"}"));
    EXPECT_TRUE(library.saveCheck(library.submission(clip)->clip_hash, "{\"of\": \"Orlaverbatim\"}"));
    EXPECT_TRUE(library.savePulse(library.submission(clip)->clip_hash, {1, 2, 3}));
    EXPECT_TRUE(library.beginAttempt(library.submission(clip)->clip_hash));
    // As it lies in the inbox once read, and as an earlier version kept the database.
    fs::create_directories(place / "inbox/cur");
    fs::copy_file(folder / "Orlaverbatim.eml", place / "inbox/cur/1:2,S");
    folder.write("lib/library.sqlite.before-5", "an old copy that names Orlaverbatim");
  }
  SubmissionId message(const std::string& name, const std::string& address, const std::string& film) {
    Library::Incoming in;
    in.message.key = name;
    in.message.mail_id = name + "@tide";
    in.message.from_name = name;
    in.message.from_address = address;
    in.message.received_on = "2026-11-20";
    in.message.body = "words of " + name;
    in.athlete_name = name;
    in.original = folder.write(name + ".eml", "From: " + name + "\n\nwords");
    Submission s;
    s.received_on = "2026-11-20";
    s.message = in.message.body;
    s.clip_name = "set.mp4";
    in.clips.push_back({s, folder.write(name + ".mp4", film)});
    EXPECT_TRUE(library.addMessage(std::move(in), task));
    return library.submissions()->front().id;
  }
  // Files of the library that hold these words anywhere in their bytes.
  std::vector<std::string> holding(const std::string& words) {
    std::vector<std::string> all;
    for (const auto& entry : fs::recursive_directory_iterator(place))
      if (entry.is_regular_file() && bytesOf(entry.path()).find(words) != std::string::npos)
        all.push_back(entry.path().string());
    return all;
  }
};

TEST(Keeping, FoldersAndFilesAreTheOwnersAlone) {
  umask(022);
  Club c;
  std::error_code error;
  for (const auto& entry : fs::recursive_directory_iterator(c.place)) {
    const std::string path = entry.path().string();
    // What this test put there by hand is closed at the next open, below.
    if (path.find("replies") != std::string::npos || path.find("outbox") != std::string::npos ||
        path.find("inbox") != std::string::npos || path.find("before-5") != std::string::npos)
      continue;
    EXPECT_EQ(fs::status(entry.path(), error).permissions() & (fs::perms::group_all | fs::perms::others_all),
              fs::perms::none)
        << path;
  }
  fs::permissions(c.place, fs::perms::others_read | fs::perms::group_read, fs::perm_options::add);
  ASSERT_TRUE(Library::open(c.place));
  for (const auto& entry : fs::recursive_directory_iterator(c.place))
    EXPECT_EQ(fs::status(entry.path(), error).permissions() & (fs::perms::group_all | fs::perms::others_all),
              fs::perms::none)
        << entry.path();
}

TEST(Removal, OfAnAthleteSaysWhatGoesAndLeavesNothingOfThemAnywhere) {
  Club c;
  ASSERT_FALSE(c.holding("Orlaverbatim").empty());
  const auto removal = *c.library.removalOf(c.orla);
  std::string said;
  for (const auto& line : removal.lines) said += line + "\n";
  for (const char* part :
       {"Orlaverbatim", "1 submission", "1 film", "1 message", "1 reply", "outbox", "copy of the database"})
    EXPECT_NE(said.find(part), std::string::npos) << part << " in\n" << said;
  ASSERT_TRUE(c.library.remove(removal));
  EXPECT_EQ(c.holding("Orlaverbatim"), std::vector<std::string>{});
  EXPECT_EQ(c.holding("orla's own film"), std::vector<std::string>{});
  EXPECT_FALSE(c.holding("Bramverbatim").empty()) << "nobody else goes";
  EXPECT_TRUE(c.library.check()->empty());
  EXPECT_TRUE(c.library.outgoing()->empty());
}

TEST(Removal, OfASubmissionTakesItsMessageUnlessOthersCameWithIt) {
  Club c;
  const auto removal = *c.library.removalOf(c.clip);
  ASSERT_TRUE(c.library.remove(removal));
  EXPECT_TRUE(c.library.messages(c.orla)->empty());
  EXPECT_TRUE(c.library.athlete(c.orla)) << "the athlete stays";
  EXPECT_TRUE(c.holding("words of Orlaverbatim").empty());
}

TEST(Removal, KilledHalfWayIsFinishedByTheNextOpen) {
  Club c;
  {
    // As it lies on the disk when the program dies between the rows and the files.
    SQLite::Database db((c.place / "library.sqlite").string(), SQLite::OPEN_READWRITE);
    db.exec("INSERT INTO doomed(file) VALUES('replies/" + std::to_string(c.clip.number) + "')");
  }
  ASSERT_TRUE(fs::exists(c.place / "replies" / std::to_string(c.clip.number)));
  auto again = Library::open(c.place);
  ASSERT_TRUE(again);
  EXPECT_FALSE(fs::exists(c.place / "replies" / std::to_string(c.clip.number)));
}

TEST(FallingDue, IsWhatIsAnsweredAndOlderThanAgreed) {
  Club c;
  const auto due = [&](const char* today) { return filmsDue(c.library, today)->size(); };
  EXPECT_EQ(due("2030-01-01"), 0u) << "a coach who set no time keeps everything";
  CoachCard card;
  card.keep_films_months = 12;
  ASSERT_TRUE(c.library.setCoach(card));
  EXPECT_EQ(due("2030-01-01"), 0u) << "nothing was answered yet";
  ASSERT_TRUE(c.library.edit(c.clip, [](Submission& s) { s.state = SubmissionState::Returned; }));
  EXPECT_EQ(due("2030-01-01"), 0u) << "its reply waits in the outbox";
  ASSERT_TRUE(c.library.setOutgoingState(c.library.outgoing()->front().id, OutgoingState::HandedOver, "2026-11-28"));
  EXPECT_EQ(due("2027-11-10"), 0u);
  ASSERT_EQ(due("2027-12-10"), 1u);
  EXPECT_EQ(filmsDue(c.library, "2027-12-10")->front().why, "13 months old; you keep clips for 12.");
  ASSERT_TRUE(keepLonger(c.library, {c.clip}, "2027-12-10"));
  EXPECT_EQ(due("2027-12-10"), 0u);
  EXPECT_EQ(due("2028-06-20"), 1u) << "half a year on it is asked again";
  // What the athlete agreed to goes before what the coach is used to.
  card.keep_films_months = 0;
  ASSERT_TRUE(c.library.setCoach(card));
  ASSERT_TRUE(c.library.edit(c.orla, [](Athlete& a) {
    a.profile.consent = {"2026-01-01", "2028-07-01", false, false};
  }));
  EXPECT_EQ(due("2028-07-01"), 0u);
  ASSERT_EQ(due("2028-07-02"), 1u);
  EXPECT_EQ(filmsDue(c.library, "2028-07-02")->front().why, "Consent ran out on 1 Jul 2028.");
}

TEST(FallingDue, AFilmGoesWithAllThatShowsItAndWhatItToldStays) {
  Club c;
  ASSERT_TRUE(c.library.letFilmsGo({c.clip}, "2027-12-10"));
  EXPECT_FALSE(c.holding("orla's own film").empty()) << "it waits for an answer: it stays";
  ASSERT_TRUE(c.library.edit(c.clip, [](Submission& s) { s.state = SubmissionState::Returned; }));
  ASSERT_TRUE(c.library.setOutgoingState(c.library.outgoing()->front().id, OutgoingState::HandedOver, "2026-11-28"));
  ASSERT_TRUE(c.library.saveSpeed(c.clip, 0.4, 0.01));
  // A first try of the reply, taken back.
  c.folder.write("lib/outbox/y.eml", "a first try");
  Outgoing first;
  first.athlete = c.orla;
  first.submission = c.clip;
  first.file = "y.eml";
  const auto taken = *c.library.addOutgoing(first);
  Outgoing nameless = first;
  nameless.file.clear();
  nameless.state = OutgoingState::HandedOver;
  ASSERT_TRUE(c.library.addOutgoing(nameless));
  c.folder.write("lib/outbox/others.eml", "somebody else's letter");
  ASSERT_TRUE(c.library.setOutgoingState(taken, OutgoingState::TakenBack, "2026-11-28"));
  const auto what = *c.library.filmRemovalOf({c.clip});
  EXPECT_GT(sizeOf(what), 30u);
  ASSERT_TRUE(c.library.letFilmsGo({c.clip}, "2027-12-10"));
  EXPECT_EQ(c.holding("orla's own film"), std::vector<std::string>{});
  EXPECT_EQ(c.holding("From: Orlaverbatim"), std::vector<std::string>{}) << "the mail that brought it";
  EXPECT_EQ(c.holding("Orlaverbatim's reply"), std::vector<std::string>{});
  ASSERT_EQ(c.library.outgoing()->size(), 2u) << "what was sent stays listed";
  EXPECT_FALSE(c.holding("somebody else's letter").empty()) << "a row without a file takes none of the others' along";
  EXPECT_FALSE(c.holding("bram's own film").empty());
  const auto row = *c.library.submission(c.clip);
  EXPECT_EQ(row.details.film_gone_on, "2027-12-10");
  EXPECT_EQ(filmGone(row).substr(0, 38), "This clip was deleted on 10 Dec 2027. ");
  EXPECT_EQ(c.library.messages(c.orla)->front().body, "words of Orlaverbatim");
  EXPECT_EQ(*c.library.tracing(c.clip), "");
  EXPECT_TRUE(c.library.check()->empty()) << c.library.check()->front();
  EXPECT_TRUE(filmsDue(c.library, "2040-01-01")->empty());
  EXPECT_TRUE(exportAthlete(c.library, c.orla, c.folder / "out", c.task));
  const auto again = *c.library.removalOf(c.orla);
  ASSERT_TRUE(c.library.remove(again)) << "an athlete can be forgotten after it";
  EXPECT_EQ(c.holding("Orlaverbatim"), std::vector<std::string>{});
}

TEST(FallingDue, AFilmThatAnotherRowHoldsStaysForThat) {
  Club c;
  Submission twin = *c.library.submission(c.clip);
  const fs::path file = c.folder / "again.mp4";
  fs::copy_file(c.library.clipFile(twin), file);
  twin.message_id.reset();
  const auto other = *c.library.addSubmission(twin, file, c.task);
  ASSERT_TRUE(c.library.edit(c.clip, [](Submission& s) { s.state = SubmissionState::Skipped; }));
  ASSERT_TRUE(c.library.setOutgoingState(c.library.outgoing()->front().id, OutgoingState::HandedOver, "2026-11-28"));
  ASSERT_EQ(c.library.letFilmsGo({c.clip}, "2027-12-10")->clips.size(), 0u);
  EXPECT_TRUE(fs::exists(c.library.clipFile(*c.library.submission(other))));
  EXPECT_TRUE(c.library.check()->empty());
}

TEST(Export, HoldsEverythingOfOneAthleteAndNothingOfAnother) {
  Club c;
  Submission words;
  words.athlete = c.orla;
  words.received_on = "2026-11-25";
  words.kind = SubmissionKind::Note;
  ASSERT_TRUE(exportAthlete(c.library, c.orla, c.folder / "out", c.task));
  std::string all;
  for (const auto& entry : fs::recursive_directory_iterator(c.folder / "out"))
    if (entry.is_regular_file()) all += entry.path().string() + "\n" + bytesOf(entry.path()) + "\n";
  for (const char* part : {"orla's own film", "words of Orlaverbatim", "orla@tide.invalid", "From: Orlaverbatim",
                           "Orlaverbatim's reply", "To: Orlaverbatim", "\"tracing\"", "\"profile\""})
    EXPECT_NE(all.find(part), std::string::npos) << part;
  EXPECT_EQ(all.find("Bramverbatim"), std::string::npos);
  EXPECT_EQ(exportAthlete(c.library, c.orla, c.folder / "out", c.task).error().code, ErrorCode::WrongUse)
      << "nothing that lies there is written over";
}

TEST(Export, WorksForAnAthleteWhoseFilmNeverCame) {
  Club c;
  Submission s = *c.library.submission(c.clip);
  s.clip_hash.clear();
  ASSERT_TRUE(c.library.edit(s.id, [&](auto& row_now) { row_now = s; }));
  EXPECT_TRUE(exportAthlete(c.library, c.orla, c.folder / "out", c.task));
}

TEST(FolderName, LeadsNowhereElse) {
  EXPECT_EQ(folderNameFor("Ines Calder"), "Ines-Calder");
  EXPECT_EQ(folderNameFor("../../etc/passwd"), "etc-passwd");
  EXPECT_EQ(folderNameFor("/.."), "athlete");
  EXPECT_EQ(folderNameFor("J\xC3\xB6rn"), "J\xC3\xB6rn");
  EXPECT_LE(folderNameFor(std::string(500, 'x')).size(), 80u);
}

TEST(Backup, RestoresTheWholeLibraryByteForByte) {
  Club c;
  const auto file = c.folder / "all.zip";
  const auto made = backUp(c.library, file, c.task);
  ASSERT_TRUE(made) << made.error().sentence();
  const auto done = restore(file, c.folder / "back", c.task);
  ASSERT_TRUE(done) << done.error().sentence();
  auto again = *Library::open(c.folder / "back");
  EXPECT_TRUE(again.check()->empty());
  EXPECT_EQ(again.submissions()->size(), 2u);
  for (const auto& entry : fs::recursive_directory_iterator(c.place)) {
    const std::string top = fs::relative(entry.path(), c.place).begin()->string();
    if (!entry.is_regular_file() || top.starts_with("library.sqlite") || top.ends_with(".lock") || top == "incoming")
      continue;
    EXPECT_EQ(bytesOf(c.folder / "back" / fs::relative(entry.path(), c.place)), bytesOf(entry.path())) << entry.path();
  }
}

TEST(Backup, ThatIsDamagedIsRefusedAndChangesNothing) {
  Club c;
  const auto file = c.folder / "all.zip";
  ASSERT_TRUE(backUp(c.library, file, c.task));
  const std::string whole = bytesOf(file);
  std::vector<std::string> bad{whole.substr(0, whole.size() / 2), whole.substr(0, whole.size() - 10), "no zip", ""};
  // One byte of a film is another.
  std::string flipped = whole;
  flipped[whole.find("orla's own film")] ^= 1;
  bad.push_back(flipped);
  for (const auto& bytes : bad) {
    const auto damaged = c.folder.write("bad.zip", bytes);
    const auto r = restore(damaged, c.folder / "back", c.task);
    ASSERT_FALSE(r);
    EXPECT_EQ(r.error().code, ErrorCode::BadData) << r.error().what;
    EXPECT_FALSE(fs::exists(c.folder / "back"));
    EXPECT_FALSE(fs::exists(c.folder / "back.restoring"));
  }
}

TEST(Backup, IsNeverRestoredOverSomething) {
  Club c;
  const auto file = c.folder / "all.zip";
  ASSERT_TRUE(backUp(c.library, file, c.task));
  EXPECT_EQ(restore(file, c.place, c.task).error().code, ErrorCode::WrongUse);
  EXPECT_EQ(c.library.submissions()->size(), 2u);
}

TEST(Backup, CancelledOrOnAFullDiskKeepsTheEarlierOne) {
  Club c;
  const auto file = c.folder.write("all.zip", "the earlier one");
  Task stopped;
  stopped.cancel();
  EXPECT_EQ(backUp(c.library, file, stopped).error().code, ErrorCode::Cancelled);
  EXPECT_EQ(bytesOf(file), "the earlier one");
  EXPECT_EQ(backUp(c.library, c.folder / "nowhere/all.zip", c.task).error().code, ErrorCode::CannotWrite);
  EXPECT_FALSE(fs::exists(c.folder / "all.zip.part"));
}

// A backup and a restore are killed again and again: what was there stays whole. JIB_RUNS for more kills.
TEST(Backup, KilledAtAnyMomentLeavesWhatWasThere) {
  const char* wanted = std::getenv("JIB_RUNS");
  const int kills = wanted ? std::atoi(wanted) : 6;
  Club c;
  const auto file = c.folder / "all.zip";
  ASSERT_TRUE(backUp(c.library, file, c.task));
  int hit = 0;
  for (int k = 0; k < kills; ++k) {
    const pid_t child = fork();
    if (child == 0) {
      auto own = Library::open(c.place);
      Task task;
      if (k % 2 == 0) {
        if (own) (void)!backUp(*own, file, task);
      } else {
        (void)!restore(file, c.folder / "back", task);
      }
      _exit(0);
    }
    usleep(static_cast<useconds_t>(500 + 1700 * (k % 13)));
    kill(child, SIGKILL);
    int status = 0;
    waitpid(child, &status, 0);
    hit += WIFSIGNALED(status) ? 1 : 0;
    ASSERT_TRUE(checkBackup(file, c.task)) << "the backup that was there is whole";
    if (fs::exists(c.folder / "back")) {
      auto restored = Library::open(c.folder / "back");
      ASSERT_TRUE(restored);
      EXPECT_TRUE(restored->check()->empty());
      restored = fail(ErrorCode::Cancelled, "");
      fs::remove_all(c.folder / "back");
    }
  }
  EXPECT_GT(hit, 0) << "kills that come too late test nothing";
  std::printf("%d of %d kills hit a backup or a restore at work\n", hit, kills);
  ASSERT_TRUE(restore(file, c.folder / "back", c.task)) << "and a killed restore is no obstacle";
  EXPECT_TRUE(c.library.check()->empty());
}

TEST(Library, InAFolderWithAnApostropheOrAColonOpensAfterAMigration) {
  ScratchFolder folder;
  for (const char* name : {"it's", "lib:1"}) {
    fs::create_directories(folder / name / "media");
    {
      SQLite::Database db((folder / name / "library.sqlite").string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
      migrate(db, 0, 5);
    }
    auto library = Library::open(folder / name);
    ASSERT_TRUE(library) << library.error().sentence();
    EXPECT_TRUE(fs::exists(folder / name / ("library.sqlite.before-" + std::to_string(Library::kSchema))));
  }
}

TEST(Library, MessagesAnOlderVersionShowedNowhereStandInTheQueueAfterTheMigration) {
  ScratchFolder folder;
  fs::create_directories(folder / "lib/media");
  {
    SQLite::Database db((folder / "lib/library.sqlite").string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    migrate(db, 0, 5);
    db.exec("INSERT INTO athlete(name) VALUES('Ines')");
    db.exec(
        "INSERT INTO message(key, athlete, from_name, from_address, subject, received_on, body, original, fields, "
        "troubles) VALUES('1@a', 1, 'Ines', 'ines@tide.invalid', 'x', '2026-01-02', 'my knee hurts', 'h', '[]', '[]')");
  }
  auto library = *Library::open(folder / "lib");
  ASSERT_EQ(library.submissions()->size(), 1u);
  EXPECT_EQ(library.submissions()->front().kind, SubmissionKind::Note);
  EXPECT_EQ(library.submissions()->front().message, "my knee hurts");
  EXPECT_EQ(library.messages(AthleteId(1))->front().mail_id, "1@a");
}

// In a process of its own, in which no file may grow by a byte: as on a full disk.
TEST(Library, OnADiskThatTakesNothingCanBeReadAndSaysSo) {
  Club c;
  const std::size_t rows = c.library.submissions()->size();
  c.library = *Library::open(c.folder / "elsewhere");
  const pid_t child = fork();
  if (child == 0) {
    signal(SIGXFSZ, SIG_IGN);
    const rlimit nothing{0, 0};
    setrlimit(RLIMIT_FSIZE, &nothing);
    auto reading = Library::open(c.place);
    if (!reading) _exit(1);
    if (reading->readOnly().empty()) _exit(2);
    if (reading->submissions()->size() != rows) _exit(3);
    Athlete fresh;
    fresh.name = "New";
    const auto kept = reading->addAthlete(fresh);
    if (kept) _exit(4);
    if (kept.error().what != reading->readOnly()) _exit(5);
    _exit(0);
  }
  int status = -1;
  waitpid(child, &status, 0);
  ASSERT_TRUE(WIFEXITED(status));
  EXPECT_EQ(WEXITSTATUS(status), 0) << "1 not opened, 2 not said, 3 not read, 4 called kept, 5 not why";
  EXPECT_TRUE(Library::open(c.place)->readOnly().empty()) << "with room again all is well";
}

TEST(Check, SeesMissingMailsAndStrayFilms) {
  Club c;
  EXPECT_TRUE(c.library.check()->empty());
  c.folder.write("lib/media/stray.mp4", "nobody's");
  for (const auto& entry : fs::directory_iterator(c.place / "mail")) fs::remove(entry.path());
  std::string said;
  const auto troubles = *c.library.check();
  for (const auto& t : troubles) said += t + "\n";
  EXPECT_NE(said.find("stray.mp4"), std::string::npos);
  EXPECT_NE(said.find("Orlaverbatim's message"), std::string::npos);
}

TEST(Outgoing, ALetterHandedOverIsNotTakenBack) {
  Club c;
  const auto id = c.library.outgoing()->front().id;
  ASSERT_TRUE(c.library.setOutgoingState(id, OutgoingState::HandedOver, "2026-11-27"));
  EXPECT_EQ(c.library.outgoing()->front().handed_on, "2026-11-27");
  EXPECT_EQ(c.library.setOutgoingState(id, OutgoingState::TakenBack, "2026-11-27").error().code, ErrorCode::WrongUse);
}

TEST(Dates, AreSpokenAsPeopleWriteThemAndKeepOffHolidays) {
  EXPECT_EQ(spoken("2026-11-16"), "16 Nov 2026");
  EXPECT_EQ(spoken("garbage"), "garbage");
  EXPECT_TRUE(isDate("2028-02-29"));
  EXPECT_FALSE(isDate("2026-02-29"));
  EXPECT_FALSE(isDate("2026-1-1"));
  EXPECT_EQ(reviewDay("2026-11-27", 4), "2026-12-27") << "not on Christmas day";
  EXPECT_EQ(reviewDay("2026-11-27", 1), "2026-12-04");
}

}  // namespace
}  // namespace jib::library
