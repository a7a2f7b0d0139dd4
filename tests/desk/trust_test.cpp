// SPDX-License-Identifier: GPL-3.0-or-later
// The window as a coach in a hurry uses it: keys act where they are meant to, nothing is said that is not so, and what
// was done can be undone or is asked first.
#include <gtest/gtest.h>

#include <QtTest>
#include <QtWidgets>
#include <nlohmann/json.hpp>

#include "core/exchange/intake/prepare.h"
#include "core/exchange/mail/mail.h"
#include "core/library/dates.h"
#include "core/tracing/trace_store.h"
#include "desk/desk_window.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/library_page/library_page.h"
#include "desk/outbox/outbox_page.h"
#include "desk/review/key_list.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/exchange/made_mail.h"

namespace jib::desk {
namespace {

using library::SubmissionKind;
using library::SubmissionState;

struct Club {
  tests::ScratchFolder folder;
  std::unique_ptr<DeskWindow> window;
  library::Library records = *library::Library::open(folder / "lib");
  Task task;

  Club() { EXPECT_TRUE(records.setCoach({"Mara Quill", "mara@quill.invalid", false})); }
  library::SubmissionId clip(const std::string& athlete, int film, const std::string& lift = "squat",
                             const std::string& seen = "squat") {
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.received_on = "2026-11-2" + std::to_string(film);
    s.lift = lift;
    s.details.lift_by = library::ToldBy::Words;
    const auto file = folder.write("film" + std::to_string(film) + ".mp4", tests::filmNumber(film));
    const auto id = *records.addSubmission(s, file, task, athlete);
    coaching::ClipCheck check;
    check.view = "side";
    check.lift_seen = seen;
    check.claims = {{"depth", "Depth", coaching::Can::Yes, ""}};
    check.troubles = {{"dark", "The picture is dark.", "turn the lights on"}};
    EXPECT_TRUE(records.saveCheck(records.submission(id)->clip_hash, coaching::checkToJson(check)));
    EXPECT_TRUE(records.addAddress(records.submission(id)->athlete, athlete + "@tide.invalid"));
    return id;
  }
  void traced(library::SubmissionId id) { ASSERT_TRUE(records.saveTracing(id, tests::placedTracing())); }
  DeskWindow& open() {
    window = std::make_unique<DeskWindow>(*library::Library::open(folder / "lib"));
    window->resize(1280, 760);
    window->show();
    window->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window.get()));
    return *window;
  }
  template <class Widget>
  Widget* find(const char* name) {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return window->findChild<Widget*>(QString::fromLatin1(name));
  }
  QTableView* queue() { return find<QTableView>("submissions"); }
  void press(Qt::Key k, Qt::KeyboardModifiers with = {}) {
    QWidget* at = QApplication::focusWidget();
    ASSERT_NE(at, nullptr);
    QTest::keyClick(at, k, with);
    QCoreApplication::processEvents();
  }
  void click(const char* name) {
    auto* button = find<QAbstractButton>(name);
    ASSERT_NE(button, nullptr) << name;
    button->click();
    QCoreApplication::processEvents();
  }
  ReviewPage& review(library::SubmissionId id) {
    window->openSubmission(id.number);
    EXPECT_TRUE(QTest::qWaitFor([&] { return !window->reviewPage()->busy(); }, 60000));
    return *window->reviewPage();
  }
};

TEST(QueueKeys, TheQueueHasThemAtTheStartAndKeepsThemWhateverOpens) {
  Club c;
  for (int i = 1; i <= 4; ++i) c.clip("A" + std::to_string(i), i);
  c.open();
  ASSERT_EQ(QApplication::focusWidget(), c.queue()) << "no Tab is needed to begin";
  for (int row = 0; row < 4; ++row) {
    c.press(Qt::Key_V);
    EXPECT_TRUE(c.find<QPlainTextEdit>("letter")->isVisible()) << "the words are ready";
    EXPECT_EQ(QApplication::focusWidget(), c.queue()) << "and take no key";
    c.press(Qt::Key_Down);
  }
  const auto all = *c.records.submissions();
  for (const auto& s : all) EXPECT_EQ(s.state, SubmissionState::NeedsVideo) << s.id.number;
  EXPECT_TRUE(c.find<QPlainTextEdit>("letter")->toPlainText().startsWith("Hi ")) << "no stray letter was typed into it";
  c.press(Qt::Key_Z, Qt::ControlModifier);
  const auto after = *c.records.submissions();
  EXPECT_EQ(std::count_if(after.begin(), after.end(), [](const auto& s) { return s.state == SubmissionState::New; }), 1)
      << "undo takes back the queue's step, not words";
}

