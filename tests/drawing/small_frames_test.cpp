// SPDX-License-Identifier: GPL-3.0-or-later
// Frames of a clip as small pictures, and where the lifter is in them.
#include "drawing/small_frames.h"

#include <gtest/gtest.h>

#include <cmath>

#include "drawing/lifter_extent.h"
#include "tests/core/analysed_clip.h"

namespace jib::drawing {
namespace {

double difference(const QImage& a, const QImage& b) {
  const QImage x = a.convertToFormat(QImage::Format_Grayscale8), y = b.convertToFormat(QImage::Format_Grayscale8);
  double sum = 0;
  for (int row = 0; row < x.height(); ++row)
    for (int column = 0; column < x.width(); ++column)
      sum += std::abs(x.constScanLine(row)[column] - y.constScanLine(row)[column]);
  return sum / (x.width() * x.height());
}

TEST(SmallFrames, AreThoseAskedForAtTheHeightAskedFor) {
  const auto& a = tests::smallAnalysis();
  const std::size_t up = a.motion.frameAt(a.reps[0].start_t()), down = a.motion.frameAt(a.reps[0].bottom_t());
  Task task;
  const auto small = smallFrames(JIB_MADE_CLIP, {up, down, down}, 90, task);
  ASSERT_TRUE(small);
  ASSERT_EQ(small->size(), 3u);
  for (const QImage& one : *small) EXPECT_EQ(one.size(), QSize(160, 90));
  EXPECT_EQ((*small)[1], (*small)[2]);
  EXPECT_GT(difference((*small)[0], (*small)[1]), 1) << "standing and at the bottom";
  // The same frame, decoded by itself.
  const auto alone = smallFrames(JIB_MADE_CLIP, {down}, 90, task);
  EXPECT_EQ(alone->front(), (*small)[1]);
}

TEST(SmallFrames, SayWhatIsWrongAndStopWhenTold) {
  tests::ScratchFolder folder;
  Task task;
  EXPECT_EQ(smallFrames(folder.write("no.mp4", "no film"), {0}, 90, task).error().code, ErrorCode::ClipUnreadable);
  task.cancel();
  EXPECT_EQ(smallFrames(JIB_MADE_CLIP, {0, 10}, 90, task).error().code, ErrorCode::Cancelled);
}

TEST(LifterExtent, HoldsPlateAndBodyThroughTheSet) {
  const auto& a = tests::smallAnalysis();
  const QRectF all = lifterExtent(a);
  using tracing::Landmark;
  for (std::size_t i = a.motion.frameAt(a.reps.front().start_t()); i < a.motion.frameAt(a.reps.back().end_t()); i += 7)
    for (Landmark l : {Landmark::Toe, Landmark::Heel, Landmark::Knee, Landmark::Hip, Landmark::Shoulder, Landmark::Bar})
      if (const auto p = a.trace.trace.place(i, l)) {
        EXPECT_TRUE(all.contains(QPointF(p->x, p->y)));
      }
  EXPECT_LT(all.width(), a.clip.width) << "and not all of the room";
  const double t = a.reps[0].bottom_t();
  const QRectF bottom = lifterExtent(a, motion::Stretch{t, t});
  EXPECT_LT(bottom.height(), all.height()) << "at the bottom the lifter is lower";
  EXPECT_TRUE(all.adjusted(-1, -1, 1, 1).contains(bottom));
}

TEST(LifterExtent, IsEmptyWhereNothingIsTraced) {
  const auto& a = tests::smallAnalysis();
  const auto only = coaching::watched(a.clip, a.request, *coaching::shippedStyle("balanced"),
                                      *coaching::CueBook::shipped(), "Nothing moves.");
  EXPECT_TRUE(lifterExtent(only).isEmpty());
}

}  // namespace
}  // namespace jib::drawing
