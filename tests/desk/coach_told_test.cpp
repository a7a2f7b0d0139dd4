// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach tells of a clip in the window: parts that are not measured, where the foot stands, who the lifter is.
#include <gtest/gtest.h>

#include <QAction>
#include <QMenu>
#include <QTest>

#include "core/lifts/measure_set.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "tests/desk/review_desk.h"

namespace jib::desk {
namespace {

using tests::Begin;
using tests::Desk;
using tracing::Landmark;

std::size_t repsIn(ReviewPage& page) {
  return page.document().analysis()->reps.size();
}

TEST(LeftOut, APartIsMarkedOnTheTimeLineAndComesBackWithUndo) {
  Desk d(Begin::Placed);
  auto& page = d.open();
  auto& scrubber = *page.findChild<Scrubber*>("scrubber");
  ASSERT_EQ(repsIn(page), 2u);
  const auto second = page.document().analysis()->reps[1].whole();
  const auto at = [&](double t) { return QPoint(static_cast<int>(scrubber.xAt(t)), scrubber.height() / 2); };
  QTest::mousePress(&scrubber, Qt::LeftButton, Qt::ShiftModifier, at(second.from_t - 0.1));
  QTest::mouseMove(&scrubber, at(second.to_t));
  QTest::mouseRelease(&scrubber, Qt::LeftButton, Qt::ShiftModifier, at(second.to_t + 0.3));
  EXPECT_EQ(repsIn(page), 1u);
  EXPECT_EQ(page.document().setUp().left_out.size(), 1u);

  d.reopen();
  auto& again = d.open();
  EXPECT_EQ(repsIn(again), 1u) << "and stays so";
  auto& line = *again.findChild<Scrubber*>("scrubber");
  line.offerRepEdits(second.from_t + 0.2, QPoint(200, 200));
  auto* menu = line.findChild<QMenu*>("repMenu");
  ASSERT_NE(menu, nullptr);
  menu->findChild<QAction*>("leavePartOut")->trigger();
  EXPECT_EQ(repsIn(again), 2u);
  again.document().undoStack().undo();
  EXPECT_EQ(repsIn(again), 1u);
}

TEST(LeftOut, ByKeyFromHereToThereAndPressedTwiceOnAFrameNothing) {
  Desk d(Begin::Placed);
  auto& page = d.open();
  auto& scrubber = *page.findChild<Scrubber*>("scrubber");
  const auto first = page.document().analysis()->reps[0].whole();
  auto* key = page.findChild<QAction*>("leaveOutAction");
  emit scrubber.timeRequested(first.to_t + 0.05);
  key->trigger();
  key->trigger();
  EXPECT_TRUE(page.document().setUp().left_out.empty());
  key->trigger();
  emit scrubber.timeRequested(0);
  key->trigger();
  ASSERT_EQ(page.document().setUp().left_out.size(), 1u);
  EXPECT_EQ(repsIn(page), 1u);
  // The whole clip: nothing is left to be said, and nothing breaks.
  scrubber.leaveOutAt(1e3);
  scrubber.leaveOutAt(-1);
  EXPECT_EQ(repsIn(page), 0u);
  while (page.document().undoStack().canUndo()) page.document().undoStack().undo();
  EXPECT_EQ(repsIn(page), 2u);
}

TEST(Trim, WhatComesBeforeIsNeitherPlayedNorMeasuredAndTheFileStaysWhole) {
  Desk d(Begin::Placed);
  auto& page = d.open();
  auto& scrubber = *page.findChild<Scrubber*>("scrubber");
  auto& player = page.player();
  const auto reps = page.document().analysis()->reps;
  const double cut = reps[0].whole().to_t + 0.05, end = player.lastTime();
  emit scrubber.timeRequested(cut);
  page.findChild<QAction*>("trimStartAction")->trigger();
  EXPECT_NEAR(player.firstTime(), cut, 0.05);
  EXPECT_EQ(repsIn(page), reps.size() - 1);
  player.goTo(end);
  player.toggle();
  EXPECT_NEAR(player.time(), cut, 0.05) << "from the end it plays from where the clip starts now";
  player.pause();
  emit scrubber.timeRequested(end - 0.3);
  page.findChild<QAction*>("trimEndAction")->trigger();
  EXPECT_NEAR(player.lastTime(), end - 0.3, 0.05);
  player.goTo(0);
  EXPECT_LT(player.time(), cut) << "it can still be looked at";
  page.document().undoStack().undo();
  page.document().undoStack().undo();
  EXPECT_EQ(repsIn(page), reps.size());
  EXPECT_LT(player.firstTime(), cut);
}

TEST(MidFoot, IsDraggedWithHeelAndToeAsOneEdit) {
  Desk d(Begin::Placed);
  auto& page = d.open();
  auto& stage = *page.findChild<Stage*>();
  ASSERT_TRUE(QTest::qWaitFor([&] { return stage.hasPicture(); }, tests::kPatience_ms));
  const auto before = page.document().placed();
  const auto offMidFoot = [&] {
    return lifts::find(page.document().analysis()->measures.reps.at(0), "bar_to_midfoot_mean_m")->measured()->value;
  };
  const double was = offMidFoot();
  const auto line = drawing::midFootLine(*page.document().analysis(), stage.frame());
  ASSERT_TRUE(line);
  const QPoint foot = stage.toStage(line->foot).toPoint();
  QTest::mousePress(&stage, Qt::LeftButton, {}, foot);
  for (int x = 4; x <= 24; x += 4) QTest::mouseMove(&stage, foot + QPoint(x, 0));
  QTest::mouseRelease(&stage, Qt::LeftButton, {}, foot + QPoint(24, 0));
  const double t_s = page.document().analysis()->motion.times_s[stage.frame()];
  const auto toe = page.document().pin({t_s, Landmark::Toe}), heel = page.document().pin({t_s, Landmark::Heel});
  ASSERT_TRUE(toe && heel);
  EXPECT_NEAR((toe->x + heel->x) / 2, line->foot.x + 24 / stage.view().m11(), 1);
  EXPECT_GT(std::abs(offMidFoot() - was), 0.001) << "the numbers follow";
  page.document().undoStack().undo();
  EXPECT_NEAR(offMidFoot(), was, 1e-9) << "one drag is one edit";
  EXPECT_EQ(page.document().placed().size(), before.size());
}

TEST(LifterPointedAt, TheClipIsOpenedAnewWithThemAndUndoTakesItBack) {
  Desk d;
  auto& page = d.open();
  auto& stage = *page.findChild<Stage*>();
  ASSERT_TRUE(QTest::qWaitFor([&] { return stage.hasPicture(); }, tests::kPatience_ms));
  page.findChild<QAction*>("pointAction")->trigger();
  ASSERT_TRUE(stage.pointing());
  QTest::keyClick(&stage, Qt::Key_Escape);
  ASSERT_FALSE(stage.pointing()) << "Escape leaves it";
  ASSERT_EQ(d.window->reviewPage(), &page);
  page.findChild<QAction*>("pointAction")->trigger();
  const auto hip = *page.document().analysis()->trace.place(stage.frame(), Landmark::Hip);
  QTest::mouseClick(&stage, Qt::LeftButton, {}, stage.toStage(hip).toPoint());
  const auto settled = [&](bool told) {
    return QTest::qWaitFor(
        [&, told] {
          auto* now = d.window->reviewPage();
          return now && now->settled() && now->document().analysis() && now->document().analysis()->isTraced() &&
                 now->document().submission().details.lifter.has_value() == told;
        },
        tests::kPatience_ms);
  };
  ASSERT_TRUE(settled(true));
  EXPECT_NEAR(d.window->reviewPage()->document().submission().details.lifter->at.x, hip.x, 1);
  EXPECT_EQ(repsIn(*d.window->reviewPage()), 2u) << "theirs";
  EXPECT_NE(d.window->reviewPage()->findChild<QAction*>("anybodyAction"), nullptr);
  d.window->reviewPage()->document().undoStack().undo();
  ASSERT_TRUE(settled(false));
}

}  // namespace
}  // namespace jib::desk