TEST(QueueKeys, LettersActNowhereElse) {
  Club c;
  c.clip("Ola", 1);
  c.open();
  c.find<QLineEdit>("find")->setFocus();
  c.press(Qt::Key_V);
  EXPECT_EQ(c.records.submissions()->front().state, SubmissionState::New);
  c.find<QTabWidget>("side")->setFocus();
  c.press(Qt::Key_X);
  c.press(Qt::Key_C);
  EXPECT_EQ(c.records.submissions()->front().state, SubmissionState::New);
}

TEST(QueueKeys, TabGoesFromPlaceToPlaceAndEscapeLeavesTheLetter) {
  Club c;
  for (int i = 1; i <= 3; ++i) c.clip("A" + std::to_string(i), i);
  c.open();
  c.press(Qt::Key_Tab);
  EXPECT_NE(QApplication::focusWidget(), c.queue()) << "one press leaves the table";
  c.queue()->setFocus();
  c.press(Qt::Key_A);
  EXPECT_EQ(QApplication::focusWidget(), c.find<QPlainTextEdit>("letter"));
  c.press(Qt::Key_Escape);
  EXPECT_EQ(QApplication::focusWidget(), c.queue());
  EXPECT_TRUE(c.find<QPlainTextEdit>("letter")->isVisible()) << "its words stay";
}

TEST(ReviewKeys, PlainLettersActOnTheStageOnly) {
  Club c;
  const auto id = c.clip("Ola", 1);
  c.traced(id);
  c.open();
  auto& page = c.review(id);
  ASSERT_EQ(QApplication::focusWidget(), page.findChild<Stage*>());
  c.press(Qt::Key_2);
  auto* tabs = page.findChild<QTabWidget*>("tabs");
  EXPECT_EQ(tabs->currentIndex(), 1);
  // A click that misses its field, and a sentence typed all the same.
  QTest::mouseClick(page.findChild<QScrollArea*>("cuePanel")->viewport(), Qt::LeftButton, {}, QPoint(3, 3));
  const bool strip = page.findChild<QToolButton*>("meta")->isChecked();
  QTest::keyClicks(QApplication::focusWidget(), "i yspl 1 m");
  EXPECT_EQ(tabs->currentIndex(), 1);
  EXPECT_EQ(page.findChild<QToolButton*>("meta")->isChecked(), strip);
  EXPECT_FALSE(page.player().playing());
  EXPECT_TRUE(page.document().marks().empty());
  c.press(Qt::Key_Escape);
  EXPECT_EQ(QApplication::focusWidget(), page.findChild<Stage*>());
  c.press(Qt::Key_Escape);
  EXPECT_EQ(c.window->reviewPage(), nullptr) << "Escape goes back";
  EXPECT_EQ(QApplication::focusWidget(), c.queue());
}

TEST(WheelGuard, ScrollingPastABoxChangesNothing) {
  Club c;
  const auto id = c.clip("Ola", 1);
  c.traced(id);
  c.open();
  auto& page = c.review(id);
  page.findChild<QTabWidget*>("tabs")->setCurrentIndex(1);
  page.findChild<QToolButton*>("meta")->setChecked(true);
  QCoreApplication::processEvents();
  auto* plate = page.findChild<QComboBox*>("plate");
  const auto wheelOver = [](QWidget* w, int turn = -120) {
    QWheelEvent wheel(QPointF(5, 5), w->mapToGlobal(QPointF(5, 5)), {}, QPoint(0, turn), Qt::NoButton, {},
                      Qt::NoScrollPhase, false);
    QCoreApplication::sendEvent(w, &wheel);
  };
  const int before = plate->currentIndex();
  wheelOver(plate);
  plate->setFocus(Qt::TabFocusReason);
  wheelOver(plate);
  EXPECT_EQ(plate->currentIndex(), before) << "nor with the focus that Tab gave it";
  auto* load = page.findChild<QDoubleSpinBox*>("load");
  const double kg = load->value();
  wheelOver(load, 120);
  EXPECT_EQ(load->value(), kg);
  QTest::mouseClick(load->findChild<QLineEdit*>(), Qt::LeftButton);
  wheelOver(load, 120);
  EXPECT_NE(load->value(), kg) << "clicked into, it turns";
}

