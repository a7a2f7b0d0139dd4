// SPDX-License-Identifier: GPL-3.0-or-later
// The coach's whole task in the real window, by mouse and keys; and the pieces of the review desk on their own.
#include <gtest/gtest.h>

#include <QAbstractItemModelTester>
#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QSignalSpy>
#include <QTabWidget>
#include <QTableView>
#include <QTest>

#include "core/library/dates.h"
#include "core/simulate/truth_file.h"
#include "desk/desk_window.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/commands/change_cues.h"
#include "desk/review/commands/place_point.h"
#include "desk/review/key_list.h"
#include "desk/review/measures_model.h"
#include "desk/review/player.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "tests/core/scratch_folder.h"
#include "tests/desk/review_desk.h"

namespace jib::desk {
namespace {

using tests::Begin;
using tests::Desk;
using tests::kPatience_ms;
using tests::ScratchFolder;
using tracing::at;
using tracing::Landmark;

const simulate::Truth& truth() {
  static const simulate::Truth kTruth = simulate::truthOf(*simulate::parseSpec(tests::bytesOf(JIB_SMALL_SPEC)));
  return kTruth;
}

QPoint onStage(Stage& stage, PixelPoint p) {
  return stage.toStage(p).toPoint();
}

void placeAllSix(ReviewPage& page) {
  auto& stage = *page.findChild<Stage*>("stage");
  page.setFocus();
  QTest::keyClick(&page, Qt::Key_P);
  Desk::waitFor([&] { return page.settled(); });
  const auto& frame = truth().frames[page.player().frame()];
  for (Landmark l : tracing::kPlacedLandmarks) {
    ASSERT_EQ(stage.placing(), l);
    QTest::mouseClick(&stage, Qt::LeftButton, {}, onStage(stage, frame.pixels[at(l)]->place));
  }
  Desk::waitFor([&] {
    const auto& body = page.document().analysis()->trace.body;
    return body && body->source == tracing::BodySource::Placed && page.settled();
  });
}

double kneeSlide(const ReviewPage& page) {
  const auto& a = *const_cast<ReviewPage&>(page).document().analysis();
  return lifts::find(a.measures.reps.at(0), "knee_slide_back_m")->measured()->value;
}

TEST(ReviewWindow, DoesTheWholeTaskFromOpeningToTheReturnedReply) {
  Desk desk;
  ReviewPage* page = &desk.open();
  EXPECT_EQ(page->document().analysis()->reps.size(), 2u);
  EXPECT_EQ(page->document().submission().state, library::SubmissionState::New);

  // Play and stop by key.
  QTest::keyClick(page, Qt::Key_Space);
  EXPECT_TRUE(page->player().playing());
  QTest::keyClick(page, Qt::Key_Space);
  EXPECT_FALSE(page->player().playing());

  placeAllSix(*page);
  EXPECT_EQ(page->document().submission().state, library::SubmissionState::InReview);
  EXPECT_NEAR(kneeSlide(*page), 0.06, 0.03);

  // Correct the knee on the bottom frame by dragging it; the number follows; undo takes the drag back as one.
  page->player().goTo(page->document().analysis()->reps[0].bottom_t());
  Desk::waitFor([&] { return page->settled(); });
  auto& stage = *page->findChild<Stage*>("stage");
  const double before = kneeSlide(*page);
  const int edits = page->document().undoStack().count();
  const PixelPoint knee = *page->document().analysis()->trace.trace.place(stage.frame(), Landmark::Knee);
  const QPoint from = onStage(stage, knee);
  QTest::mousePress(&stage, Qt::LeftButton, {}, from);
  for (int step = 1; step <= 5; ++step) QTest::mouseMove(&stage, from - QPoint(2 * step, 0));
  QTest::mouseRelease(&stage, Qt::LeftButton, {}, from - QPoint(10, 0));
  EXPECT_GT(kneeSlide(*page), before + 0.01) << "the knee further forward at the bottom slides back further";
  EXPECT_EQ(page->document().undoStack().count(), edits + 1);
  QTest::keyClick(page, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_DOUBLE_EQ(kneeSlide(*page), before);

  // Say one thing, in the coach's own words.
  QTest::keyClick(page, Qt::Key_2);
  EXPECT_EQ(page->findChild<QTabWidget*>("tabs")->currentIndex(), 1);
  if (page->document().choice().cues.empty()) {
    const auto buttons = page->findChildren<QPushButton*>(QRegularExpression("^say_"));
    ASSERT_FALSE(buttons.empty());
    QTest::mouseClick(buttons.front(), Qt::LeftButton);
  }
  ASSERT_FALSE(page->document().choice().cues.empty());
  auto* wording = page->findChild<QComboBox*>("wording0");
  ASSERT_NE(wording, nullptr);
  wording->setFocus();
  wording->lineEdit()->selectAll();
  QTest::keyClicks(wording->lineEdit(), "Knees stay, Ola.");
  EXPECT_EQ(page->document().choice().cues[0].wording, "Knees stay, Ola.");

  auto* greeting = page->findChild<QLineEdit*>("greeting");
  ASSERT_NE(greeting, nullptr);
  QTest::keyClicks(greeting, "Well done.");
  EXPECT_EQ(page->document().choice().greeting, "Well done.");

  QSignalSpy written(page, &ReviewPage::replyWritten);
  page->writeReplyTo(QString::fromStdString((desk.folder / "reply").string()));
  Desk::waitFor([&] { return !written.empty(); });
  for (const char* extension : {".mp4", ".html", ".pdf"})
    EXPECT_FALSE(tests::fileWith(desk.folder / "reply", extension).empty()) << extension;
  const auto html = tests::bytesOf(tests::fileWith(desk.folder / "reply", ".html"));
  EXPECT_NE(html.find("Knees stay, Ola."), std::string::npos);
  EXPECT_NE(html.find("Well done."), std::string::npos);

  // Reopened, everything is as it was left.
  const auto placed = page->document().placed();
  desk.reopen();
  page = &desk.open();
  EXPECT_EQ(page->document().submission().state, library::SubmissionState::Returned);
  EXPECT_EQ(page->document().choice().cues.at(0).wording, "Knees stay, Ola.");
  ASSERT_EQ(page->document().placed().size(), placed.size());
  EXPECT_TRUE(page->document().analysis()->trace.body);
  EXPECT_NEAR(kneeSlide(*page), before, 1e-12);
  auto library = *library::Library::open(desk.folder / "lib");
  const auto threads = library.threads(page->document().athlete().id);
  ASSERT_EQ(threads->size(), page->document().choice().cues.size());
  EXPECT_EQ(threads->front().asked_on, library::today());
}

TEST(ReviewWindow, OpensTracedWithoutAClickAndFollowsADraggedPoint) {
  Desk desk(Begin::Untraced);
  ReviewPage& page = desk.open();
  ASSERT_TRUE(page.document().analysis()->trace.body);
  EXPECT_EQ(page.document().analysis()->trace.body->source, tracing::BodySource::Network);
  EXPECT_TRUE(page.document().placed().empty());

  // Dragged far forward at the bottom, the knee must be seen to slide back further.
  const double slide = kneeSlide(page);
  page.player().goTo(page.document().analysis()->reps[0].bottom_t());
  Desk::waitFor([&] { return page.settled(); });
  auto& stage = *page.findChild<Stage*>("stage");
  const std::size_t frame = stage.frame();
  const double sigma = page.document().analysis()->trace.trace.frames[frame][at(Landmark::Hip)]->sigma_px;
  const double forward = *page.document().analysis()->trace.forward;
  const auto drag = [&](Landmark l, int dx, int dy) {
    const QPoint from = onStage(stage, *page.document().analysis()->trace.trace.place(frame, l));
    QTest::mousePress(&stage, Qt::LeftButton, {}, from);
    for (int step = 1; step <= 4; ++step) QTest::mouseMove(&stage, from + QPoint(step * dx / 4, step * dy / 4));
    QTest::mouseRelease(&stage, Qt::LeftButton, {}, from + QPoint(dx, dy));
  };
  drag(Landmark::Knee, static_cast<int>(forward) * 40, 0);
  EXPECT_GT(kneeSlide(page), slide + 0.01);
  drag(Landmark::Hip, 0, 4);
  EXPECT_LT(page.document().analysis()->trace.trace.frames[frame][at(Landmark::Hip)]->sigma_px, sigma)
      << "a placed point is surer than a proposed one";
  EXPECT_EQ(page.document().undoStack().count(), 2);
  QTest::keyClick(&page, Qt::Key_Z, Qt::ControlModifier);
  QTest::keyClick(&page, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_DOUBLE_EQ(kneeSlide(page), slide);
  EXPECT_TRUE(page.document().placed().empty());
}

TEST(ReviewWindow, TakesTheDrawnPointsByReturn) {
  Desk desk;
  ReviewPage& page = desk.open();
  page.setFocus();
  QTest::keyClick(&page, Qt::Key_P);
  Desk::waitFor([&] { return page.settled(); });
  const PixelPoint knee = *page.document().analysis()->trace.trace.place(page.player().frame(), Landmark::Knee);
  const int wide = desk.window->width();
  for (std::size_t k = 0; k < tracing::kPlacedLandmarks.size(); ++k) {
    EXPECT_LE(desk.window->minimumSizeHint().width(), 1280) << k << ": what to click may not widen the window";
    QTest::keyClick(&page, Qt::Key_Return);
    QCoreApplication::processEvents();
  }
  EXPECT_EQ(desk.window->width(), wide);
  const auto pin = page.document().pin({page.player().time(), Landmark::Knee});
  ASSERT_TRUE(pin);
  EXPECT_NEAR(pin->x, knee.x, 2) << "the points placed before may have moved it a little";
  Desk::waitFor(
      [&] { return page.document().analysis()->trace.body->source == tracing::BodySource::Placed && page.settled(); });
}

TEST(ReviewWindow, TracesAgainFromWhereTheBarWasDragged) {
  Desk desk;
  ReviewPage& page = desk.open();
  auto& stage = *page.findChild<Stage*>("stage");
  const auto first = page.document().analysis()->trace.bar;
  const PixelPoint bar = *page.document().analysis()->trace.trace.place(stage.frame(), Landmark::Bar);
  const QPoint from = onStage(stage, bar);
  QTest::mousePress(&stage, Qt::LeftButton, {}, from);
  QTest::mouseMove(&stage, from + QPoint(4, 3));
  QTest::mouseRelease(&stage, Qt::LeftButton, {}, from + QPoint(4, 3));
  EXPECT_TRUE(page.busy());
  Desk::waitFor([&] { return page.document().analysis()->trace.bar != first && page.settled(); });
  const auto& again = *page.document().analysis();
  EXPECT_EQ(again.reps.size(), 2u);
  const auto frame = stage.frame();
  EXPECT_LT(length(again.trace.bar->plate[frame]->place - truth().frames[frame].pixels[at(Landmark::Plate)]->place),
            2.0)
      << "the rim is found, not the place of the hand";
}

TEST(ReviewWindow, JumpsFromANumberToItsFrame) {
  Desk desk;
  ReviewPage& page = desk.open();
  page.findChild<QAction*>("measuresTab")->trigger();
  auto* table = page.findChild<QTableView*>("measures");
  for (int row = 0; row < table->model()->rowCount(); ++row) {
    const QModelIndex cell = table->model()->index(row, 2);
    if (cell.data(MeasuresModel::IdRole) != "stroke_m") continue;
    table->scrollTo(cell);
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualRect(cell).center());
    EXPECT_NEAR(page.player().time(), cell.data(MeasuresModel::TimeRole).toDouble(), 0.02);
    EXPECT_NEAR(page.player().time(), page.document().analysis()->reps[1].bottom_t(), 0.02);
    return;
  }
  FAIL() << "no stroke in the table";
}

TEST(ReviewWindow, StepsAndJumpsByKey) {
  Desk desk;
  ReviewPage& page = desk.open();
  page.setFocus();
  page.player().goTo(0);
  QTest::keyClick(&page, Qt::Key_Period);
  EXPECT_EQ(page.player().frame(), 1u);
  QTest::keyClick(&page, Qt::Key_Comma);
  EXPECT_EQ(page.player().frame(), 0u);
  const auto& reps = page.document().analysis()->reps;
  QTest::keyClick(&page, Qt::Key_E);
  EXPECT_NEAR(page.player().time(), reps[0].start_t(), 0.02);
  QTest::keyClick(&page, Qt::Key_E);
  EXPECT_NEAR(page.player().time(), reps[0].bottom_t(), 0.02);
  QTest::keyClick(&page, Qt::Key_R);
  EXPECT_NEAR(page.player().time(), reps[1].start_t(), 0.02);
  QTest::keyClick(&page, Qt::Key_Question, Qt::ShiftModifier);
  EXPECT_TRUE(QTest::qWaitFor(
      [&] {
        auto* keys = desk.window->findChild<KeyList*>();
        return keys && keys->isVisible();
      },
      5000));
}

TEST(ReviewWindow, OneKeyGoesToEachKindOfMomentOfTheRepAtHandAndThenOfTheNext) {
  Desk desk;
  ReviewPage& page = desk.open();
  const auto a = page.document().analysis();
  ASSERT_GE(a->reps.size(), 2u);
  const auto at = [&](double t) { return std::abs(page.player().time() - t) < 0.02; };
  page.player().goTo(a->reps[0].lockout_t());
  QTest::keyClick(&page, Qt::Key_2, Qt::AltModifier);  // the second kind a squat names: its bottom
  EXPECT_TRUE(at(a->reps[0].bottom_t())) << "of this rep, although it is past";
  QTest::keyClick(&page, Qt::Key_2, Qt::AltModifier);
  EXPECT_TRUE(at(a->reps[1].bottom_t())) << "again: of the next";
  QTest::keyClick(&page, Qt::Key_1, Qt::AltModifier);
  EXPECT_TRUE(at(a->reps[1].start_t()));
  QTest::keyClick(&page, Qt::Key_2, Qt::AltModifier);
  QTest::keyClick(&page, Qt::Key_2, Qt::AltModifier);
  EXPECT_TRUE(at(a->reps[a->reps.size() > 2 ? 2 : 0].bottom_t())) << "after the last comes the first";
  EXPECT_EQ(page.findChild<QAction*>("moment_2")->text(), "Moment: Bottom");
  EXPECT_FALSE(page.findChild<QAction*>("moment_8")->isVisible()) << "a squat names seven";
}

TEST(ReviewWindow, ChangesVerdictsWithTheStyleAndNoMeasure) {
  Desk desk;
  ReviewPage& page = desk.open();
  placeAllSix(page);
  const double before = kneeSlide(page);
  auto* style = page.findChild<QComboBox*>("style");
  style->setCurrentIndex(style->findData("minimal"));
  EXPECT_EQ(page.document().analysis()->style_id, "minimal");
  EXPECT_EQ(kneeSlide(page), before);
  const auto& findings = page.document().analysis()->findings;
  const auto f =
      std::find_if(findings.begin(), findings.end(), [](const auto& x) { return x.id == "squat.knees_slide_back"; });
  ASSERT_NE(f, findings.end());
  EXPECT_EQ(f->limit, 20);
  QTest::keyClick(&page, Qt::Key_Y);
  EXPECT_TRUE(page.findChild<QComboBox*>("topic_depth")->isVisible());
  page.findChild<QComboBox*>("topic_depth")->setCurrentIndex(2);
  const auto athlete = [&] {
    return *library::Library::open(desk.folder / "lib")->athlete(page.document().athlete().id);
  };
  EXPECT_EQ(athlete().profile.switches, (coaching::Switches{{"depth", "full"}})) << "kept at once";
  QTest::keyClick(&page, Qt::Key_Z, Qt::ControlModifier);
  QTest::keyClick(&page, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(style->currentData().toString(), "balanced");
  EXPECT_EQ(athlete().style, "balanced");
  EXPECT_TRUE(athlete().profile.switches.empty());
}

TEST(ReviewWindow, SaysWhatIsWrongWithABrokenClip) {
  ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  library::Submission s;
  s.lift = "squat";
  s.variant = "low-bar";
  s.athlete = *library.addAthlete({library::AthleteId(0), "Ola", "", "balanced"});
  s.received_on = "2026-01-05";
  Task task;
  const auto id = *library.addSubmission(s, folder.write("broken.mp4", "no film"), task);
  ReviewPage page(library, id);
  QSignalSpy trouble(&page, &ReviewPage::trouble);
  Desk::waitFor([&] { return !trouble.empty(); });
  EXPECT_TRUE(trouble.front().front().toString().contains("not a clip"));
}

// A document with nothing traced, for the edits alone.
struct Document {
  ReviewDocument document{{library::AthleteId(1), "Ola", "", "balanced"},
                          {},
                          {},
                          "clip.mp4",
                          *coaching::shippedStyle("balanced"),
                          *coaching::CueBook::shipped()};
};

TEST(PlacePoint, UndoesAndRedoes) {
  Document d;
  const PinKey key{1.5, Landmark::Hip};
  d.document.undoStack().push(new PlacePoint(d.document, key, PixelPoint{3, 4}, newGesture()));
  ASSERT_TRUE(d.document.pin(key));
  d.document.undoStack().undo();
  EXPECT_FALSE(d.document.pin(key));
  EXPECT_TRUE(d.document.placed().empty()) << "a frame without points is no frame";
  d.document.undoStack().redo();
  EXPECT_EQ(d.document.pin(key)->y, 4);
}

TEST(PlacePoint, MergesOneDragButNotTwo) {
  Document d;
  const PinKey key{1.5, Landmark::Hip};
  const int drag = newGesture();
  for (double x : {1.0, 2.0, 3.0}) d.document.undoStack().push(new PlacePoint(d.document, key, PixelPoint{x, 0}, drag));
  d.document.undoStack().push(new PlacePoint(d.document, key, PixelPoint{9, 0}, newGesture()));
  EXPECT_EQ(d.document.undoStack().count(), 2);
  d.document.undoStack().undo();
  EXPECT_EQ(d.document.pin(key)->x, 3);
  d.document.undoStack().undo();
  EXPECT_FALSE(d.document.pin(key));
}

TEST(ChangeCues, MergesTypingInOneField) {
  Document d;
  const int field = newGesture();
  for (const char* text : {"K", "Kn", "Kne"}) {
    CueChoice c = d.document.choice();
    c.greeting = text;
    d.document.undoStack().push(new ChangeCues(d.document, "type", c, field));
  }
  EXPECT_EQ(d.document.choice().greeting, "Kne");
  d.document.undoStack().undo();
  EXPECT_EQ(d.document.choice().greeting, "");
}

TEST(Scrubber, MapsTimesToPlacesAndBack) {
  Document d;
  Scrubber scrubber(d.document);
  scrubber.resize(600, 104);
  scrubber.setDuration(2, 12);
  for (double t : {2.0, 5.5, 12.0}) EXPECT_NEAR(scrubber.timeAt(scrubber.xAt(t)), t, 1e-9);
  EXPECT_EQ(scrubber.timeAt(-50), 2);
  QSignalSpy asked(&scrubber, &Scrubber::timeRequested);
  QTest::mouseClick(&scrubber, Qt::LeftButton, {}, QPoint(static_cast<int>(scrubber.xAt(7)), 40));
  ASSERT_EQ(asked.count(), 1);
  EXPECT_NEAR(asked.front().front().toDouble(), 7, 0.02);
}

TEST(Player, StepsWithinTheClipAndGoesToTheNearestFrame) {
  Player player;
  player.setTimes({0, 0.1, 0.2, 0.3});
  player.step(-1);
  EXPECT_EQ(player.frame(), 0u);
  player.step(10);
  EXPECT_EQ(player.frame(), 3u);
  player.goTo(0.14);
  EXPECT_EQ(player.frame(), 1u);
}

TEST(MeasuresModel, KeepsTheRulesOfModels) {
  MeasuresModel model;
  QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
  EXPECT_EQ(model.rowCount(), 0);
  auto a = std::make_shared<coaching::Analysis>();
  a->reps.resize(2);
  for (int i = 0; i < 2; ++i)
    a->measures.reps.push_back({{lifts::measureDefinition("stroke_m"), lifts::Measured{0.5 + 0.01 * i, 0.002, 3}}});
  a->measures.set = {{lifts::measureDefinition("speed_loss_pct"), lifts::Absent{"One rep shows no loss."}}};
  model.setAnalysis(a);
  ASSERT_EQ(model.rowCount(), 4);
  EXPECT_EQ(model.columnCount(), 3);
  EXPECT_TRUE(model.isHeading(0));
  EXPECT_EQ(model.index(0, 0).data().toString(), "Bar");
  EXPECT_FALSE(model.index(0, 1).flags() & Qt::ItemIsSelectable);
  EXPECT_EQ(model.index(1, 2).data().toString(), "51.0 ± 0.3");
  EXPECT_EQ(model.index(1, 0).data().toString(), "Range of motion, cm");
  EXPECT_EQ(model.index(2, 0).data().toString(), "Set");
  EXPECT_EQ(model.index(3, 1).data().toString(), "–");
  EXPECT_EQ(model.index(3, 1).data(Qt::ToolTipRole).toString(), "One rep shows no loss.");
}

TEST(SubmissionsModel, KeepsTheRulesOfModels) {
  SubmissionsModel model;
  QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
  library::Submission s;
  s.lift = "squat";
  s.variant = "low-bar";
  s.athlete = library::AthleteId(4);
  s.received_on = "2026-05-01";
  model.set({s}, {{library::AthleteId(4), "Ola", "", "balanced"}});
  EXPECT_EQ(model.index(0, SubmissionsModel::AthleteName).data().toString(), "Ola");
  EXPECT_EQ(model.index(0, SubmissionsModel::Load).data().toString(), "–");
}

TEST(LibraryPage, SaysWhatToDoWhenEmptyAndAsksForAName) {
  ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  LibraryPage page(library);
  EXPECT_TRUE(page.findChild<QLabel*>("emptyQueue")->text().contains("No submissions yet"));
}

}  // namespace
}  // namespace jib::desk
