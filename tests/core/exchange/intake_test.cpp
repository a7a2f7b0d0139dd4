// SPDX-License-Identifier: GPL-3.0-or-later
// What trials with strange mail found, each as a test: nothing is lost, nothing blocks the rest, and two programs that
// import at once do not meet.
#include <SQLiteCpp/SQLiteCpp.h>
#include <gtest/gtest.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cstdlib>
#include <fstream>
#include <map>
#include <set>

#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/mailbox.h"
#include "core/exchange/mail/spool.h"
#include "core/exchange/mail/zip.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/exchange/made_zip.h"

namespace jib::exchange {
namespace {

namespace fs = std::filesystem;
using library::Library;
using library::SubmissionKind;
using library::SubmissionState;
using tests::filePart;
using tests::filmNumber;
using tests::header;
using tests::multipart;
using tests::ScratchFolder;
using tests::textPart;
using tests::zipOf;

const std::string kInes = "Ines Calder <ines@tide.invalid>";

struct Intake {
  ScratchFolder folder;
  Library library = *Library::open(folder / "library");
  Task task;
  int count = 0;

  Received take(const std::string& bytes) { return from(folder.write("m" + std::to_string(++count) + ".eml", bytes)); }
  Received from(const fs::path& source) {
    auto r = receive(library, source, "2026-11-27", task);
    EXPECT_TRUE(r) << r.error().sentence();
    return r ? *r : Received{};
  }
  library::Submission newest() { return library.submissions()->front(); }
  library::Message newestMessage() { return *library.message(*newest().message_id); }
  // What was read from the newest message, with its words.
  std::optional<library::MessageField> read(const char* field) {
    const auto m = newestMessage();
    const auto* f = fieldNamed(m.fields, field);
    return f ? std::optional(*f) : std::nullopt;
  }
};

TEST(Intake, AMessageOfWordsOnlyStandsInTheQueueAsANote) {
  Intake in;
  in.take(header(kInes, "1@a", "hello") + textPart("My left knee hurts badly. Please call me."));
  const auto row = in.newest();
  EXPECT_EQ(row.kind, SubmissionKind::Note);
  EXPECT_EQ(row.state, SubmissionState::New);
  EXPECT_TRUE(in.read("pain"));
}

TEST(Intake, WordsThatAskAreAQuestionAndWordsWithoutTheirFilmWaitForIt) {
  Intake in;
  in.take(header(kInes, "1@a", "hello") + textPart("May I squat on Friday?"));
  EXPECT_EQ(in.newest().kind, SubmissionKind::Question);
  in.take(header(kInes, "2@a", "set") + textPart("Squat 140 kg x 3, video attached."));
  EXPECT_EQ(in.newest().state, SubmissionState::AwaitingFilm);
}

TEST(Intake, ALaterFilmJoinsTheRowThatWaitsForItWithWhatWasConfirmed) {
  Intake in;
  in.take(header(kInes, "1@a", "set") + textPart("Squat 140 kg x 3, video follows."));
  const auto waiting = in.newest();
  auto fields = in.newestMessage().fields;
  for (auto& f : fields) f.confirmed = true;
  ASSERT_TRUE(in.library.editFields(*waiting.message_id, [&](auto& all) { all = fields; }));
  in.take(header(kInes, "2@a", "Re: set", "In-Reply-To: <1@a>\r\n") +
          multipart({textPart("Here it is."), filePart("set.mp4", filmNumber(1))}));
  ASSERT_EQ(in.library.submissions()->size(), 1u) << "one row, not two";
  const auto row = in.newest();
  EXPECT_EQ(row.id, waiting.id);
  EXPECT_EQ(row.state, SubmissionState::New);
  EXPECT_EQ(row.load_kg, 140);
  EXPECT_NE(row.message.find("Here it is."), std::string::npos);
  EXPECT_TRUE(in.read("load_kg")->confirmed);
  EXPECT_EQ(in.library.thread(row.athlete, in.newestMessage().thread)->size(), 2u);
}

TEST(Intake, AFilmOfAnotherSetDoesNotJoinTheRowThatWaits) {
  Intake in;
  in.take(header(kInes, "1@a", "set") + textPart("Squat 140 kg x 3, video follows."));
  const auto waiting = in.newest().id;
  in.take(header(kInes, "2@a", "pull") +
          multipart({textPart("Deadlift 180 kg x 2."), filePart("pull.mp4", filmNumber(1))}));
  in.take(header(kInes, "3@a", "heavier") +
          multipart({textPart("Squat 150 kg x 1."), filePart("heavier.mp4", filmNumber(2))}));
  ASSERT_EQ(in.library.submissions()->size(), 3u);
  EXPECT_EQ(in.library.submission(waiting)->state, SubmissionState::AwaitingFilm);
  in.take(header(kInes, "4@a", "the set") +
          multipart({textPart("Squat 140 kg x 3."), filePart("set.mp4", filmNumber(3))}));
  EXPECT_EQ(in.library.submissions()->size(), 3u) << "the set that was waited for";
  EXPECT_EQ(in.library.submission(waiting)->state, SubmissionState::New);
}

TEST(Intake, AnotherAthletesThreadIsNotTheirs) {
  Intake in;
  in.take(header(kInes, "1@a", "set") + textPart("Squat 140 kg x 3, video follows."));
  in.take(header("Lena Roe <lena@tide.invalid>", "2@a", "Re: set", "In-Reply-To: <1@a>\r\n") +
          multipart({textPart("Mine too."), filePart("mine.mp4", filmNumber(1))}));
  EXPECT_EQ(in.library.submissions()->size(), 2u);
  const auto m = in.newestMessage();
  EXPECT_EQ(in.library.thread(m.athlete, m.thread)->size(), 1u);
}

TEST(Intake, AnAnswerBetweenAndBelowQuotesIsReadAndTheQuotesAreKept) {
  Intake in;
  in.take(header(kInes, "1@a", "Re: cue") +
          textPart("On Fri, Coach wrote:\r\n> How was it?\r\n\r\nMy hip hurts.\r\n> And Monday?\r\nFine."));
  const auto m = in.newestMessage();
  EXPECT_EQ(m.body, "My hip hurts.\nFine.");
  EXPECT_NE(m.quoted.find("And Monday?"), std::string::npos);
  ASSERT_NE(fieldNamed(m.fields, "pain"), nullptr);
  // Inside what is quoted without marks pain is proposed too; what our own letters say of it is not.
  in.take(header(kInes, "2@a", "Re: cue") +
          textPart("Thanks.\r\n\r\nOn Fri, Coach wrote:\r\nHow was it?\r\nMy shoulder aches."));
  ASSERT_TRUE(in.read("pain"));
  EXPECT_NE(in.read("pain")->words.find("quoted"), std::string::npos);
  in.take(header(kInes, "3@a", "Re: cue") +
          textPart("Thanks.\r\n\r\nOn Fri, Coach wrote:\r\nIf anything hurts, stop and ask a physician."));
  EXPECT_FALSE(in.read("pain"));
}

TEST(Intake, OneMailThatCannotBeKeptKeepsNoOtherFromItsTurn) {
  Intake in;
  for (const char* part : {"new", "cur"}) fs::create_directories(in.folder / "box" / part);
  in.folder.write("box/new/1",
                  header(kInes, "1@a", "x") +
                      multipart({textPart("squat 100 kg"), filePart("a." + std::string(250, 'e'), filmNumber(1))}));
  in.folder.write("box/new/2", std::string("\x00\x01\x02", 3));
  in.folder.write("box/new/3", header(kInes, "3@a", "x") + textPart("squat 110 kg, film follows"));
  const auto r = in.from(in.folder / "box");
  EXPECT_EQ(r.messages, 2) << "a long extension is no full disk";
  EXPECT_TRUE(fs::is_empty(in.folder / "box/new"));
  EXPECT_TRUE(fs::exists(in.folder / "box/refused/2")) << "what is no message is put aside, not thrown away";
}

TEST(Intake, TwoMessagesWithOneIdAreTwoAndTheSameOneTwiceIsOne) {
  Intake in;
  const auto first = header(kInes, "same@a", "x") + multipart({textPart("100 kg"), filePart("a.mp4", filmNumber(1))});
  in.take(first);
  EXPECT_EQ(in.take(header(kInes, "same@a", "x") + multipart({textPart("100 kg"), filePart("a.mp4", filmNumber(2))}))
                .messages,
            1)
      << "its film is another";
  EXPECT_EQ(in.take("Received: by another way\r\n" + first).known, 1);
  EXPECT_EQ(in.library.submissions()->size(), 2u);
}

TEST(Intake, AFilmSentWithMixedLineEndingsKeepsItsLastBytes) {
  for (int extra = 0; extra < 4; ++extra) {
    Intake in;
    std::string part = filePart("a.mp4", filmNumber(extra));
    std::string body = part.substr(part.find("\r\n\r\n") + 4);
    body.erase(std::remove(body.begin(), body.end(), '\r'), body.end());
    in.take(header(kInes, "1@a", "x") +
            multipart({textPart("100 kg"), part.substr(0, part.find("\r\n\r\n") + 4) + body}));
    EXPECT_EQ(tests::bytesOf(in.library.clipFile(in.newest())), filmNumber(extra)) << extra;
  }
}

TEST(Intake, EveryPartIsAccountedFor) {
  Intake in;
  const auto r =
      in.take(header(kInes, "1@a", "x") + multipart({textPart("squat 100 kg"), filePart("a.mp4", filmNumber(1)),
                                                     filePart("back.jpg", "\xff\xd8\xff", "image/jpeg")}));
  ASSERT_EQ(r.accounts.size(), 1u);
  EXPECT_EQ(r.accounts[0], "Ines Calder: 3 parts: message, film a.mp4, picture back.jpg left aside");
  EXPECT_EQ(contentsText(in.newestMessage().contents), "3 parts: message, film a.mp4, picture back.jpg left aside");
}

TEST(Zip, NamesOfEveryAlphabetAreKeptAndTheFileManagersOwnFilesPassedOver) {
  const ScratchFolder folder;
  auto spool = *Spool::open(folder / "incoming");
  const auto zip = folder.write("a.zip", zipOf({{"set/\xC3\xBC"
                                                 "bung.mp4",
                                                 filmNumber(1)},
                                                {"__MACOSX/set/._x.mp4", "junk"},
                                                {"plan.txt", "x"}}));
  const auto held = clipsInZip(zip, spool);
  ASSERT_TRUE(held) << held.error().what;
  ASSERT_EQ(held->clips.size(), 1u);
  EXPECT_EQ(held->clips[0].name,
            "\xC3\xBC"
            "bung.mp4");
  EXPECT_EQ(held->left_aside, std::vector<std::string>{"plan.txt"});
}

TEST(Spool, AllArchivesOfAMessageShareOneBudget) {
  const ScratchFolder folder;
  auto spool = *Spool::open(folder / "incoming");
  EXPECT_TRUE(spool.mayUnpack(1500ull << 20));
  EXPECT_FALSE(spool.mayUnpack(1000ull << 20)) << "six bombs are one bomb";
  spool.clear();
  EXPECT_TRUE(spool.mayUnpack(1000ull << 20));
}

TEST(Spool, SweepsWhatADeadImportLeftAndLeavesALivingOneAlone) {
  const ScratchFolder folder;
  fs::create_directories(folder / "incoming/import-dead");
  folder.write("incoming/import-dead/0.mp4", "half");
  auto living = *Spool::open(folder / "incoming");
  EXPECT_FALSE(fs::exists(folder / "incoming/import-dead"));
  const auto file = living.fresh("a.mp4");
  ASSERT_TRUE(FileSystem::real().write(file, "mine"));
  auto other = *Spool::open(folder / "incoming");
  EXPECT_TRUE(fs::exists(file));
  EXPECT_NE(other.fresh("a.mp4").parent_path(), file.parent_path());
}

TEST(Mailbox, LinesThatOnlyBeginWithFromSplitNothing) {
  const ScratchFolder folder;
  const auto file = folder.write("m.mbox",
                                 "From ines@tide Fri Nov 20 18:04:00 2026\nFrom: ines@tide.invalid\nSubject: a\n\n"
                                 "Squat 100 kg\n\nFrom my side all is well.\n>From the hole it was slow.\n\n"
                                 "From bram@tide\nFrom: bram@tide.invalid\n\nBench 90 kg\n");
  const auto entries = messagesOfMailbox(file);
  ASSERT_TRUE(entries);
  ASSERT_EQ(entries->size(), 2u);
  Intake in;
  EXPECT_EQ(in.from(file).messages, 2);
  const auto all = *in.library.submissions();
  EXPECT_NE(all.back().message.find("From my side"), std::string::npos);
  EXPECT_NE(all.back().message.find("\nFrom the hole"), std::string::npos) << "its mailbox mark is taken off";
}

TEST(Intake, WhatIsNoFileEndsAtOnce) {
  Intake in;
  const auto pipe = in.folder / "pipe";
  ASSERT_EQ(mkfifo(pipe.c_str(), 0600), 0);
  for (const fs::path& source : {pipe, fs::path("/dev/zero")}) {
    const auto r = receive(in.library, source, "2026-11-27", in.task);
    ASSERT_FALSE(r);
    EXPECT_EQ(r.error().code, ErrorCode::CannotRead);
  }
}

TEST(Intake, FoldersInAFolderAndWhatIsLeftAsideAreSaid) {
  Intake in;
  fs::create_directories(in.folder / "club/Rosa");
  in.folder.write("club/Rosa/a.3g2", filmNumber(1));
  in.folder.write("club/plan.pdf", "%PDF");
  const auto r = in.from(in.folder / "club");
  EXPECT_EQ(r.clips, 1);
  ASSERT_EQ(r.troubles.size(), 1u);
  EXPECT_NE(r.troubles[0].find("plan.pdf"), std::string::npos);
  EXPECT_EQ(in.library.athletes()->front().name, "Rosa");
}

TEST(Intake, AReasonNamesTheAthletesOwnFile) {
  Intake in;
  in.take(header(kInes, "1@a", "x") + multipart({textPart("100 kg"), filePart("my set.mp4", "no film at all")}));
  EXPECT_EQ(in.newest().state, SubmissionState::NeedsVideo);
  EXPECT_EQ(in.newest().reason.find("my set.mp4"), 0u) << in.newest().reason;
}

TEST(Intake, AFilmNamedLikeAProtocolIsAFilm) {
  Intake in;
  const auto r = in.from(in.folder.write("12:30.mp4", filmNumber(0)));
  EXPECT_EQ(r.clips, 1);
  EXPECT_EQ(in.newest().state, SubmissionState::New) << in.newest().reason;
}

// Two programs take in one Maildir; each mail's film says whose it is. JIB_RUNS=20 for a longer run.
TEST(Intake, TwoProgramsAtOnceLoseNothingAndMixUpNothing) {
  const char* wanted = std::getenv("JIB_RUNS");
  const int runs = wanted ? std::atoi(wanted) : 2;
  constexpr int kMails = 24;
  for (int run = 0; run < runs; ++run) {
    ScratchFolder folder;
    for (const char* part : {"new", "cur"}) fs::create_directories(folder / "box" / part);
    std::map<std::string, std::string> whose;
    for (int i = 0; i < kMails; ++i) {
      const std::string name = "A" + std::to_string(i % 12);
      whose[sha256Of(filmNumber(i + 1))] = name;
      folder.write("box/new/" + std::to_string(i),
                   header(name + " <" + name + "@tide.invalid>", std::to_string(i) + "@r", "x") +
                       multipart({textPart("squat 100 kg"), filePart("a.mp4", filmNumber(i + 1))}));
    }
    std::vector<pid_t> programs;
    for (int k = 0; k < 2; ++k) {
      const pid_t child = fork();
      if (child == 0) {
        auto library = Library::open(folder / "library");
        Task task;
        const bool fine = library && receive(*library, folder / "box", "2026-11-27", task);
        _exit(fine ? 0 : 1);
      }
      programs.push_back(child);
    }
    for (const pid_t child : programs) {
      int status = 1;
      waitpid(child, &status, 0);
      EXPECT_EQ(status, 0);
    }
    auto library = *Library::open(folder / "library");
    const auto rows = *library.submissions();
    EXPECT_EQ(rows.size(), static_cast<std::size_t>(kMails)) << "run " << run;
    EXPECT_EQ(library.athletes()->size(), 12u) << "nobody stands twice";
    for (const auto& s : rows) EXPECT_EQ(library.athlete(s.athlete)->name, whose[s.clip_hash]);
    EXPECT_TRUE(library.check()->empty());
    EXPECT_TRUE(fs::is_empty(folder / "box/new"));
  }
}

// An import is killed again and again, new mail before it each time: every mail is taken in once, by one athlete.
// JIB_RUNS for more kills; how many of them hit an import at work is printed.
TEST(Intake, KilledInTheMiddleNothingIsLostAndNobodyStandsTwice) {
  const char* wanted = std::getenv("JIB_RUNS");
  const int kills = wanted ? std::atoi(wanted) : 6;
  ScratchFolder folder;
  for (const char* part : {"new", "cur"}) fs::create_directories(folder / "box" / part);
  int mails = 0, hit = 0;
  const auto deliver = [&] {
    for (int n = 0; n < 4; ++n, ++mails)
      folder.write("box/new/" + std::to_string(mails),
                   header("Only One <one@tide.invalid>", std::to_string(mails) + "@k", "x") +
                       multipart({textPart("squat 100 kg"), filePart("a.mp4", filmNumber(mails + 1))}));
  };
  const auto program = [&](useconds_t live_us) {
    const pid_t child = fork();
    if (child == 0) {
      auto library = Library::open(folder / "library");
      Task task;
      if (library) (void)!receive(*library, folder / "box", "2026-11-27", task);
      _exit(0);
    }
    if (live_us > 0) {
      usleep(live_us);
      kill(child, SIGKILL);
    }
    int status = 0;
    waitpid(child, &status, 0);
    hit += WIFSIGNALED(status) ? 1 : 0;
  };
  for (int k = 0; k < kills; ++k) {
    deliver();
    program(static_cast<useconds_t>(2000 + 3000 * (k % 11)));
  }
  EXPECT_GT(hit, kills / 4) << "kills that come too late test nothing";
  std::printf("%d of %d kills hit an import at work\n", hit, kills);
  program(0);
  auto library = *Library::open(folder / "library");
  EXPECT_EQ(library.submissions()->size(), static_cast<std::size_t>(mails));
  EXPECT_EQ(library.athletes()->size(), 1u);
  EXPECT_TRUE(library.check()->empty());
  EXPECT_TRUE(fs::is_empty(folder / "library/incoming")) << "what the killed ones left is swept";
}

TEST(Prepare, AClipWhosePicturesCannotBeDecodedIsMarkedAndNotTriedAgain) {
  Intake in;
  // A whole film's tables with nothing behind them: all frames are listed, none decodes.
  ASSERT_EQ(std::system(("ffmpeg -v error -y -t 2 -i " JIB_MADE_CLIP " -c copy -movflags +faststart " +
                         (in.folder / "fast.mp4").string())
                            .c_str()),
            0);
  const std::string whole = tests::bytesOf(in.folder / "fast.mp4");
  for (const double share : {0.01, 0.05, 0.1, 0.15, 0.2, 0.27}) {
    library::Submission s;
    s.received_on = "2026-11-27";
    const auto cut = in.folder.write(
        "cut.mp4", whole.substr(0, static_cast<std::size_t>(share * static_cast<double>(whole.size()))));
    const auto id = *in.library.addSubmission(s, cut, in.task, "Ines");
    const auto check = prepare(in.library, id, in.task);
    ASSERT_TRUE(check) << check.error().sentence();
    if (check->failed.empty()) continue;  // enough of it came
    EXPECT_EQ(in.library.submission(id)->state, SubmissionState::NeedsVideo);
    EXPECT_FALSE(in.library.submission(id)->reason.empty());
  }
  EXPECT_TRUE(unprepared(in.library)->empty()) << "nothing of it is tried at the next start";
}

TEST(Prepare, AClipThatEndedTheProgramTwiceIsLetAloneUntilAsked) {
  Intake in;
  library::Submission s;
  s.received_on = "2026-11-27";
  const auto id = *in.library.addSubmission(s, in.folder.write("a.mp4", filmNumber(0)), in.task, "Ines");
  const auto hash = in.library.submission(id)->clip_hash;
  // Two programs that are not there any more.
  SQLite::Database database((in.folder / "library/library.sqlite").string(), SQLite::OPEN_READWRITE);
  for (const char* program : {"999999:1", "999998:1"})
    database.exec("INSERT INTO clip_attempt VALUES('" + hash + "', '" + program + "')");
  const auto check = prepare(in.library, id, in.task);
  ASSERT_TRUE(check);
  EXPECT_NE(check->failed.find("stopped twice"), std::string::npos);
  EXPECT_EQ(in.library.submission(id)->state, SubmissionState::New) << "which says nothing against the clip";
  EXPECT_TRUE(unprepared(in.library)->empty());
  ASSERT_TRUE(in.library.forgetCheck(hash));
  EXPECT_EQ(unprepared(in.library)->size(), 1u) << "asked for, it is looked at again";
}

}  // namespace
}  // namespace jib::exchange
