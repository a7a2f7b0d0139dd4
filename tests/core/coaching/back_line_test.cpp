// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/back_line.h"

#include <gtest/gtest.h>

#include "core/base/angle.h"
#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

using tests::smallAnalysis;
using tracing::Landmark;

std::size_t frameAt(double t) {
  return smallAnalysis().motion.frameAt(t);
}

// A back line put down by hand on a frame: straight, but for a low back that stands out by so much.
Shape byHand(double t, double out_m) {
  const Analysis& a = smallAnalysis();
  Shape back = *backLineOn(a, frameAt(t));
  back.proposed = false;
  const auto& camera = a.trace.camera;
  const MetrePoint low{0, 1.0}, high{0.25, 1.0 + 0.35};
  const MetrePoint up = high - low, behind = MetrePoint{-up.z, up.x} * (1 / length(up));
  back.anchors[kPelvis].place = camera.toPicture(low, 0);
  back.anchors[kLowBack].place = camera.toPicture(low + up * 0.5 + behind * out_m, 0);
  back.anchors[kUpperBack].place = camera.toPicture(high, 0);
  return back;
}

TEST(BackLine, IsProposedBehindTheTrunkFromTheHeadDown) {
  const Analysis& a = smallAnalysis();
  const std::size_t frame = frameAt(a.reps[0].start_t());
  const auto back = backLineOn(a, frame);
  ASSERT_TRUE(back);
  EXPECT_TRUE(back->proposed);
  EXPECT_EQ(back->from_s, back->to_s) << "on that frame alone";
  const auto hip = *a.trace.trace.place(frame, Landmark::Hip),
             shoulder = *a.trace.trace.place(frame, Landmark::Shoulder);
  const double forward = a.trace.camera.forward;
  for (const Anchor& anchor : back->anchors) {
    const PixelPoint along = shoulder - hip;
    const double share = dot(anchor.place - hip, along) / dot(along, along);
    const PixelPoint beside = anchor.place - (hip + along * share);
    EXPECT_LT(forward * beside.x, 0) << "behind";
    EXPECT_NEAR(length(beside) / a.trace.camera.pixelsPerMetre(0), 0.115, 0.04);
  }
  EXPECT_LT(back->anchors[kUpperBack].place.y, back->anchors[kLowBack].place.y);
  EXPECT_LT(back->anchors[kLowBack].place.y, back->anchors[kPelvis].place.y);
  Analysis no_body = a;
  no_body.trace.trace.frames[frame][at(Landmark::Hip)].reset();
  EXPECT_FALSE(backLineOn(no_body, frame));
}

TEST(BackLine, IsProposedAtStartTurnAndLockoutOfTheRepAndOnlyOnce) {
  const Analysis& a = smallAnalysis();
  const motion::Rep& rep = a.reps[1];
  Sketch sketch;
  sketch.shapes = backLinesAround(a, sketch, frameAt(rep.bottom_t() + 0.1));
  ASSERT_EQ(sketch.shapes.size(), 3u);
  EXPECT_NEAR(sketch.shapes[0].drawn_s, rep.start_t(), 0.03);
  EXPECT_NEAR(sketch.shapes[1].drawn_s, rep.bottom_t(), 0.03);
  EXPECT_NEAR(sketch.shapes[2].drawn_s, rep.lockout_t(), 0.03);
  EXPECT_TRUE(backLinesAround(a, sketch, frameAt(rep.bottom_t())).empty());
  sketch.shapes.erase(sketch.shapes.begin() + 1);
  EXPECT_EQ(backLinesAround(a, sketch, frameAt(rep.bottom_t())).size(), 1u);
}

TEST(BackLine, BendsByTheAngleAtTheLowBack) {
  const Analysis& a = smallAnalysis();
  const double half_m = 0.5 * std::hypot(0.25, 0.35);
  EXPECT_NEAR(bendOf(byHand(1, 0), a).bend_deg, 0, 0.1);
  const double expected = 2 * degrees(std::atan2(0.04, half_m));
  EXPECT_NEAR(bendOf(byHand(1, 0.04), a).bend_deg, expected, 0.2);
  EXPECT_NEAR(bendOf(byHand(1, -0.04), a).bend_deg, -expected, 0.2) << "hollow";
  // Seven millimetres at each of three points.
  EXPECT_NEAR(bendOf(byHand(1, 0), a).sigma_deg, degrees(0.007 * std::sqrt(6.0) / half_m), 0.1);
}

TEST(BackLine, SaysHowMuchRounderItIsOnlyWhereThatIsSure) {
  const Analysis& a = smallAnalysis();
  const double start = a.reps[0].start_t(), turn = a.reps[0].bottom_t();
  Sketch sketch;
  sketch.shapes = {byHand(start, 0), byHand(turn, 0.05)};
  EXPECT_EQ(backLabel(sketch.shapes[0], sketch, a).rfind("the back at ", 0), 0u);
  EXPECT_NE(backLabel(sketch.shapes[1], sketch, a).find("26° rounder"), std::string::npos)
      << backLabel(sketch.shapes[1], sketch, a);
  sketch.shapes[1] = byHand(turn, 0.01);
  EXPECT_NE(backLabel(sketch.shapes[1], sketch, a).find("about as round"), std::string::npos);
  sketch.shapes[1] = byHand(turn, -0.05);
  EXPECT_NE(backLabel(sketch.shapes[1], sketch, a).find("flatter"), std::string::npos);
  // Another rep's line is not compared with, and neither is one nobody has put right yet.
  sketch.shapes[1] = byHand(a.reps[1].bottom_t(), 0.05);
  EXPECT_EQ(backLabel(sketch.shapes[1], sketch, a).rfind("the back at ", 0), 0u);
  sketch.shapes[1].proposed = true;
  EXPECT_EQ(backLabel(sketch.shapes[1], sketch, a), "pull these onto the back");
  EXPECT_EQ(sketchFromJson(sketchToJson(sketch)), sketch) << "also whether it is a proposal";
}

}  // namespace
}  // namespace jib::coaching
