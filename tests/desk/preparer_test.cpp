// SPDX-License-Identifier: GPL-3.0-or-later
// Clips are looked at while the coach does something else, and that steps aside when a review is opened.
#include "desk/jobs/preparer.h"

#include <gtest/gtest.h>

#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>

#include "core/exchange/mail.h"
#include "core/exchange/prepare.h"
#include "desk/library_page/letter_box.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

struct Waiting {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");

  library::SubmissionId add(const std::filesystem::path& clip) {
    library::Submission s;
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

TEST(LetterBox, KeepsTheWordsWhenTheOutboxCannotBeWritten) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  // A file stands where the folder should be.
  folder.write("lib/outbox", "in the way");
  LetterBox box(library);
  box.write("ines@tide.invalid", {"Subject", "Hi Ines"});
  QSignalSpy sent(&box, &LetterBox::sent);
  box.findChild<QPushButton*>("putInOutbox")->click();
  EXPECT_EQ(sent.count(), 0);
  EXPECT_FALSE(box.isHidden()) << "nothing is lost";
  EXPECT_EQ(box.text(), "Hi Ines");
  const auto labels = box.findChildren<QLabel*>();
  EXPECT_TRUE(std::any_of(labels.begin(), labels.end(),
                          [](QLabel* l) { return !l->isHidden() && l->property("tone").toString() == "bad"; }));
}

TEST(LetterBox, SendsThePageAlongAndNothingWithoutAnAddress) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  ASSERT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
  LetterBox box(library);
  box.write("", {"How to film", "Hi"});
  EXPECT_FALSE(box.findChild<QPushButton*>("putInOutbox")->isEnabled());
  box.write("ines@tide.invalid", {"How to film", "Hi"}, "<p>page</p>");
  QSignalSpy sent(&box, &LetterBox::sent);
  box.findChild<QPushButton*>("putInOutbox")->click();
  ASSERT_EQ(sent.count(), 1);
  EXPECT_TRUE(box.isHidden());
  const std::string bytes = tests::bytesOf(sent.front().front().toString().toStdString());
  EXPECT_NE(bytes.find("how-to-film.html"), std::string::npos);
  EXPECT_EQ(exchange::readMail(bytes)->from_address, "mara@quill.invalid") << "it comes from the coach";
}

}  // namespace
}  // namespace jib::desk
