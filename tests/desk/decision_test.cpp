// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach decides on and how the clip is looked at: the first look, the scales, the key frames, loops, and that
// all of it is as it was when the review is opened again.
#include <gtest/gtest.h>

#include <QAction>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTabWidget>
#include <QTableView>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

#include "core/coaching/reading.h"
#include "core/lifts/measure_set.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/review/finding_scale.h"
#include "desk/review/first_look_panel.h"
#include "desk/review/key_strip.h"
#include "desk/review/measures_model.h"
#include "desk/review/measures_table.h"
#include "desk/review/other_view.h"
#include "desk/review/player.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "desk/theme.h"
#include "tests/core/analysed_clip.h"
#include "tests/desk/review_desk.h"

namespace jib::desk {
namespace {

using tests::Desk;
using tests::kPatience_ms;

void press(ReviewPage& page, int key) {
  page.takeKeys();
  QTest::keyClick(QApplication::focusWidget(), static_cast<Qt::Key>(key));
}

const coaching::Finding* sureOfSeveralReps(const coaching::Analysis& a) {
  for (const auto& f : a.findings)
    if (f.verdict == coaching::Verdict::Yes && f.kind && f.reps.size() > 1) return &f;
  return nullptr;
}

// A finding of the clip that is sure.
const coaching::Finding& sureFinding(ReviewPage& page) {
  for (const auto& f : page.document().analysis()->findings)
    if (f.verdict == coaching::Verdict::Yes && f.kind) return f;
  throw std::runtime_error("the clip has a fault, and it is found");
}

TEST(ReviewLook, FirstABookmarkIsAgreedWithOnceTheNumbersAreShown) {
  QSettings().setValue("firstLook", true);
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  QSettings().remove("firstLook");
  ASSERT_TRUE(page.firstLook()) << "the coach's setting";
  auto* first = page.findChild<FirstLookPanel*>();
  EXPECT_TRUE(first->isVisible());
  EXPECT_FALSE(page.findChild<QTabWidget*>("tabs")->isVisible()) << "no numbers";
  EXPECT_FALSE(page.findChild<KeyStrip*>()->isVisible());
  EXPECT_EQ(page.player().time(), page.player().firstTime()) << "the set from its beginning";
  const auto bare = page.findChild<Stage*>()->grab().toImage();

  press(page, Qt::Key_Space);
  EXPECT_TRUE(page.player().playing());
  press(page, Qt::Key_B);
  EXPECT_TRUE(page.player().playing()) << "the clip plays on";
  press(page, Qt::Key_Space);
  ASSERT_EQ(page.document().bookmarks().size(), 1u);

  // The word that is picked is the title of what the numbers find too, in that rep.
  const coaching::Finding finding = sureFinding(page);
  const QString title = QString::fromStdString(page.document().book().titleOf(finding.id));
  page.player().goTo(finding.worst.t_s);
  press(page, Qt::Key_B);
  int word = 0;
  for (int i = 1; i <= FirstLookPanel::kQuickWords; ++i)
    if (auto* b = first->findChild<QPushButton*>(QStringLiteral("quickWord_%1").arg(i)); b && b->text().endsWith(title))
      word = i;
  ASSERT_GT(word, 0) << title.toStdString() << " is among the words offered";
  press(page, Qt::Key_0 + word);
  EXPECT_EQ(page.document().bookmarks().back().finding, finding.id);

  press(page, Qt::Key_Return);
  EXPECT_FALSE(page.firstLook()) << "as the button says";
  EXPECT_TRUE(page.findChild<QTabWidget*>("tabs")->isVisible());
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);  // what was rebuilt goes with the next turn
  auto* echo = page.findChild<QLabel*>("echo_1");
  ASSERT_NE(echo, nullptr);
  EXPECT_TRUE(echo->text().contains("the numbers agree")) << echo->text().toStdString();
  EXPECT_TRUE(page.document().looked());

  // It is undone like anything else, and there again after a restart, without another first look.
  page.findChild<QAction*>("undo")->trigger();
  EXPECT_TRUE(page.document().bookmarks().back().finding.empty());
  page.findChild<QAction*>("redo")->trigger();
  desk.reopen();
  QSettings().setValue("firstLook", true);
  ReviewPage& again = desk.open();
  QSettings().remove("firstLook");
  EXPECT_FALSE(again.firstLook());
  EXPECT_EQ(again.document().bookmarks().back().finding, finding.id);
  EXPECT_NE(again.findChild<Stage*>()->grab().toImage(), bare);
}

TEST(ReviewLook, FirstAWordOfOnesOwnIsTypedAndABookmarkTakenAway) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  ASSERT_FALSE(page.firstLook()) << "only where the coach wants it";
  press(page, Qt::Key_0);
  ASSERT_TRUE(page.firstLook());
  press(page, Qt::Key_B);
  auto* word = page.findChild<QLineEdit*>("bookmarkWord_0");
  word->setFocus();
  QTest::keyClicks(word, "grip?");
  EXPECT_EQ(page.document().bookmarks()[0].word, "grip?");
  QTest::keyClick(word, Qt::Key_Return);
  EXPECT_EQ(QApplication::focusWidget(), page.findChild<Stage*>());
  page.findChild<QPushButton*>("bookmarkAway_0")->click();
  EXPECT_TRUE(page.document().bookmarks().empty());
  page.findChild<QAction*>("undo")->trigger();
  EXPECT_EQ(page.document().bookmarks().size(), 1u);
}

