// SPDX-License-Identifier: GPL-3.0-or-later
// The stage and the plots on their own: places there and back at any zoom, grabbing, magnifier, and asking for a time.
#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>
#include <QWheelEvent>

#include "desk/review/frame_source.h"
#include "desk/review/plots.h"
#include "desk/review/stage.h"
#include "drawing/lifter_extent.h"
#include "drawing/palette.h"
#include "tests/core/analysed_clip.h"

namespace jib::desk {
namespace {

using tests::smallAnalysis;
using tracing::Landmark;

struct OnStage {
  ReviewDocument document{{library::AthleteId(1), "Ola", "", "balanced"},
                          {},
                          {},
                          JIB_MADE_CLIP,
                          *coaching::shippedStyle("balanced"),
                          *coaching::CueBook::shipped()};
  Stage stage{document};

  OnStage() {
    document.setAnalysis(smallAnalysis());
    stage.resize(900, 520);
    QImage picture(640, 360, QImage::Format_RGB32);
    picture.fill(QColor(90, 90, 90));
    stage.showFrame(30, picture);
    stage.show();
  }

  void wheel(QPointF at, int turns) {
    QWheelEvent event(at, stage.mapToGlobal(at), {}, QPoint(0, 120 * turns), Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(&stage, &event);
  }
  QPoint of(Landmark l) const {
    const PixelPoint p = *document.analysis()->trace.trace.place(30, l);
    return stage.toStage(p).toPoint();
  }
};

TEST(Stage, MapsThereAndBackAtEveryZoom) {
  OnStage s;
  for (int turns : {0, 3, 4, -2}) {
    s.wheel(QPointF(300, 200), turns);
    for (const QPointF at : {QPointF(10, 20), QPointF(450, 260), QPointF(880, 500)}) {
      const PixelPoint p = s.stage.toClip(at);
      EXPECT_NEAR(s.stage.toStage(p).x(), at.x(), 1e-6);
      EXPECT_NEAR(s.stage.toStage(p).y(), at.y(), 1e-6);
    }
  }
}

TEST(Stage, KeepsWhatIsUnderThePointerUnderIt) {
  OnStage s;
  const QPointF at(610, 150);
  const PixelPoint before = s.stage.toClip(at);
  s.wheel(at, 5);
  EXPECT_NEAR(s.stage.toClip(at).x, before.x, 1e-6);
  EXPECT_NEAR(s.stage.toClip(at).y, before.y, 1e-6);
  EXPECT_GT(s.stage.view().m11(), 900.0 / 640);
}

TEST(Stage, ADoubleClickFramesTheLifterAndThenShowsTheWholePicture) {
  OnStage s;
  const QTransform lifter = s.stage.view();
  s.wheel(QPointF(100, 100), 6);
  ASSERT_NE(s.stage.view(), lifter);
  QTest::mouseDClick(&s.stage, Qt::LeftButton, {}, QPoint(450, 5));
  EXPECT_EQ(s.stage.view(), lifter);
  QTest::mouseDClick(&s.stage, Qt::LeftButton, {}, QPoint(450, 5));
  EXPECT_NEAR(s.stage.view().m11(), 900.0 / 640, 1e-9) << "all of the picture";
}

// Not the camera's distance but the lifter decides how large the picture is.
TEST(Stage, FramesTheLifterToMostOfItsHeight) {
  OnStage s;
  const QRectF extent = drawing::lifterExtent(*s.document.analysis()) & QRectF(0, 0, 640, 360);
  ASSERT_FALSE(extent.isEmpty());
  const QRectF shown = s.stage.view().mapRect(extent);
  EXPECT_GT(shown.height(), 2.0 / 3 * 520);
  EXPECT_LT(shown.height(), 520);
  EXPECT_TRUE(QRectF(0, 0, 900, 520).contains(shown)) << "and nothing of the lifter is cut";
}

TEST(Stage, KeepsWhatItFollowsInTheMiddle) {
  OnStage s;
  s.stage.setOwnFraming(2.5, {320, 180});
  s.stage.setFollowed(Landmark::Hip);
  for (std::size_t frame : {30u, 60u}) {
    QImage picture(640, 360, QImage::Format_RGB32);
    picture.fill(Qt::gray);
    s.stage.showFrame(frame, picture);
    const PixelPoint hip = *s.document.analysis()->trace.trace.place(frame, Landmark::Hip);
    const QPointF at = s.stage.view().map(QPointF(hip.x, hip.y));
    EXPECT_NEAR(at.x(), 450, 0.5);
    EXPECT_NEAR(at.y(), 260, 0.5);
  }
  s.stage.setFollowed(std::nullopt);
  EXPECT_NEAR(s.stage.framing().zoom(), 2.5, 1e-9);
}

TEST(Stage, TheWheelJogsFrameByFrameWithAltHeld) {
  OnStage s;
  QSignalSpy jogged(&s.stage, &Stage::jogged);
  const QTransform before = s.stage.view();
  for (int turn : {-60, -60, 240}) {
    QWheelEvent event(QPointF(10, 10), QPointF(10, 10), {}, QPoint(0, turn), Qt::NoButton, Qt::AltModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(&s.stage, &event);
  }
  ASSERT_EQ(jogged.count(), 2) << "half a notch is not yet a frame";
  EXPECT_EQ(jogged[0][0].toInt(), 1);
  EXPECT_EQ(jogged[1][0].toInt(), -2);
  EXPECT_EQ(s.stage.view(), before) << "and the picture stays as large";
}

TEST(Stage, PansWithShiftAndTheMouse) {
  OnStage s;
  s.wheel(QPointF(450, 260), 5);
  const PixelPoint before = s.stage.toClip(QPointF(300, 300));
  QTest::mousePress(&s.stage, Qt::LeftButton, Qt::ShiftModifier, QPoint(300, 300));
  QTest::mouseMove(&s.stage, QPoint(340, 310));
  QTest::mouseRelease(&s.stage, Qt::LeftButton, Qt::ShiftModifier, QPoint(340, 310));
  EXPECT_NEAR(s.stage.toClip(QPointF(340, 310)).x, before.x, 1e-6);
  EXPECT_NEAR(s.stage.toClip(QPointF(340, 310)).y, before.y, 1e-6);
}

TEST(Stage, GrabsTheNearestPointAndSaysWhereItIsLetGo) {
  OnStage s;
  QSignalSpy dragged(&s.stage, &Stage::dragged);
  const QPoint knee = s.of(Landmark::Knee);
  QTest::mousePress(&s.stage, Qt::LeftButton, {}, knee + QPoint(2, -2));
  QTest::mouseMove(&s.stage, knee + QPoint(12, 5));
  QTest::mouseRelease(&s.stage, Qt::LeftButton, {}, knee + QPoint(15, 8));
  ASSERT_EQ(dragged.count(), 2);
  EXPECT_EQ(dragged.last().at(0).value<tracing::PointName>().landmark, Landmark::Knee);
  EXPECT_TRUE(dragged.last().at(2).toBool());
  const auto let_go = dragged.last().at(1).value<PixelPoint>();
  EXPECT_NEAR(let_go.x, s.stage.toClip(knee + QPoint(15, 8)).x, 1e-9);
}

TEST(Stage, MidFootIsDraggedAlongTheFloorAndByItsEndTheFloorComesAlong) {
  OnStage s;
  const auto line = *drawing::midFootLine(*s.document.analysis(), 30);
  const auto& trace = s.document.analysis()->trace.trace;
  const PixelPoint heel = *trace.place(30, Landmark::Heel), toe = *trace.place(30, Landmark::Toe);
  QSignalSpy moved(&s.stage, &Stage::footDragged);
  const auto drag = [&](QPointF from, QPoint by) {
    QTest::mousePress(&s.stage, Qt::LeftButton, {}, from.toPoint());
    QTest::mouseRelease(&s.stage, Qt::LeftButton, {}, from.toPoint() + by);
    return std::pair(moved.last().at(0).value<PixelPoint>() - heel, moved.last().at(1).value<PixelPoint>() - toe);
  };
  // Between shoulder and hip nothing else is near the line.
  const QPointF foot = s.stage.toStage(line.foot), top = s.stage.toStage(line.top);
  const double scale = s.stage.view().m11();
  const auto [heel_by, toe_by] = drag(top + (foot - top) * 0.23, QPoint(12, 9));
  ASSERT_EQ(moved.count(), 1);
  EXPECT_NEAR(heel_by.x, 12 / scale, 0.5);
  EXPECT_NEAR(heel_by.y, 0, 1e-9) << "the floor stays where it is";
  EXPECT_NEAR(length(heel_by - toe_by), 0, 1e-9);
  const auto [down, down_toe] = drag(foot, QPoint(4, 9));
  EXPECT_NEAR(down.y, 9 / scale, 0.7);
  EXPECT_NEAR(length(down - down_toe), 0, 1e-9);
  QTest::mouseClick(&s.stage, Qt::LeftButton, {}, foot.toPoint());
  EXPECT_EQ(moved.count(), 2) << "a click moves nothing";
  s.stage.setChoice({.mid_foot = false});
  drag(foot, QPoint(4, 9));
  EXPECT_EQ(moved.count(), 2) << "what is not drawn cannot be taken hold of";
}

TEST(Stage, TellsWhereTheLifterWasPointedAt) {
  OnStage s;
  QSignalSpy pointed(&s.stage, &Stage::pointedAt), dragged(&s.stage, &Stage::dragged);
  s.stage.setPointing(true);
  const QPoint knee = s.of(Landmark::Knee);
  QTest::mouseClick(&s.stage, Qt::LeftButton, {}, knee);
  ASSERT_EQ(pointed.count(), 1);
  EXPECT_NEAR(pointed.last().at(0).value<PixelPoint>().x, s.stage.toClip(knee).x, 1e-9);
  EXPECT_EQ(dragged.count(), 0) << "and no point is moved";
}

TEST(Stage, DragsNothingWhereThereIsNothing) {
  OnStage s;
  QSignalSpy dragged(&s.stage, &Stage::dragged);
  QTest::mousePress(&s.stage, Qt::LeftButton, {}, QPoint(20, 20));
  QTest::mouseMove(&s.stage, QPoint(60, 60));
  QTest::mouseRelease(&s.stage, Qt::LeftButton, {}, QPoint(60, 60));
  EXPECT_EQ(dragged.count(), 0);
}

TEST(Stage, MagnifiesWhereAPointIsBeingPlaced) {
  OnStage s;
  QImage picture(640, 360, QImage::Format_RGB32);
  picture.fill(QColor(90, 90, 90));
  // A green speck of 6 x 6 clip pixels in an empty corner.
  for (int y = 40; y < 46; ++y)
    for (int x = 60; x < 66; ++x) picture.setPixelColor(x, y, QColor(0, 255, 0));
  s.stage.showFrame(30, picture);
  const auto green = [&] {
    const QImage image = s.stage.grab().toImage();
    int n = 0;
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x) {
        const QColor c = image.pixelColor(x, y);
        n += c.green() > 200 && c.red() < 60 && c.blue() < 60 ? 1 : 0;
      }
    return n;
  };
  const int plain = green();
  s.stage.setPlacing(Landmark::Hip);
  QTest::mouseMove(&s.stage, s.stage.view().map(QPointF(63, 43)).toPoint());
  // Three and a half times larger each way, less the cross-hair over its middle.
  EXPECT_GT(green(), plain + 6 * plain);
}

TEST(Stage, DrawsOneMeasuresEvidenceInsteadOfEverything) {
  OnStage s;
  const QImage all = s.stage.grab().toImage();
  s.stage.setEvidence(lifts::Drawing::Shin);
  const QImage shin = s.stage.grab().toImage();
  EXPECT_NE(all, shin);
  s.stage.setEvidence(std::nullopt);
  EXPECT_EQ(s.stage.grab().toImage(), all);
}

TEST(Plots, AskForTheTimeThatWasClicked) {
  OnStage s;
  Plots plots(s.document);
  plots.resize(900, 180);
  plots.setSpan(0, 6);
  plots.show();
  QSignalSpy asked(&plots, &Plots::timeRequested);
  auto* first = plots.findChildren<QWidget*>().front();
  QTest::mouseClick(first, Qt::LeftButton, {}, QPoint(first->width() / 2, first->height() / 2));
  ASSERT_EQ(asked.count(), 1);
  const double middle = asked.front().front().toDouble();
  QTest::mouseClick(first, Qt::LeftButton, {}, QPoint(3 * first->width() / 4, first->height() / 2));
  EXPECT_GT(asked.last().front().toDouble(), middle + 0.5) << "further right is later";
}

// A still to keep: the clip's own size however the stage is zoomed, with the lines that are on and without those off.
TEST(Stage, AStillHoldsTheLinesThatAreOnShow) {
  OnStage d;
  const auto coloured = [](const QImage& picture) {
    int count = 0;
    for (int y = 0; y < picture.height(); ++y)
      for (int x = 0; x < picture.width(); ++x) count += picture.pixelColor(x, y) != QColor(90, 90, 90) ? 1 : 0;
    return count;
  };
  d.wheel({450, 260}, 5);
  EXPECT_EQ(d.stage.still().size(), QSize(640, 360));
  EXPECT_GT(coloured(d.stage.still()), 300);
  d.stage.setBare(true);
  EXPECT_EQ(coloured(d.stage.still()), 0) << "the first look has none";
}

TEST(FrameSource, BringsTheFrameThatWasAskedForLast) {
  FrameSource source(JIB_MADE_CLIP);
  QSignalSpy ready(&source, &FrameSource::frameReady);
  for (std::size_t i : {5u, 60u, 20u, 90u}) source.request(i);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !ready.empty() && ready.last().front().toULongLong() == 90; }, 60000));
  const QImage picture = ready.last().at(1).value<QImage>();
  EXPECT_EQ(picture.size(), QSize(640, 360));
}

TEST(FrameSource, SaysThatAFileIsNoFilm) {
  const tests::ScratchFolder folder;
  FrameSource source(folder.write("clip.mp4", "words"));
  QSignalSpy failed(&source, &FrameSource::failed);
  source.request(0);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !failed.empty(); }, 60000));
  EXPECT_TRUE(failed.front().front().toString().contains("clip.mp4"));
}

}  // namespace
}  // namespace jib::desk
