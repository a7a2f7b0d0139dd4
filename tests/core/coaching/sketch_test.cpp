// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/sketch.h"

#include "core/base/angle.h"

#include <gtest/gtest.h>

#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

using tracing::Landmark;

// Thirty frames in which the knee walks a pixel to the right each frame; the hip is out of sight from the tenth on.
Analysis walkingKnee() {
  footage::ClipInfo clip;
  clip.width = 640;
  clip.height = 480;
  for (int i = 0; i < 30; ++i) clip.times_s.push_back(i / 30.0);
  Analysis a = watched(clip, {}, *shippedStyle("balanced"), *CueBook::shipped(), "Nothing round moves.");
  for (std::size_t i = 0; i < 30; ++i) {
    a.trace.trace.frames[i][tracing::at(Landmark::Knee)] = tracing::TracedPoint{{100.0 + i, 200}, 1};
    if (i < 10) a.trace.trace.frames[i][tracing::at(Landmark::Hip)] = tracing::TracedPoint{{80, 120}, 1};
  }
  return a;
}

Shape lineFrom(Anchor a, Anchor b, double from_s, double to_s, double drawn_s = 0) {
  Shape s;
  s.kind = ShapeKind::Line;
  s.anchors = {std::move(a), std::move(b)};
  s.drawn_s = drawn_s;
  s.from_s = from_s;
  s.to_s = to_s;
  return s;
}

TEST(Sketch, AnEndRidesOnItsLandmarkAndKeepsItsDistance) {
  const Analysis a = walkingKnee();
  const Sketch sketch{{lineFrom({{105, 200}, Landmark::Knee, 0, {}}, {{300, 300}, {}, 0, {}}, 0, 1)}, {}};
  const auto later = shapesOn(sketch, a, 20);
  ASSERT_EQ(later.size(), 1u);
  EXPECT_EQ(later[0].anchors[0].x, 125) << "five pixels before the knee, as it was drawn";
  EXPECT_EQ(later[0].anchors[1].x, 300) << "the room stands still";
}

TEST(Sketch, IsLeftOutWhereItsLandmarkIsNotSeen) {
  const Analysis a = walkingKnee();
  const Sketch sketch{{lineFrom({{80, 120}, Landmark::Hip, 0, {}}, {{100, 200}, Landmark::Knee, 0, {}}, 0, 1)}, {}};
  EXPECT_EQ(shapesOn(sketch, a, 9).size(), 1u);
  EXPECT_TRUE(shapesOn(sketch, a, 10).empty());
}

TEST(Sketch, ShowsForOneFrameAStretchOrTheClip) {
  const Analysis a = walkingKnee();
  const Anchor p{{1, 1}, {}, 0, {}}, q{{9, 9}, {}, 0, {}};
  const auto frames = [&](const Shape& shape) {
    int n = 0;
    for (std::size_t i = 0; i < 30; ++i) n += static_cast<int>(shapesOn({{shape}, {}}, a, i).size());
    return n;
  };
  EXPECT_EQ(frames(lineFrom(p, q, 0.5, 0.5, 0.5)), 1);
  EXPECT_EQ(frames(lineFrom(p, q, 0.3, 0.5, 0.4)), 7);
  EXPECT_EQ(frames(lineFrom(p, q, 0, 1)), 30);
}

TEST(Sketch, GoesWithWhatItWasPutOnAndIsGoneWhereThatWasLost) {
  const Analysis a = walkingKnee();
  Anchor spot{{50, 50}, {}, 3, {PixelPoint{50, 50}, PixelPoint{51, 50}, std::nullopt}};
  const Sketch sketch{{lineFrom(spot, {{0, 0}, {}, 0, {}}, 0, 1, 0.1)}, {}};
  EXPECT_EQ(shapesOn(sketch, a, 4).at(0).anchors[0].x, 51);
  EXPECT_TRUE(shapesOn(sketch, a, 5).empty());
  EXPECT_TRUE(shapesOn(sketch, a, 2).empty()) << "not followed before that";
}

TEST(Sketch, OnACameraHeldByHandTheRoomTakesItAlong) {
  Analysis a = walkingKnee();
  for (int i = 0; i < 30; ++i) a.trace.trace.camera_moves.push_back({1, 0, {2.0 * i, 0}});
  const Sketch sketch{{lineFrom({{50, 50}, {}, 0, {}}, {{60, 60}, {}, 0, {}}, 0, 1, 0)}, {}};
  EXPECT_NEAR(shapesOn(sketch, a, 10).at(0).anchors[0].x, 70, 1e-9);
}