TEST(ReviewLook, TheScaleShowsEveryRepsFrameOnAClick) {
  const auto& a = tests::smallAnalysis();
  const auto* finding = sureOfSeveralReps(a);
  ASSERT_NE(finding, nullptr);
  const auto readings = coaching::readingsOf(a.measures, *finding);
  FindingScale scale(*finding, readings);
  scale.resize(300, scale.sizeHint().height());
  scale.show();
  ASSERT_EQ(scale.count(), a.reps.size());
  QSignalSpy asked(&scale, &FindingScale::timeRequested);
  QTest::mouseClick(&scale, Qt::LeftButton, {}, scale.place(1).toPoint());
  ASSERT_EQ(asked.count(), 1);
  EXPECT_EQ(asked[0][0].toDouble(), readings[1].value.t_s);
  const bool more = readings[1].value.value > readings[0].value.value;
  EXPECT_EQ(scale.place(1).x() > scale.place(0).x(), more) << "larger values stand further right";
  EXPECT_TRUE(scale.accessibleName().contains("Rep 1")) << "read aloud where it is not seen";
}

TEST(ReviewLook, TheScaleIsReachedAndReadByKeyboard) {
  const auto& a = tests::smallAnalysis();
  const auto* finding = sureOfSeveralReps(a);
  ASSERT_NE(finding, nullptr);
  const auto readings = coaching::readingsOf(a.measures, *finding);
  QWidget page;
  auto* row = new QVBoxLayout(&page);
  auto* before = new QLineEdit;
  auto* scale = new FindingScale(*finding, readings);
  row->addWidget(before);
  row->addWidget(scale);
  page.show();
  page.activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(&page));
  before->setFocus();
  QTest::keyClick(before, Qt::Key_Tab);
  ASSERT_TRUE(scale->hasFocus());
  QSignalSpy asked(scale, &FindingScale::timeRequested);
  QTest::keyClick(scale, Qt::Key_Return);
  for (std::size_t k = 0; k < readings.size() + 2; ++k) QTest::keyClick(scale, Qt::Key_Down);
  QTest::keyClick(scale, Qt::Key_Return);
  ASSERT_EQ(asked.count(), 2);
  EXPECT_EQ(asked[0][0].toDouble(), readings.front().value.t_s);
  EXPECT_EQ(asked[1][0].toDouble(), readings.back().value.t_s) << "and no further";
}

TEST(ReviewLook, TextGrowsAtOnceAndNoWordOfAButtonIsCut) {
  Desk desk;
  ReviewPage& page = desk.open();
  const auto* scrubber = page.findChild<Scrubber*>();
  const int low = scrubber->height();
  QTimer::singleShot(0, [] {
    auto* dialog = qobject_cast<CoachDialog*>(QApplication::activeModalWidget());
    ASSERT_NE(dialog, nullptr);
    dialog->findChild<QDoubleSpinBox*>("textSize")->setValue(16);
    dialog->accept();
  });
  desk.window->findChild<QAction*>("settingsAction")->trigger();
  EXPECT_EQ(QApplication::font().pixelSize(), 21);
  EXPECT_GT(scrubber->height(), low) << "what is painted has room for its words";
  QCoreApplication::processEvents();
  for (const auto* button : page.findChildren<QPushButton*>())
    if (button->isVisible() && !button->text().isEmpty()) {
      EXPECT_GE(button->width(), button->fontMetrics().horizontalAdvance(button->text()))
          << button->text().toStdString();
    }
  keepTextSize(kUsualText_pt);
  applyTheme(*qApp, themeInForce());
  EXPECT_EQ(scrubber->height(), low);
}

