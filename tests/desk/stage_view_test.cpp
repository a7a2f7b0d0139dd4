// SPDX-License-Identifier: GPL-3.0-or-later
// How the clip lies on the stage, by numbers alone.
#include "desk/review/stage_view.h"

#include <gtest/gtest.h>

#include <cmath>

namespace jib::desk {
namespace {

using Framing = StageView::Framing;

// A clip of 1280 x 720 on a stage of 800 x 450, where it fits exactly, with a lifter a third as high as the picture.
StageView onStage(QRectF lifter = {500, 300, 160, 240}) {
  StageView view;
  view.setStage({800, 450});
  view.setPicture({1280, 720});
  view.setLifter(lifter);
  return view;
}

QPointF there(const StageView& view, QPointF clip) {
  return view.transform().map(clip);
}

TEST(StageView, FramesTheLifterUnlessNothingIsKnown) {
  const StageView view = onStage();
  EXPECT_NEAR(view.transform().m11() * 240, StageView::kLifterShare * 450, 1e-6) << "its height decides";
  EXPECT_NEAR(there(view, {580, 420}).x(), 400, 1e-6) << "in the middle";
  StageView wide = onStage({200, 400, 900, 200});
  EXPECT_NEAR(wide.transform().m11() * 900, StageView::kLifterShare * 800, 1e-6) << "of who lies on a bench the width";
  EXPECT_EQ(onStage({}).zoom(), 1) << "an untraced clip is shown whole";
  EXPECT_EQ(onStage({-2000, -2000, 10, 10}).zoom(), 1) << "a lifter who is not in the picture too";
  EXPECT_EQ(onStage({600, 300, 4, 6}).zoom(), StageView::kMostZoom);
}

TEST(StageView, LeavesNoMoreOfTheStageEmptyThanItMust) {
  // A lifter at the left edge: the picture's edge is the stage's.
  const StageView view = onStage({0, 300, 160, 240});
  EXPECT_NEAR(there(view, {0, 0}).x(), 0, 1e-6);
  // A tall clip stands in the middle.
  StageView tall;
  tall.setStage({800, 450});
  tall.setPicture({720, 1280});
  tall.frame(Framing::Whole);
  EXPECT_NEAR(there(tall, {360, 640}).x(), 400, 1e-6);
  EXPECT_NEAR(there(tall, {0, 0}).y(), 0, 1e-6);
  EXPECT_GT(there(tall, {0, 0}).x(), 200);
}

TEST(StageView, TheWheelKeepsWhatIsUnderItAndEndsAtTheWholePicture) {
  StageView view = onStage();
  const QPointF under(430, 210);
  const QPointF place = view.transform().inverted().map(under);
  view.zoomAt(under, 1.4);
  EXPECT_EQ(view.framing(), Framing::Own);
  EXPECT_NEAR(there(view, place).x(), under.x(), 1e-6);
  EXPECT_NEAR(there(view, place).y(), under.y(), 1e-6);
  for (int i = 0; i < 20; ++i) view.zoomAt(under, 0.5);
  EXPECT_EQ(view.framing(), Framing::Whole);
  EXPECT_EQ(view.zoom(), 1);
  for (int i = 0; i < 20; ++i) view.zoomAt(under, 2);
  EXPECT_EQ(view.zoom(), StageView::kMostZoom);
}

TEST(StageView, IsMovedByHandAndPutBackAsItWas) {
  StageView view = onStage();
  view.setOwn(3, {640, 360});
  const QPointF before = there(view, {640, 360});
  view.panBy({50, -20});
  EXPECT_NEAR(there(view, {640, 360}).x() - before.x(), 50, 1e-6);
  EXPECT_NEAR(there(view, {640, 360}).y() - before.y(), -20, 1e-6);
  StageView again = onStage();
  again.setOwn(view.zoom(), view.centre());
  EXPECT_EQ(again.transform(), view.transform());
  view.panBy({1e6, 0});
  EXPECT_NEAR(there(view, {0, 0}).x(), 0, 1e-6) << "not past the picture's edge";
}

TEST(StageView, AFollowedPlaceStaysStillEvenWhereThePictureEnds) {
  StageView view = onStage();
  view.setOwn(4, {640, 360});
  for (const QPointF place : {QPointF(640, 360), QPointF(5, 700), QPointF(1279, 1)}) {
    view.follow(place);
    EXPECT_NEAR(there(view, place).x(), 400, 1e-6);
    EXPECT_NEAR(there(view, place).y(), 225, 1e-6);
  }
  view.follow(std::nullopt);
  EXPECT_NEAR(there(view, {640, 360}).x(), 400, 1e-6);
  view.frame(Framing::Whole);
  view.follow(QPointF(5, 5));
  EXPECT_NEAR(there(view, {640, 360}).x(), 400, 1e-6) << "a picture that is shown whole need not move";
}

}  // namespace
}  // namespace jib::desk