TEST(Sketch, MeasuresAnglesAndDistancesInTheLiftersPlane) {
  const Analysis& a = tests::smallAnalysis();
  const std::size_t bottom = a.motion.frameAt(a.reps[0].bottom_t());
  const auto at = [&](Landmark l) { return Anchor{*a.trace.trace.place(bottom, l), l, 0, {}}; };
  Shape angle;
  angle.kind = ShapeKind::Angle;
  angle.anchors = {at(Landmark::Ankle), at(Landmark::Knee), at(Landmark::Hip)};
  angle.drawn_s = angle.from_s = angle.to_s = a.motion.times_s[bottom];
  Shape distance = angle;
  distance.kind = ShapeKind::Distance;
  distance.anchors = {at(Landmark::Ankle), at(Landmark::Knee)};
  distance.text = "shin";
  const auto drawn = shapesOn({{angle, distance}, {}}, a, bottom);
  ASSERT_EQ(drawn.size(), 2u);
  EXPECT_NEAR(std::atof(drawn[0].label.c_str()), *a.motion.angles[bottom].knee_deg, 4)
      << "the table's own angle, but for what filtering does";
  const auto& truth = tests::smallTruth();
  const auto m = [&](Landmark l) { return *truth.frames[bottom].metres[tracing::at(l)]; };
  EXPECT_NEAR(std::atof(drawn[1].label.c_str()), 100 * length(m(Landmark::Knee) - m(Landmark::Ankle)), 3);
  EXPECT_NE(drawn[1].label.find(" in  shin"), std::string::npos) << drawn[1].label;
}

TEST(Sketch, OfAClipWithoutAScaleADistanceSaysNothing) {
  Shape distance = lineFrom({{0, 0}, {}, 0, {}}, {{100, 0}, {}, 0, {}}, 0, 0);
  distance.kind = ShapeKind::Distance;
  EXPECT_EQ(shapesOn({{distance}, {}}, walkingKnee(), 0).at(0).label, "");
}

TEST(Sketch, APlumbLineIsTheTrueVerticalOfATurnedCamera) {
  Analysis a = tests::smallAnalysis();
  const std::size_t frame = 20;
  a.trace.camera.roll_rad += 0.1;
  Shape plumb;
  plumb.kind = ShapeKind::Plumb;
  plumb.anchors = {{*a.trace.trace.place(frame, Landmark::Bar), Landmark::Bar, 0, {}}};
  plumb.drawn_s = plumb.from_s = plumb.to_s = a.motion.times_s[frame];
  const auto drawn = shapesOn({{plumb}, {}}, a, frame).at(0);
  const PixelPoint along = drawn.line[1] - drawn.line[0];
  EXPECT_NEAR(std::atan(std::abs(along.x / along.y)), std::abs(a.trace.camera.roll_rad), 0.02);
}

TEST(Sketch, ALineAlongAPostSaysHowFarTheCameraIsRolled) {
  Analysis a = tests::smallAnalysis();
  const auto leans = [&] { return lifts::find(a.measures.reps[0], "trunk_lean_start_deg")->measured()->value; };
  const auto again = [&](std::optional<double> roll_rad) {
    a.request.trace.camera.told_roll_rad = roll_rad;
    tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
    judgeAgain(a, *shippedStyle("balanced"), *CueBook::shipped());
  };
  const double was = leans();
  // Where a post is seen by a camera that is rolled by four degrees more.
  Analysis rolled = a;
  const double wanted = a.trace.camera.roll_rad + radians(4);
  rolled.trace.camera.roll_rad = wanted;
  Shape post = lineFrom({{120, 100}, {}, 0, {}}, {{120, 300}, {}, 0, {}}, 0, 0);
  post.kind = ShapeKind::Plumb;
  post.anchors.resize(1);
  const auto line = shapesOn({{post}, {}}, rolled, 0).at(0).line;
  const PixelPoint along = (line[1] - line[0]) * (200 / length(line[1] - line[0]));
  Shape drawn = lineFrom({{120, 100}, {}, 0, {}}, {PixelPoint{120, 100} + along, {}, 0, {}}, 0, 0);
  const auto roll = rollByVertical(drawn, a);
  ASSERT_TRUE(roll);
  EXPECT_NEAR(degrees(*roll), degrees(wanted), 0.3);
  std::swap(drawn.anchors[0], drawn.anchors[1]);
  EXPECT_NEAR(*rollByVertical(drawn, a), *roll, 1e-9) << "from either end";

  again(roll);
  EXPECT_NEAR(std::abs(leans() - was), 4, 0.7) << "the trunk leans as much less or more";
  EXPECT_LT(a.trace.camera.roll_sigma_rad, radians(0.5));
  EXPECT_TRUE(std::any_of(a.notices.begin(), a.notices.end(), [](const Notice& n) { return n.id == "vertical_told"; }));
  again(std::nullopt);
  EXPECT_DOUBLE_EQ(leans(), was);

  EXPECT_FALSE(rollByVertical(lineFrom({{0, 0}, {}, 0, {}}, {{0, 20}, {}, 0, {}}, 0, 0), a)) << "too short to tell";
  EXPECT_FALSE(rollByVertical(lineFrom({{0, 0}, {}, 0, {}}, {{200, 20}, {}, 0, {}}, 0, 0), a)) << "a floor's edge";
}