TEST(ReviewLook, TheStripHasTheFramesOfEveryRepAndJumpsThere) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  auto* strip = page.findChild<KeyStrip*>();
  ASSERT_TRUE(strip->isVisible());
  const auto a = page.document().analysis();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !strip->busy(); }, kPatience_ms));
  std::size_t turn = 0, turns = 0;
  for (std::size_t i = 0; i < strip->shots().size(); ++i) {
    EXPECT_FALSE(strip->shots()[i].picture.isNull());
    if (strip->shots()[i].key.moment != motion::KeyMoment::Turn) continue;
    ++turns;
    if (strip->shots()[i].rep == 1) turn = i;
  }
  EXPECT_EQ(turns, a->reps.size());
  QTest::mouseClick(strip, Qt::LeftButton, {}, strip->place(turn).center().toPoint());
  EXPECT_NEAR(page.player().time(), a->reps[1].bottom_t(), 0.02);
  // It goes when the coach wants the room, and the stage grows.
  const int before = page.findChild<Stage*>()->height();
  press(page, Qt::Key_C);
  EXPECT_FALSE(strip->isVisible());
  QCoreApplication::processEvents();
  EXPECT_GT(page.findChild<Stage*>()->height(), before);
  press(page, Qt::Key_C);
}

TEST(ReviewLook, TheStripSaysWhereARepIsSurelyOffTheirOwnBest) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  auto* strip = page.findChild<KeyStrip*>();
  EXPECT_FALSE(strip->wordsOver(0).contains("own best")) << "there was no earlier set";
  library::OwnBest best;
  best.submission.received_on = "2026-01-01";
  const auto& ranking = page.document().lift().ranking;
  const auto& rep = page.document().analysis()->measures.reps[0];
  const auto heldAgainst = [&](double faults) {
    for (const auto& term : ranking) best.measured[std::string(term.measure)] = {0, 0, 0};
    best.measured[std::string(ranking[1].measure)].value = faults * ranking[1].weighs_one;
    strip->setOwnBest(best);
    return strip->wordsOver(0);
  };
  EXPECT_TRUE(heldAgainst(100).contains("better than ever"));
  double all = 0;
  for (const auto& term : ranking) all += lifts::usualFaults(term, lifts::find(rep, term.measure)->measured()->value);
  EXPECT_FALSE(heldAgainst(all).contains("own best")) << "about as good: nothing is said";
}

TEST(ReviewLook, ThePictureGoesIntoAWindowOfItsOwnAndComesBack) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  auto* stage = page.findChild<Stage*>();
  auto* split = page.findChild<QWidget*>("reviewSplit");
  press(page, Qt::Key_F8);
  ASSERT_NE(stage->window(), page.window());
  EXPECT_TRUE(stage->window()->isVisible());
  const double before = page.player().time();
  // Keys act in both windows.
  QTest::keyClick(stage, Qt::Key_Right);
  EXPECT_GT(page.player().time(), before);
  page.takeKeys();
  press(page, Qt::Key_Left);
  EXPECT_NEAR(page.player().time(), before, 1e-9);
  // Escape takes back what is under way, not the window.
  page.findChild<QAction*>("pointAction")->trigger();
  QTest::keyClick(stage, Qt::Key_Escape);
  EXPECT_FALSE(stage->pointing());
  ASSERT_NE(stage->window(), page.window());
  stage->window()->close();
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  QCoreApplication::processEvents();
  EXPECT_EQ(stage->window(), page.window());
  EXPECT_TRUE(split->isAncestorOf(stage)) << "back in its place";
  EXPECT_TRUE(stage->isVisible());
  EXPECT_FALSE(page.findChild<QAction*>("apartAction")->isChecked());
}

TEST(ReviewLook, EveryKeyDoesOneThing) {
  Desk desk;
  ReviewPage& page = desk.open();
  std::map<QString, QString> taken;
  for (const QAction* a : page.findChildren<QAction*>())
    for (const QKeySequence& key : a->shortcuts()) {
      const auto [at, free] = taken.emplace(key.toString(), a->objectName());
      EXPECT_TRUE(free) << key.toString().toStdString() << ": " << at->second.toStdString() << " and "
                        << a->objectName().toStdString();
    }
  EXPECT_GT(taken.size(), 30u);
}

TEST(ReviewLook, PlayingRunsBackwardAndLoopsWhatIsChosen) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  auto* loop = page.findChild<QToolButton*>("loop");
  EXPECT_EQ(loop->text(), "⟳ Rep");
  press(page, Qt::Key_L);
  EXPECT_EQ(loop->text(), "⟳ Set");
  page.player().goTo(page.document().analysis()->reps.back().end_t());
  const double from = page.player().time();
  press(page, Qt::Key_Z);
  EXPECT_TRUE(page.player().playing());
  EXPECT_TRUE(QTest::qWaitFor([&] { return page.player().time() < from - 0.1; }, kPatience_ms)) << "time runs back";
  press(page, Qt::Key_Z);
  EXPECT_FALSE(page.player().backward());
  page.player().pause();
}