TEST(Window, FitsWhatTheScreenLeavesFreeAndDoesNotGrowForWhatIsOpened) {
  Club c;
  const auto id = c.clip("Ola", 1);
  c.traced(id);
  c.open();
  const QRect free(0, 0, 1366, 768 - 52);  // a panel takes its part
  c.window->fitInto(free);
  EXPECT_LE(c.window->height(), free.height());
  EXPECT_LE(c.window->width(), free.width());
  auto& page = c.review(id);
  const QSize fitted = c.window->size();
  for (const char* opened : {"meta", "sides"}) page.findChild<QToolButton*>(opened)->setChecked(true);
  page.findChild<QAction*>("placeAction")->trigger();
  QTest::qWait(50);
  EXPECT_EQ(c.window->size(), fitted);
  auto* reply = page.findChild<QPushButton*>("primary");
  EXPECT_TRUE(c.window->rect().contains(QRect(reply->mapTo(c.window.get(), QPoint()), reply->size())))
      << "the button to return it stays on the screen";
  EXPECT_GE(page.findChild<Stage*>()->height(), 160);
  for (const char* closed : {"meta", "sides"}) page.findChild<QToolButton*>(closed)->setChecked(false);
  QTest::qWait(20);
  EXPECT_EQ(c.window->size(), fitted);
}

TEST(Window, TellsAthleteAndClipAndGoesBackByKeys) {
  Club c;
  const auto id = c.clip("Ola Marsh", 1);
  c.traced(id);
  c.open();
  c.review(id);
  EXPECT_TRUE(c.window->windowTitle().contains("Ola Marsh"));
  EXPECT_TRUE(c.window->windowTitle().contains("21 Nov 2026"));
  c.press(Qt::Key_W, Qt::ControlModifier);
  EXPECT_EQ(c.window->reviewPage(), nullptr);
  EXPECT_EQ(c.window->windowTitle(), "Jagged Jib");
  c.press(Qt::Key_F1);
  auto* help = c.window->findChild<QDialog*>("helpDialog");
  ASSERT_NE(help, nullptr);
  EXPECT_TRUE(help->findChild<QTextBrowser*>()->toPlainText().contains("the manual"));
  help->close();
  c.window->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(c.window.get()));
  c.queue()->setFocus();
  c.press(Qt::Key_Question);
  auto* keys = c.window->findChild<KeyList*>();
  ASSERT_NE(keys, nullptr);
  EXPECT_TRUE(keys->isVisible());
  QStringList told;
  for (const QLabel* l : keys->findChildren<QLabel*>()) told << l->text();
  EXPECT_TRUE(told.contains("Later"));
  EXPECT_TRUE(told.contains("Help")) << "under the headings of the menus";
  c.queue()->setFocus();
  c.press(Qt::Key_Q, Qt::ControlModifier);
  EXPECT_FALSE(c.window->isVisible());
}

TEST(Lift, ABenchPressFiledAsASquatIsNotJudgedAndTheProgramAsks) {
  Club c;
  const auto id = c.clip("Ola", 1, "squat", "bench");
  c.traced(id);  // what an earlier version of the program made of it
  c.open();
  EXPECT_NE(c.find<QLabel>("askLift"), nullptr);
  EXPECT_EQ(c.find<QLabel>("claim_depth"), nullptr) << "nothing green";
  auto& page = c.review(id);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.document().analysis() != nullptr; }, 30000));
  EXPECT_FALSE(page.document().analysis()->isTraced()) << "nothing is judged";
  EXPECT_TRUE(page.document().analysis()->findings.empty());
  EXPECT_TRUE(page.findChild<QLabel*>("whyNot")->text().contains("looks like a bench press"));
  EXPECT_FALSE(page.findChild<QPushButton*>("primary")->isEnabled()) << "no reply can be returned in a hurry";
  // Said to be a squat all the same, it is one: the coach has the last word.
  page.findChild<QPushButton*>("lift_squat")->click();
  EXPECT_TRUE(QTest::qWaitFor(
      [&] {
        const auto a = c.window->reviewPage()->document().analysis();
        return a && a->isTraced();
      },
      120000));
  EXPECT_TRUE(c.records.submission(id)->details.lift_confirmed);
}

