// SPDX-License-Identifier: GPL-3.0-or-later
// Clips are looked at while the coach does something else, and that steps aside when a review is opened.
#include "desk/jobs/preparer.h"

#include <gtest/gtest.h>

#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>

#include "core/exchange/intake/prepare.h"
#include "core/exchange/mail/mail.h"
#include "desk/library_page/commands/send_letter.h"
#include "desk/library_page/letter_box.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

struct Waiting {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");

  library::SubmissionId add(const std::filesystem::path& clip) {
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.athlete = *library.addAthlete({library::AthleteId(0), "Ola", "", "balanced"});
    s.received_on = "2026-11-20";
    Task task;
    return *library.addSubmission(s, clip, task);
  }
};

TEST(Preparer, LooksAtWhatIsWaitingAndThenRests) {
  Waiting w;
  const auto id = w.add(JIB_MADE_CLIP);
  const auto broken = w.add(w.folder.write("broken.mp4", "words"));
  Preparer preparer(w.library.folder());
  QSignalSpy done(&preparer, &Preparer::prepared), idle(&preparer, &Preparer::idle);
  preparer.wake();
  ASSERT_TRUE(QTest::qWaitFor([&] { return idle.count() == 1; }, 120000));
  EXPECT_EQ(done.count(), 2);
  EXPECT_FALSE(preparer.busy());
  EXPECT_FALSE(w.library.tracing(id)->empty());
  EXPECT_EQ(w.library.submission(broken)->state, library::SubmissionState::NeedsVideo);
  preparer.wake();
  ASSERT_TRUE(QTest::qWaitFor([&] { return idle.count() == 2; }, 120000));
  EXPECT_EQ(done.count(), 2) << "nothing is looked at twice";
}

TEST(Preparer, StepsAsideAtOnceAndKeepsNothingHalfDone) {
  Waiting w;
  const auto id = w.add(JIB_MADE_CLIP);
  Preparer preparer(w.library.folder());
  QSignalSpy began(&preparer, &Preparer::began), done(&preparer, &Preparer::prepared);
  preparer.wake();
  ASSERT_TRUE(QTest::qWaitFor([&] { return began.count() == 1; }, 60000));
  EXPECT_EQ(began.front().front().toInt(), 1);
  preparer.pause();
  EXPECT_FALSE(preparer.busy());
  QTest::qWait(50);
  EXPECT_EQ(done.count(), 0);
  EXPECT_EQ(exchange::unprepared(w.library)->size(), 1u);
  EXPECT_TRUE(w.library.tracing(id)->empty());
}

exchange::Dispatch letterTo(const std::string& address, exchange::Letter letter) {
  exchange::Dispatch out;
  out.to_address = address;
  out.letter = std::move(letter);
  return out;
}

// The box with what the page does about its wish.
struct SendingBox {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  LetterBox box{library};
  QUndoStack undo;
  SendingBox() {
    EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
    QObject::connect(&box, &LetterBox::sendRequested, &box, [this](const exchange::Dispatch& letter) {
      undo.push(new SendLetter(library, letter, [this](library::SubmissionId, const QString& trouble) {
        if (!trouble.isEmpty()) box.complain(trouble);
      }));
    });
  }
  void click(const char* name) { box.findChild<QPushButton*>(name)->click(); }
};

TEST(LetterBox, KeepsTheWordsWhenTheOutboxCannotBeWritten) {
  SendingBox s;
  // A file stands where the folder should be.
  s.folder.write("lib/outbox", "in the way");
  s.box.write(letterTo("ines@tide.invalid", {"Subject", "Hi Ines"}));
  s.click("putInOutbox");
  EXPECT_TRUE(s.library.outgoing()->empty());
  EXPECT_EQ(s.undo.count(), 0) << "what was not sent is no step to go back over";
  EXPECT_FALSE(s.box.isHidden()) << "nothing is lost";
  EXPECT_EQ(s.box.text(), "Hi Ines");
  EXPECT_FALSE(s.box.findChild<QLabel*>("letterTrouble")->isHidden());
}

TEST(LetterBox, SendsThePageAlongAndNothingWithoutAnAddress) {
  SendingBox s;
  s.box.write(letterTo("", {"How to film", "Hi"}));
  EXPECT_FALSE(s.box.findChild<QPushButton*>("putInOutbox")->isEnabled());
  s.box.write(letterTo("ines@tide.invalid", {"How to film", "Hi"}), "<p>page</p>");
  s.click("putInOutbox");
  const auto out = *s.library.outgoing();
  ASSERT_EQ(out.size(), 1u);
  EXPECT_TRUE(s.box.isHidden());
  const std::string bytes = tests::bytesOf(s.library.outgoingFile(out.front()));
  EXPECT_NE(bytes.find("how-to-film.html"), std::string::npos);
  EXPECT_EQ(exchange::readMail(bytes)->from_address, "mara@quill.invalid") << "it comes from the coach";
}

TEST(LetterBox, SaysWhoMustBeKnownBeforeALetterCanGo) {
  SendingBox s;
  ASSERT_TRUE(s.library.setCoach({}));
  s.box.write(letterTo("ines@tide.invalid", {"Subject", "Hi Ines"}));
  s.click("putInOutbox");
  EXPECT_TRUE(s.library.outgoing()->empty()) << "no letter is signed with a made-up coach";
  EXPECT_NE(s.box.findChild<QLabel*>("letterTrouble")->text().indexOf("Settings"), -1);
}

TEST(LetterBox, ALetterIsTakenBackByUndoUntilItWasHandedOver) {
  SendingBox s;
  s.box.write(letterTo("ines@tide.invalid", {"Subject", "Hi Ines"}));
  s.click("putInOutbox");
  const auto file = s.library.outgoingFile(s.library.outgoing()->front());
  s.undo.undo();
  EXPECT_EQ(s.library.outgoing()->front().state, library::OutgoingState::TakenBack);
  EXPECT_FALSE(std::filesystem::exists(file)) << "it no longer lies where mail is fetched from";
  s.undo.redo();
  EXPECT_TRUE(std::filesystem::exists(file));
  ASSERT_TRUE(
      s.library.setOutgoingState(s.library.outgoing()->front().id, library::OutgoingState::HandedOver, "2026-11-27"));
  s.undo.undo();
  EXPECT_EQ(s.library.outgoing()->front().state, library::OutgoingState::HandedOver) << "what has gone has gone";
  EXPECT_FALSE(s.box.findChild<QLabel*>("letterTrouble")->isHidden());
}

}  // namespace
}  // namespace jib::desk