TEST(ReviewLook, PlayingLoopsToTheOtherEndWhenItRunsBackward) {
  Player player;
  std::vector<double> times;
  for (int i = 0; i < 60; ++i) times.push_back(i / 30.0);
  player.setTimes(times);
  player.setLoop(0.5, 1.5);
  player.setBackward(true);
  player.setSpeed(50);  // a second of clip in 20 ms: the end of the loop comes with the first ticks
  player.goTo(0.6);
  QSignalSpy moved(&player, &Player::frameChanged);
  player.toggle();
  EXPECT_TRUE(QTest::qWaitFor([&] { return player.time() > 1.3; }, kPatience_ms)) << "from the far end again";
  EXPECT_TRUE(player.playing());
  player.pause();
}

TEST(ReviewLook, TheMirrorShowsTheOtherHalfOfTheRepAtTheSameBarHeight) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  const auto a = page.document().analysis();
  const auto& rep = a->reps[0];
  page.player().goTo((rep.start_t() + rep.bottom_t()) / 2);
  press(page, Qt::Key_G);
  auto* mirror = page.findChild<OtherView*>("mirror");
  ASSERT_TRUE(mirror->isVisible());
  ASSERT_TRUE(QTest::qWaitFor([&] { return !mirror->picture().isNull(); }, kPatience_ms));
  EXPECT_GT(mirror->shownTime(), rep.bottom_t()) << "beside the way down stands the way up";
  const auto& bar = a->motion.path(tracing::Landmark::Bar).at;
  EXPECT_NEAR(bar[a->motion.frameAt(mirror->shownTime())]->z, bar[a->motion.frameAt(page.player().time())]->z, 0.02);
}

TEST(ReviewLook, TheTableFiltersAndFinds) {
  Desk desk(tests::Begin::Placed);
  ReviewPage& page = desk.open();
  press(page, Qt::Key_5);
  auto* table = page.findChild<QTableView*>("measures");
  ASSERT_TRUE(table->isVisible());
  const auto shown = [&] {
    int rows = 0;
    for (int r = 0; r < table->model()->rowCount(); ++r) rows += table->isRowHidden(r) ? 0 : 1;
    return rows;
  };
  const int all = shown();
  auto* show = page.findChild<QComboBox*>("showMeasures");
  show->setCurrentIndex(1);
  const int out_of_range = shown();
  EXPECT_GT(out_of_range, 0);
  EXPECT_LT(out_of_range, all / 2) << "what matters is few";
  for (int r = 0; r < table->model()->rowCount(); ++r) {
    if (table->isRowHidden(r) || page.findChild<MeasuresTable*>()->model().isHeading(r)) continue;
    bool marked = false;
    for (int c = 1; c < table->model()->columnCount(); ++c) {
      const QString text = table->model()->index(r, c).data().toString();
      marked = marked || text.startsWith("▲") || text.startsWith("≈");
    }
    EXPECT_TRUE(marked) << table->model()->index(r, 0).data().toString().toStdString();
  }
  show->setCurrentIndex(0);
  page.findChild<QLineEdit*>("findMeasure")->setText("sticking");
  EXPECT_GT(shown(), 0);
  EXPECT_LT(shown(), 12);
  page.findChild<QLineEdit*>("findMeasure")->clear();
  EXPECT_EQ(shown(), all);
}

TEST(ReviewLook, IsAsItWasWhenItIsOpenedAgain) {
  Desk desk(tests::Begin::Placed);
  {
    ReviewPage& page = desk.open();
    press(page, Qt::Key_S);
    press(page, Qt::Key_L);
    press(page, Qt::Key_3);
    page.findChild<QAction*>("line_Path")->setChecked(false);
    page.findChild<Stage*>()->setOwnFraming(3, {200, 150});
    page.player().goTo(1.2);
    press(page, Qt::Key_Escape);
  }
  desk.reopen();
  ReviewPage& page = desk.open();
  EXPECT_EQ(page.player().speed(), 0.5);
  EXPECT_EQ(page.findChild<QToolButton*>("loop")->text(), "⟳ Set");
  EXPECT_EQ(page.findChild<QTabWidget*>("tabs")->currentIndex(), 2);
  EXPECT_FALSE(page.findChild<Stage*>()->choice().bar_path);
  EXPECT_TRUE(page.findChild<Stage*>()->choice().segments);
  EXPECT_NEAR(page.findChild<Stage*>()->framing().zoom(), 3, 1e-9);
  EXPECT_NEAR(page.player().time(), 1.2, 0.04);
  EXPECT_EQ(page.document().submission().state, library::SubmissionState::New) << "looking is not yet reviewing";
  press(page, Qt::Key_X);
  EXPECT_FALSE(page.findChild<Stage*>()->choice().segments);
  press(page, Qt::Key_X);
  EXPECT_FALSE(page.findChild<Stage*>()->choice().bar_path) << "those that were on";
  EXPECT_TRUE(page.findChild<Stage*>()->choice().segments);
}

}  // namespace
}  // namespace jib::desk
