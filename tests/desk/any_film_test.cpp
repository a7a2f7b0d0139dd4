// SPDX-License-Identifier: GPL-3.0-or-later
// Any film can be answered: from the queue to the returned reply with a cue of the coach's own, a drawn line and a
// chosen frame, whether or not anything was traced. And what the program found can be put right.
#include <gtest/gtest.h>

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableView>
#include <QTest>
#include <QTextBrowser>
#include <QTimer>
#include <QToolButton>

#include "core/exchange/intake/importer.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/trace_store.h"
#include "desk/desk_window.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "desk/review/upright_dialog.h"
#include "tests/desk/office.h"

namespace jib::desk {
namespace {

// How many pixels of a film's frames have the coach's magenta, the most in one frame.
int magentaIn(const std::filesystem::path& film) {
  auto reader = footage::FrameReader::open(film);
  int most = 0;
  for (auto f = reader->next(footage::Pixels::Colour); f && *f; f = reader->next(footage::Pixels::Colour)) {
    // The picture's side only: the strip of words has the coach's colour anyway.
    const cv::Mat picture = (*f)->picture(cv::Rect(0, 0, 720, 800));
    cv::Mat mask;
    cv::inRange(picture, cv::Scalar(100, 0, 160), cv::Scalar(200, 90, 255), mask);
    most = std::max(most, cv::countNonZero(mask));
  }
  return most;
}

struct Film {
  const char* name;
  const char* words;
  const char* view;  // nullptr: as the tracing says
  bool traced;
};
std::ostream& operator<<(std::ostream& out, const Film& f) {
  return out << f.name;
}

class AnyFilm : public testing::TestWithParam<Film> {};

TEST_P(AnyFilm, GoesFromTheQueueToAReplyWithAnOwnCueADrawnLineAndAChosenFrame) {
  const Film film = GetParam();
  Office office;
  const auto made = office.folder / "made.mp4";
  ASSERT_TRUE(tests::writeCountingClip(made, 60, 480, 360));
  const std::string clip = film.traced ? std::string(JIB_MADE_CLIPS) + "/small-bench.mp4" : made.string();
  const auto id = office.send("Kit Marlin", clip, film.words);
  if (film.view) office.tell(id, film.view);
  if (film.traced) traceAsAPress(office, id);
  {
    auto& page = office.open(id);
    EXPECT_EQ(page.document().analysis()->isTraced(), film.traced);
    const auto before = page.document().choice();
    const double t = page.document().analysis()->motion.times_s[30];

    // A cue of one's own, on a frame of one's choice.
    office.press(Qt::Key_N);
    const int index = static_cast<int>(page.document().choice().cues.size()) - 1;
    in<QComboBox>(page, QStringLiteral("wording%1").arg(index))->setEditText("Pack the shoulders, then unrack.");
    auto* title = in<QLineEdit>(page, QStringLiteral("ownTitle%1").arg(index));
    title->setFocus();
    QTest::keyClicks(title, "Loose shoulders");
    page.player().goTo(t);
    in<QPushButton>(page, QStringLiteral("useFrame%1").arg(index))->click();
    ASSERT_EQ(page.document().choice().cues.back().t_s, t);
    EXPECT_EQ(page.document().choice().cues.back().title, "Loose shoulders");

    // A line over the whole clip.
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
    auto& stage = *page.findChild<Stage*>();
    office.press(Qt::Key_D);
    in<QToolButton>(page, "draw_line")->click();
    clickOn(stage, {60, 60});
    clickOn(stage, {260, 200});
    ASSERT_EQ(page.document().sketch().shapes.size(), 1u);
    office.press(Qt::Key_D);

    // Undo walks all the way back, and redo forth.
    auto& undo = page.document().undoStack();
    while (undo.canUndo()) undo.undo();
    EXPECT_TRUE(page.document().choice() == before);
    EXPECT_TRUE(page.document().sketch().empty());
    while (undo.canRedo()) undo.redo();
    ASSERT_EQ(page.document().sketch().shapes.size(), 1u);

    auto* reply = in<QPushButton>(page, "primary");
    ASSERT_TRUE(reply->isEnabled());
    QSignalSpy posted(&page, &ReviewPage::replyPosted);
    reply->click();
    ASSERT_TRUE(QTest::qWaitFor([&] { return posted.count() == 1; }, kPatience_ms));
    const auto mail = exchange::readMail(tests::bytesOf(posted.front().front().toString().toStdString()));
    ASSERT_TRUE(mail);
    EXPECT_NE(mail->text.find("Loose shoulders.\n  Cue: Pack the shoulders, then unrack."), std::string::npos)
        << mail->text;
    EXPECT_EQ(mail->text.find("traced"), std::string::npos) << "what the program could not do is no matter of theirs";
  }
  EXPECT_EQ(office.library.submission(id)->state, library::SubmissionState::Returned);
  EXPECT_GT(magentaIn(office.replyFile(id, ".mp4")), 300) << "the line is in the film";
  const std::string html = tests::bytesOf(office.replyFile(id, ".html"));
  EXPECT_NE(html.find("Pack the shoulders, then unrack."), std::string::npos);
  EXPECT_NE(html.find("<img"), std::string::npos) << "with its still";
  {
    auto& page = office.open(id);
    EXPECT_EQ(page.document().sketch().shapes.size(), 1u) << "reopening restores all";
    EXPECT_EQ(page.document().choice().cues.back().wording, "Pack the shoulders, then unrack.");
  }
  // An own wording turns up for the next athlete.
  const auto next = office.send("Ines Calder", made.string(), film.words);
  office.tell(next, "side");
  auto& page = office.open(next);
  office.press(Qt::Key_N);
  const int index = static_cast<int>(page.document().choice().cues.size()) - 1;
  auto* wording = in<QComboBox>(page, QStringLiteral("wording%1").arg(index));
  EXPECT_GE(wording->findText("Pack the shoulders, then unrack."), 0);
}

INSTANTIATE_TEST_SUITE_P(OfAnyLiftAndView, AnyFilm,
                         testing::Values(Film{"front squat", "Squat 100 kg x 3", "front", false},
                                         Film{"bench", "Bench press 80 kg x 2, paused.", nullptr, true},
                                         Film{"nothing round", "Squat 100 kg x 3", "side", false}));

// The dialog is answered while it is open.
void setRight(Office& office, const std::function<void(UprightDialog&)>& answer) {
  QTimer::singleShot(0, [&] {
    auto* dialog = office.window->findChild<UprightDialog*>();
    ASSERT_NE(dialog, nullptr);
    answer(*dialog);
    dialog->findChild<QPushButton*>("useUpright")->click();
  });
  office.window->reviewPage()->findChild<QAction*>("uprightAction")->trigger();
}

TEST(PictureSetRight, IsTurnedAndMirroredWithItsDrawingsAndTakenBackWithUndo) {
  Office office;
  const auto film = office.folder / "sideways.mp4";
  ASSERT_TRUE(tests::writeCountingClip(film, 40, 480, 360));
  const auto id = office.send("Kit Marlin", film, "Squat 100 kg x 3");
  office.tell(id, "side");
  office.open(id);
  const auto size = [&] { return office.window->reviewPage()->findChild<Stage*>()->picture().size(); };
  const auto anchor = [&] { return office.window->reviewPage()->document().sketch().shapes.at(0).anchors.at(0).place; };
  const auto settle = [&](const QSize& wanted) {
    return QTest::qWaitFor(
        [&] {
          auto* page = office.window->reviewPage();
          return page && page->settled() && page->document().analysis() && size() == wanted;
        },
        kPatience_ms);
  };
  ASSERT_EQ(size(), QSize(480, 360));
  office.press(Qt::Key_D);
  in<QToolButton>(*office.window->reviewPage(), "draw_line")->click();
  auto& stage = *office.window->reviewPage()->findChild<Stage*>();
  clickOn(stage, {60, 60});
  clickOn(stage, {260, 200});
  office.press(Qt::Key_D);
  const PixelPoint drawn = anchor();

  setRight(office, [](UprightDialog& d) {
    d.findChild<QPushButton*>("turnRight")->click();
    d.findChild<QCheckBox*>("mirrorPicture")->click();
    EXPECT_EQ(d.chosen(), (footage::Upright{90, true, 1}));
    const QPixmap seen = d.findChild<QLabel*>("uprightScreen")->pixmap();
    EXPECT_GT(seen.height(), seen.width()) << "it shows what will be";
  });
  ASSERT_TRUE(settle({360, 480}));
  EXPECT_NEAR(anchor().x, drawn.y, 1e-6) << "the drawing went with the picture";
  EXPECT_NEAR(anchor().y, drawn.x, 1e-6);

  office.window->activateWindow();  // the dialog had been
  ASSERT_TRUE(QTest::qWaitForWindowActive(office.window.get()));
  QTest::keyClick(office.window->reviewPage(), Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(settle({480, 360}));
  EXPECT_NEAR(anchor().x, drawn.x, 1e-6);
}

TEST(PutRight, ARepIsSplitAndAnEventMovedAndTheNumbersFollow) {
  Squat office;
  auto& page = office.open(office.id);
  auto& document = page.document();
  const auto reps = document.analysis()->reps;
  ASSERT_EQ(reps.size(), 2u);
  EXPECT_TRUE(in<QLabel>(page, "camera")->text().contains("The message says 3 reps, the clip shows 2"));
  const auto tempo = [&] {
    return lifts::find(document.analysis()->measures.reps.at(0), "descent_s")->measured()->value;
  };
  const double was = tempo();

  // The bottom of the first rep is dragged half a second later, on the time line.
  auto& scrubber = *page.findChild<Scrubber*>();
  const auto at = [&](double t, int y) { return QPoint(static_cast<int>(std::lround(scrubber.xAt(t))), y); };
  const double bottom = reps[0].bottom_t();
  QTest::mousePress(&scrubber, Qt::LeftButton, {}, at(bottom, scrubber.height() - 6));
  QTest::mouseMove(&scrubber, at(bottom + 0.2, scrubber.height() - 6));
  QTest::mouseMove(&scrubber, at(bottom + 0.4, scrubber.height() - 6));
  QTest::mouseRelease(&scrubber, Qt::LeftButton, {}, at(bottom + 0.4, scrubber.height() - 6));
  EXPECT_GT(document.analysis()->reps[0].bottom_t(), bottom + 0.2);
  EXPECT_GT(tempo(), was + 0.2) << "the descent takes longer now";
  EXPECT_EQ(document.analysis()->found.size(), 2u) << "what was found is known all the same";
  document.undoStack().undo();
  EXPECT_NEAR(tempo(), was, 1e-9) << "one drag is one edit";

  const auto choose = [&](double t, const char* what) {
    scrubber.offerRepEdits(t, QPoint(200, 200));
    auto* menu = scrubber.findChild<QMenu*>("repMenu");
    ASSERT_NE(menu, nullptr);
    menu->findChild<QAction*>(what)->trigger();
    menu->close();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  };
  choose((reps[0].start_t() + reps[0].lockout_t()) / 2, "splitRep");
  EXPECT_EQ(document.analysis()->reps.size(), 3u);
  EXPECT_EQ(page.findChild<QTableView*>("measures")->model()->columnCount(), 4);
  document.undoStack().undo();
  // The bar was put back and taken again: two sets, the last of which is judged.
  choose(reps[1].bottom_t(), "opensSet");
  ASSERT_EQ(document.analysis()->sets.size(), 2u);
  EXPECT_EQ(document.analysis()->reps.size(), 1u);
  EXPECT_EQ(document.analysis()->set, 1u);
  EXPECT_EQ(in<QComboBox>(page, "set")->count(), 2) << "either can be chosen";
  choose(reps[1].bottom_t(), "opensSet");
  EXPECT_EQ(document.analysis()->sets.size(), 1u) << "and they are one again";
  choose(bottom, "spotted");
  EXPECT_EQ(document.analysis()->reps.size(), 1u) << "what a spotter lifted is nobody's number";
  document.undoStack().undo();
  choose(bottom, "leaveOut");
  EXPECT_EQ(document.analysis()->reps.size(), 1u);
  choose(bottom, "foundReps");
  EXPECT_EQ(document.analysis()->reps.size(), 2u);
  choose(bottom, "type_miss");
  EXPECT_EQ(document.analysis()->reps.size(), 1u);
  ASSERT_EQ(document.analysis()->misses.size(), 1u);
  page.findChild<QAction*>("repsAction")->trigger();
  EXPECT_NE(scrubber.findChild<QMenu*>("repMenu"), nullptr) << "by key as well";
}

TEST(PutRight, AFindingThatIsNotSharedLeavesTheReplyAndTheRecords) {
  Squat office;
  const auto send = [&](ReviewPage& page) {
    QSignalSpy sent(&page, &ReviewPage::replyWritten);
    page.writeReplyTo(QString::fromStdString((office.folder / "reply").string()));
    EXPECT_TRUE(QTest::qWaitFor([&] { return sent.count() == 1; }, kPatience_ms));
  };
  auto& page = office.open(office.id);
  const auto& findings = page.document().analysis()->findings;
  const auto sure =
      std::find_if(findings.begin(), findings.end(), [](const auto& f) { return f.verdict == coaching::Verdict::Yes; });
  ASSERT_NE(sure, findings.end()) << "the small clip shows a fault";
  const std::string id = sure->id;
  const std::string title = page.document().book().titleOf(id);
  QTimer::singleShot(0, [&] {
    auto* ask = QApplication::activeModalWidget()->findChild<QComboBox*>();
    ask->setEditText("It belongs to this athlete's build");
    qobject_cast<QInputDialog*>(QApplication::activeModalWidget())->accept();
  });
  in<QPushButton>(page, "reject_" + QString::fromStdString(id))->click();
  EXPECT_EQ(page.document().rejected().at(id), "It belongs to this athlete's build");
  for (const auto& cue : page.document().choice().cues) EXPECT_NE(cue.finding, id);
  send(page);
  const std::string html = tests::bytesOf(tests::fileWith(office.folder / "reply", ".html"));
  EXPECT_EQ(html.find(title), std::string::npos);
  EXPECT_EQ(office.library.findingsOf(office.id)->count(id), 0u);
  const auto asked = *office.library.threads(page.document().athlete().id);
  for (const auto& thread : asked) EXPECT_NE(thread.finding, id);
  in<QPushButton>(page, "unreject_" + QString::fromStdString(id))->click();
  EXPECT_TRUE(page.document().rejected().empty());
}

TEST(Preview, ShowsFilmAndPageBeforeAnythingIsReturned) {
  Squat office;
  auto& page = office.open(office.id);
  in<QPushButton>(page, "previewReply")->click();
  QDialog* dialog = nullptr;
  ASSERT_TRUE(QTest::qWaitFor([&] { return (dialog = page.findChild<QDialog*>("preview")) != nullptr; }, kPatience_ms));
  auto* film = dialog->findChild<QLabel*>("previewFilm");
  EXPECT_TRUE(QTest::qWaitFor([&] { return !film->pixmap().isNull(); }, kPatience_ms));
  const QString text = dialog->findChild<QTextBrowser*>("previewPage")->toPlainText();
  EXPECT_TRUE(text.contains("Kit Marlin")) << text.toStdString();
  EXPECT_NE(office.library.submission(office.id)->state, library::SubmissionState::Returned);
  dialog->reject();
}

TEST(OwnChecks, AreNamedOnceMarkedLikeTheOthersAndBecomeACue) {
  Squat office;
  auto& page = office.open(office.id);
  QTimer::singleShot(0, [&] {
    auto* ask = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
    ask->setTextValue("Wrists bend back");
    ask->accept();
  });
  office.press(Qt::Key_K);
  ASSERT_EQ(page.document().marks().size(), 1u);
  const auto& findings = page.document().analysis()->findings;
  ASSERT_TRUE(
      std::any_of(findings.begin(), findings.end(), [](const auto& f) { return f.id == "own.Wrists bend back"; }));
  in<QPushButton>(page, "say_own.Wrists bend back")->click();
  EXPECT_EQ(page.document().choice().cues.back().title, "Wrists bend back");
}

}  // namespace
}  // namespace jib::desk
