// SPDX-License-Identifier: GPL-3.0-or-later
// What a coach draws: lines that ride on the lifter, back lines, wanted poses, and where they come out in a reply.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QLabel>
#include <QSignalSpy>
#include <QTest>
#include <QToolButton>

#include "core/coaching/back_line.h"
#include "core/coaching/wanted_pose.h"
#include "core/tracing/trace_store.h"
#include "desk/desk_window.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "tests/desk/office.h"

namespace jib::desk {
namespace {

TEST(Drawing, ALineRidesOnTheKneeThroughTheFilm) {
  Squat office;
  auto& page = office.open(office.id);
  const auto a = page.document().analysis();
  const double t = a->reps[0].start_t() + 0.2;
  page.player().goTo(t);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  auto& stage = *page.findChild<Stage*>();
  const std::size_t frame = stage.frame();
  const PixelPoint knee = *a->trace.trace.place(frame, tracing::Landmark::Knee);
  office.press(Qt::Key_D);
  in<QToolButton>(page, "draw_ring")->click();
  in<QComboBox>(page, "hold")->setCurrentIndex(2);
  emit in<QComboBox>(page, "hold")->activated(2);
  clickOn(stage, knee + PixelPoint{2, 1});  // near it is on it
  clickOn(stage, knee + PixelPoint{30, -60});
  ASSERT_EQ(page.document().sketch().shapes.size(), 1u);
  const auto& ring = page.document().sketch().shapes[0];
  EXPECT_EQ(ring.anchors[0].rides, tracing::Landmark::Knee);
  EXPECT_LT(ring.from_s, 0.1);
  EXPECT_GT(ring.to_s, a->motion.times_s.back() - 0.1);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms)) << "its free end is followed";
  const std::size_t bottom = a->motion.frameAt(a->reps[0].bottom_t());
  // The rim was put on a patch that is followed where it can be; the middle is the knee wherever both are seen.
  for (const auto& here : coaching::shapesOn(page.document().sketch(), *a, frame + 3))
    EXPECT_LT(length(here.anchors[0] - *a->trace.trace.place(frame + 3, tracing::Landmark::Knee)), 0.5);
  EXPECT_GT(length(*a->trace.trace.place(bottom, tracing::Landmark::Knee) - knee), 10) << "the knee does move";

  office.press(Qt::Key_Delete);
  EXPECT_TRUE(page.document().sketch().empty());
  page.document().undoStack().undo();
  EXPECT_EQ(page.document().sketch().shapes.size(), 1u);
  office.press(Qt::Key_Escape);
  office.press(Qt::Key_Escape);
  EXPECT_FALSE(stage.pad().on()) << "Escape puts the pens away";
}

TEST(Drawing, BackLinesAreProposedPulledIntoPlaceAndCompared) {
  Squat office;
  auto& page = office.open(office.id);
  const auto a = page.document().analysis();
  auto& stage = *page.findChild<Stage*>();
  const auto goTo = [&](double t) {
    page.player().goTo(t);
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  };
  goTo(a->reps[0].start_t());
  office.press(Qt::Key_D);
  in<QToolButton>(page, "draw_back")->click();
  clickOn(stage, {10, 10});
  const auto& shapes = page.document().sketch().shapes;
  ASSERT_EQ(shapes.size(), 3u);
  EXPECT_TRUE(shapes[0].proposed);
  // Taken hold of where it is: right as it stands. Pulled: right from then on.
  clickOn(stage, shapes[0].anchors[coaching::kLowBack].place);
  EXPECT_FALSE(shapes[0].proposed);
  goTo(shapes[1].drawn_s);
  const PixelPoint low = shapes[1].anchors[coaching::kLowBack].place;
  const PixelPoint behind{-a->trace.camera.forward * 0.12 * a->trace.camera.pixelsPerMetre(0), 0};
  dragOn(stage, low, low + behind);
  EXPECT_FALSE(shapes[1].proposed);
  EXPECT_GT(length(shapes[1].anchors[coaching::kLowBack].place - low), 10);
  EXPECT_NE(coaching::backLabel(shapes[1], page.document().sketch(), *a).find("rounder"), std::string::npos);
  // What nobody put right is not in the reply.
  EXPECT_TRUE(shapes[2].proposed);
  EXPECT_EQ(page.replyContent().sketch.shapes.size(), 2u);
  for (int i = 0; i < 3; ++i) page.document().undoStack().undo();
  EXPECT_TRUE(page.document().sketch().empty());
}

TEST(Drawing, AWantedPoseOnTheBenchIsPulledByBarAndElbow) {
  Office office;
  const auto id = office.send("Kit Marlin", JIB_MADE_CLIPS "/small-bench.mp4", "Bench press 80 kg x 2, paused.");
  traceAsAPress(office, id);
  auto& page = office.open(id);
  const auto a = page.document().analysis();
  auto& stage = *page.findChild<Stage*>();
  page.player().goTo(a->reps[0].bottom_t());
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  office.press(Qt::Key_D);
  in<QToolButton>(page, "draw_pose")->click();
  clickOn(stage, {10, 10});
  const auto& shapes = page.document().sketch().shapes;
  ASSERT_EQ(shapes.size(), 1u);
  const coaching::Shape as_is = shapes[0];
  const double px = a->trace.camera.pixelsPerMetre(a->trace.camera.plate_m);
  const PixelPoint lower{a->trace.camera.forward * 0.06 * px, 0};  // towards the feet
  const PixelPoint bar = as_is.anchors[coaching::kPressBar].place;
  dragOn(stage, bar, bar + lower);
  EXPECT_LT(length(shapes[0].anchors[coaching::kPressBar].place - (bar + lower)), 2);
  const PixelPoint elbow = shapes[0].anchors[coaching::kPressElbow].place;
  dragOn(stage, elbow, elbow - lower);
  EXPECT_GT(length(shapes[0].anchors[coaching::kPressElbow].place - elbow), 0.015 * px);
  EXPECT_EQ(shapes[0].anchors[coaching::kPressShoulder], as_is.anchors[coaching::kPressShoulder]);
  page.document().undoStack().undo();
  EXPECT_LT(length(shapes[0].anchors[coaching::kPressElbow].place - elbow), 1e-6);
}