TEST(Sketch, EndsSnapToJointsToEachOtherAndToTheFloor) {
  const Analysis& a = tests::smallAnalysis();
  const std::size_t frame = 20;
  const PixelPoint knee = *a.trace.trace.place(frame, Landmark::Knee);
  EXPECT_EQ(snapped(knee + PixelPoint{4, 3}, {}, a, frame, 12).rides, Landmark::Knee);
  const PixelPoint nowhere{5, 5};
  const Anchor free = snapped(nowhere, {}, a, frame, 12);
  EXPECT_FALSE(free.rides);
  EXPECT_EQ(free.place.x, 5);
  const double t = a.motion.times_s[frame];
  const Sketch sketch{{lineFrom({{30, 30}, {}, 0, {}}, {{60, 60}, {}, 0, {}}, t, t, t)}, {}};
  EXPECT_EQ(snapped({33, 28}, sketch, a, frame, 12).place.x, 30);
  EXPECT_EQ(snapped({33, 28}, sketch, a, frame, 12, 0).place.x, 33) << "not to itself";
  const PixelPoint heel = *a.trace.trace.place(frame, Landmark::Heel), toe = *a.trace.trace.place(frame, Landmark::Toe);
  const PixelPoint beyond = toe + (toe - heel) * 2 + PixelPoint{0, 5};
  const PixelPoint on_floor = snapped(beyond, {}, a, frame, 12).place;
  EXPECT_NEAR(cross(toe - heel, on_floor - heel), 0, 1e-6) << "the floor is where the shoe stands";
}

TEST(Sketch, IsKeptExactlyAndWhatIsNotUnderstoodIsKeptToo) {
  Sketch sketch{{lineFrom({{1.5, 2}, Landmark::HipCrease, 0, {}}, {{3, 4}, {}, 7, {PixelPoint{3, 4}, std::nullopt}},
                          0.1, 0.4, 0.2)},
                {}};
  sketch.shapes[0].sense = Sense::AsWanted;
  sketch.shapes[0].text = "ü";
  EXPECT_EQ(sketchFromJson(sketchToJson(sketch)), sketch);

  const std::string newer = R"([{"kind": "spiral", "turns": 3}, {"kind": "line", "drawn": 0}, 5])";
  const Sketch read = sketchFromJson(newer);
  EXPECT_TRUE(read.shapes.empty());
  EXPECT_EQ(read.unread.size(), 3u);
  EXPECT_EQ(sketchFromJson(sketchToJson(read)), read) << "a newer program finds its spiral again";
  EXPECT_EQ(sketchFromJson("no json"), Sketch{});
}

TEST(Watched, AClipInWhichNothingIsTracedHasFramesMarksAndNoNumbers) {
  Analysis a = walkingKnee();
  EXPECT_FALSE(a.isTraced());
  EXPECT_TRUE(a.reps.empty());
  EXPECT_TRUE(a.findings.empty());
  EXPECT_FALSE(a.proposal.change_nothing) << "silence is no clean bill";
  a.request.marks = {{"squat.pelvis_tucks", MarkState::Seen, 0, 0.5}};
  a.request.held = motion::withRep({}, a.motion, motion::RepPattern::DownFirst, 0.1, 0.9);
  judgeAgain(a, *shippedStyle("balanced"), *CueBook::shipped());
  ASSERT_EQ(a.findings.size(), 1u);
  EXPECT_EQ(a.proposal.cues.size(), 1u) << "a mark becomes a cue";
  EXPECT_EQ(a.reps.size(), 1u) << "reps can be counted by hand";
}

}  // namespace
}  // namespace jib::coaching