TEST(Lift, ChosenInTheQueueIsUndone) {
  Club c;
  const auto id = c.clip("Ola", 1, "squat", "");
  c.open();
  auto* lift = c.find<QComboBox>("lift");
  ASSERT_NE(lift, nullptr);
  const int deadlift = lift->findData("deadlift");
  lift->setCurrentIndex(deadlift);
  emit lift->activated(deadlift);
  QTest::qWait(10);
  EXPECT_EQ(c.records.submission(id)->lift, "deadlift");
  EXPECT_EQ(c.records.submission(id)->details.lift_by, library::ToldBy::Coach);
  c.queue()->setFocus();
  c.press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(c.records.submission(id)->lift, "squat");
}

TEST(BrokenClip, NeverKeepsTheLibraryFromOpeningAndCanBeTriedAgainByHand) {
  Club c;
  library::Submission s;
  s.lift = "squat";
  s.variant = "low-bar";
  s.received_on = "2026-11-21";
  const auto id = *c.records.addSubmission(s, c.folder.write("cut.mp4", "no film"), c.task, "Ola");
  ASSERT_TRUE(exchange::prepare(c.records, id, c.task));
  c.open();
  EXPECT_NE(c.find<QPushButton>("tryAgain"), nullptr);
  auto& page = c.review(id);
  EXPECT_FALSE(page.findChild<QLabel*>("whyNot")->text().isEmpty());
  EXPECT_EQ(page.document().analysis(), nullptr);
  c.window->showLibrary();
  c.click("tryAgain");
  EXPECT_EQ(exchange::unprepared(c.records)->size(), 1u);
}

TEST(Notes, AQuestionIsAnsweredAndTheAnswerUndoneAsOneStep) {
  Club c;
  c.open();
  std::filesystem::create_directories(c.folder / "lib/inbox/new");
  const auto aside = c.folder.write(
      "q.eml", tests::header("Kit <kit@tide.invalid>", "q@a", "Friday") +
                   tests::textPart("On Fri, Mara wrote:\r\n> How was it?\r\n\r\nGood. May I squat on Friday?"));
  std::filesystem::rename(aside, c.folder / "lib/inbox/new/q.eml");
  ASSERT_TRUE(QTest::qWaitFor([&] { return c.queue()->model()->rowCount() == 1; }, 20000));
  ASSERT_EQ(c.records.submissions()->front().kind, SubmissionKind::Question);
  EXPECT_TRUE(c.find<QLabel>("ownWords")->text().contains("May I squat on Friday?"));
  EXPECT_FALSE(c.find<QLabel>("ownWords")->text().contains("How was it?"));
  EXPECT_NE(c.find<QToolButton>("quoted"), nullptr) << "what was quoted is folded, not thrown away";
  c.queue()->setFocus();
  c.press(Qt::Key_A);
  QTest::keyClicks(QApplication::focusWidget(), "Yes, light.");
  c.click("putInOutbox");
  const auto out = c.records.outgoing()->front();
  const auto mail = exchange::readMail(tests::bytesOf(c.records.outgoingFile(out)));
  EXPECT_EQ(mail->subject, "Re: Friday");
  EXPECT_EQ(mail->answers, std::vector<std::string>{"q@a"});
  EXPECT_EQ(c.records.submissions()->front().state, SubmissionState::Returned);
  EXPECT_EQ(c.find<QPushButton>("outbox")->text(), "Outbox (1)");
  EXPECT_EQ(QApplication::focusWidget(), c.queue());
  c.press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(c.records.outgoing()->front().state, library::OutgoingState::TakenBack);
  EXPECT_EQ(c.records.submissions()->front().state, SubmissionState::New);
  EXPECT_EQ(c.find<QPushButton>("outbox")->text(), "Outbox");
}