TEST(Drawing, ALineAlongAPostSaysWhatIsVertical) {
  Squat office;
  auto& page = office.open(office.id);
  auto& document = page.document();
  const auto leans = [&] {
    return lifts::find(document.analysis()->measures.reps[0], "trunk_lean_start_deg")->measured()->value;
  };
  const double was = leans();
  auto& stage = *page.findChild<Stage*>();
  office.press(Qt::Key_D);
  auto& says = *in<QToolButton>(page, "saysVertical");
  EXPECT_FALSE(says.isVisible()) << "no line is chosen";
  in<QToolButton>(page, "draw_line")->click();
  clickOn(stage, {60, 60});
  clickOn(stage, {75, 260});
  ASSERT_EQ(document.sketch().shapes.size(), 1u);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  ASSERT_TRUE(says.isVisible());
  office.press(Qt::Key_D, Qt::ShiftModifier);
  ASSERT_TRUE(document.setUp().roll_deg);
  EXPECT_GT(std::abs(leans() - was), 1);
  EXPECT_TRUE(office.library.submission(office.id)->details.roll_deg) << "it is kept";
  document.undoStack().undo();
  EXPECT_FALSE(document.setUp().roll_deg);
  EXPECT_DOUBLE_EQ(leans(), was);
  document.undoStack().redo();
  // Taken back without undo, as on another day: with no line chosen the film tells again.
  office.press(Qt::Key_Delete);
  EXPECT_TRUE(says.isVisible() && says.isChecked());
  says.click();
  EXPECT_FALSE(office.library.submission(office.id)->details.roll_deg);
  EXPECT_DOUBLE_EQ(leans(), was);
  EXPECT_FALSE(says.isVisible());
}

TEST(Drawing, IsInTheExportedFramesWhereTheKneeIs) {
  Squat office;
  library::Review review;
  const auto& a = tests::smallAnalysis();
  coaching::Shape line;
  line.kind = coaching::ShapeKind::Line;
  const std::size_t drawn = a.motion.frameAt(a.reps[0].start_t());
  const PixelPoint knee = *a.trace.trace.place(drawn, tracing::Landmark::Knee);
  line.anchors = {{knee, tracing::Landmark::Knee, 0, {}}, {knee + PixelPoint{0, -40}, tracing::Landmark::Knee, 0, {}}};
  line.drawn_s = a.motion.times_s[drawn];
  line.from_s = 0;
  line.to_s = a.motion.times_s.back();
  review.sketch.shapes = {line};
  coaching::Cue bottom = coaching::ownCue(a.reps[0].bottom_t()), top = coaching::ownCue(a.reps[0].start_t());
  bottom.wording = "Here.";
  bottom.also_s = {a.reps[1].bottom_t()};
  top.wording = "There.";
  review.cues = {top, bottom};
  review.cues_chosen = true;
  ASSERT_TRUE(office.library.saveReview(office.id, review));
  auto& page = office.open(office.id);
  QSignalSpy sent(&page, &ReviewPage::replyWritten);
  const auto folder = office.folder / "reply";
  page.writeReplyTo(QString::fromStdString(folder.string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return sent.count() == 1; }, kPatience_ms));
  // The stills are the film's own frames. Where the magenta is tells where the knee is drawn.
  std::vector<QPointF> middles;
  for (const auto& entry : std::filesystem::directory_iterator(folder)) {
    if (entry.path().extension() != ".png") continue;
    const QImage still(QString::fromStdString(entry.path().string()));
    QPointF sum;
    int n = 0;
    for (int y = 0; y < still.height(); ++y)
      for (int x = 0; x < still.width(); ++x) {
        const QColor c = still.pixelColor(x, y);
        if (c.red() > 190 && c.green() < 60 && c.blue() > 120 && c.blue() < 175) {
          sum += QPointF(x, y);
          ++n;
        }
      }
    ASSERT_GT(n, 50) << entry.path();
    middles.push_back(sum / n);
  }
  ASSERT_EQ(middles.size(), 3u) << "one for the first cue, two frames for the second";
  double spread = 0;
  for (const QPointF& m : middles)
    spread = std::max(spread, std::hypot(m.x() - middles[0].x(), m.y() - middles[0].y()));
  EXPECT_GT(spread, 15) << "it goes with the knee";
}

TEST(Drawing, OfANewerProgramIsKeptAndSaid) {
  Squat office;
  library::Review review;
  review.sketch = coaching::sketchFromJson(R"([{"kind": "spiral", "turns": 3}])");
  ASSERT_TRUE(office.library.saveReview(office.id, review));
  auto& page = office.open(office.id);
  EXPECT_TRUE(in<QLabel>(page, "camera")->text().contains("One drawing is from a newer Jagged Jib"));
  office.press(Qt::Key_N);  // something is saved
  EXPECT_TRUE(QTest::qWaitFor([&] { return office.library.review(office.id)->cues.size() > 0; }, kPatience_ms));
  EXPECT_NE(coaching::sketchToJson(office.library.review(office.id)->sketch).find("spiral"), std::string::npos);
}

}  // namespace
}  // namespace jib::desk