// Two programs take in the Maildir that the window watches. JIB_RUNS=20 for a longer run.
TEST(Intake, TwoProgramsAndAWindowAtOnceMixUpNothing) {
  const char* wanted = std::getenv("JIB_RUNS");
  const int runs = wanted ? std::atoi(wanted) : 1;
  constexpr int kMails = 18;
  for (int run = 0; run < runs; ++run) {
    Club c;
    c.open();
    std::map<std::string, std::string> whose;
    const auto inbox = c.folder / "lib/inbox";
    QProcess one, two;
    for (int i = 0; i < kMails; ++i) {
      const std::string name = "A" + std::to_string(i % 9);
      whose[sha256Of(tests::filmNumber(i + 1))] = name;
      const auto aside = c.folder.write(
          "m" + std::to_string(i),
          tests::header(name + " <" + name + "@t.invalid>", std::to_string(i) + "@r", "x") +
              tests::multipart({tests::textPart("squat 100 kg"), tests::filePart("a.mp4", tests::filmNumber(i + 1))}));
      std::filesystem::rename(aside, inbox / "new" / std::to_string(i));
      if (i == 4 || i == 9)
        (i == 4 ? one : two)
            .start(QStringLiteral(JIB_COMMAND), {"library", QString::fromStdString((c.folder / "lib").string()),
                                                 "receive", QString::fromStdString(inbox.string())});
      QCoreApplication::processEvents();
    }
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return one.state() == QProcess::NotRunning && two.state() == QProcess::NotRunning; }, 120000));
    // What came last is taken in by whoever watches.
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return std::filesystem::is_empty(inbox / "new") && !c.window->libraryPage().busy(); }, 60000));
    const auto rows = *c.records.submissions();
    EXPECT_EQ(rows.size(), static_cast<std::size_t>(kMails)) << "run " << run;
    for (const auto& s : rows) EXPECT_EQ(c.records.athlete(s.athlete)->name, whose[s.clip_hash]);
    EXPECT_EQ(c.records.athletes()->size(), 9u);
    EXPECT_TRUE(c.records.check()->empty());
  }
}

TEST(Outbox, ShowsWhatWaitsHandsItOverAndKeepsTheMark) {
  Club c;
  c.clip("Ola", 1);
  c.open();
  c.press(Qt::Key_V);
  c.click("putInOutbox");
  c.press(Qt::Key_O, Qt::ControlModifier);
  auto& outbox = c.window->outboxPage();
  ASSERT_TRUE(outbox.isVisible());
  EXPECT_TRUE(QTest::qWaitFor(
      [&] { return c.find<QPlainTextEdit>("outgoingLetter")->toPlainText().contains("turn the lights on"); }, 20000))
      << "looked at before it goes";
  // Edited where it lies, and saved as the box is left.
  auto* letter = c.find<QPlainTextEdit>("outgoingLetter");
  letter->appendPlainText("PS: warm up well.");
  QFocusEvent leaves(QEvent::FocusOut);
  QApplication::sendEvent(letter, &leaves);
  const auto eml = tests::bytesOf(c.records.outgoingFile(c.records.outgoing()->front()));
  EXPECT_NE(eml.find("X-Unsent: 1"), std::string::npos) << "a draft, not a message that came";
  const auto reworded = exchange::readMail(eml);
  ASSERT_TRUE(reworded);
  EXPECT_NE(reworded->text.find("PS: warm up well."), std::string::npos);
  EXPECT_NE(reworded->text.find("turn the lights on"), std::string::npos);
  QStringList opened;
  outbox.setOpener([&](const QString& program, const QStringList& arguments, const std::function<void()>&) {
    opened << program << arguments;
  });
  outbox.findChild<QPushButton*>("primary")->click();
  ASSERT_EQ(opened.size(), 2);
  EXPECT_TRUE(opened[1].endsWith(".eml"));
  EXPECT_EQ(c.records.outgoing()->front().state, library::OutgoingState::HandedOver);
  // A mail program that was asked need not have done it.
  auto* did_not_go = outbox.findChild<QPushButton*>("takeBack");
  EXPECT_EQ(did_not_go->text(), "It didn't go");
  did_not_go->click();
  EXPECT_EQ(c.records.outgoing()->front().state, library::OutgoingState::Waiting);
  c.click("markSent");
  c.press(Qt::Key_Escape);
  EXPECT_EQ(QApplication::focusWidget(), c.queue());
  EXPECT_TRUE(c.find<QLabel>("written")->text().contains("opened in mail app")) << "and the row says so";
}

TEST(Outbox, WithoutAMailProgramNothingIsCalledSent) {
  Club c;
  c.clip("Ola", 1);
  c.open();
  c.press(Qt::Key_V);
  c.click("putInOutbox");
  c.window->showOutbox();
  c.window->outboxPage().setOpener(
      [](const QString&, const QStringList&, const std::function<void()>& failed) { failed(); });
  c.window->outboxPage().findChild<QPushButton*>("primary")->click();
  EXPECT_EQ(c.records.outgoing()->front().state, library::OutgoingState::Waiting);
  EXPECT_TRUE(c.find<QLabel>("outboxStatus")->text().contains(".eml")) << "and where it lies is said";
  c.click("markSent");
  EXPECT_EQ(c.records.outgoing()->front().state, library::OutgoingState::HandedOver);
}

TEST(Delete, SaysWhatGoesBeforeItGoes) {
  Club c;
  c.clip("Ola", 1);
  c.open();
  c.press(Qt::Key_Delete);
  const auto lines = c.window->findChildren<QLabel*>("goes");
  ASSERT_GE(lines.size(), 2);
  c.click("keepIt");
  EXPECT_EQ(c.records.submissions()->size(), 1u);
  c.click("deleteSubmission");
  c.click("deleteForGood");
  EXPECT_TRUE(c.records.submissions()->empty());
  EXPECT_TRUE(std::filesystem::is_empty(c.folder / "lib/media"));
}

TEST(Athletes, AreExportedAndDeletedFromTheirPanel) {
  Club c;
  c.clip("Ola", 1);
  c.open();
  auto* panel = c.window->findChild<AthletePanel*>();
  panel->exportInto(QString::fromStdString(c.folder.path().string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !panel->busy(); }, 20000));
  EXPECT_TRUE(std::filesystem::exists(c.folder / ("Ola-" + library::today()) / "athlete.json"));
  c.click("deleteAthlete");
  EXPECT_FALSE(c.window->findChildren<QLabel*>("goes").isEmpty());
  c.click("deleteForGood");
  EXPECT_TRUE(c.records.athletes()->empty());
  EXPECT_TRUE(c.records.submissions()->empty());
}

TEST(FirstStart, AsksWhoTheCoachIsAndSignsNothingBefore) {
  Club c;
  ASSERT_TRUE(c.records.setCoach({}));
  c.clip("Ola", 1);
  c.open();
  ASSERT_TRUE(c.find<QLineEdit>("welcomeName")->isVisible());
  c.find<QLineEdit>("welcomeName")->setText("Mara Quill");
  c.find<QLineEdit>("welcomeAddress")->setText("nonsense");
  c.click("welcomeKeep");
  EXPECT_TRUE(c.records.coach()->name.empty());
  c.find<QLineEdit>("welcomeAddress")->setText("mara@quill.invalid");
  c.click("welcomeKeep");
  EXPECT_EQ(c.records.coach()->name, "Mara Quill");
  EXPECT_FALSE(c.find<QLineEdit>("welcomeName")->isVisible());
}

TEST(Settings, BackUpAndRestoreByButton) {
  Club c;
  c.clip("Ola", 1);
  CoachDialog dialog(c.records);
  dialog.backUpTo(QString::fromStdString((c.folder / "all.zip").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !dialog.busy(); }, 20000));
  EXPECT_TRUE(dialog.findChild<QLabel*>("coachTold")->text().contains("read back and complete"));
  dialog.restoreInto(QString::fromStdString((c.folder / "all.zip").string()),
                     QString::fromStdString((c.folder / "lib").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !dialog.busy(); }, 20000));
  EXPECT_TRUE(dialog.findChild<QLabel*>("coachTold")->text().contains("holds something already"));
}

}  // namespace
}  // namespace jib::desk
