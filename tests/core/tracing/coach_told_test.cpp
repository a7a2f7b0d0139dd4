// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach says of a clip: the lifter among others, and parts in which nothing is measured.
#include "core/tracing/model/coach_told.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "core/tracing/sightings/first_look.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/footage/made_clips.h"

namespace jib::tracing {
namespace {

using tests::must;
using tests::smallAnalysis;

TEST(LeftOut, PartsThatMeetBecomeOneAndOthersStayApart) {
  LeftOuts parts = with({}, {4, 5});
  parts = with(parts, {9, 8});
  EXPECT_EQ(parts, (LeftOuts{{4, 5}, {8, 9}})) << "backward is as good";
  parts = with(parts, {1, 2});
  EXPECT_EQ(parts.front(), (LeftOut{1, 2})) << "rising";
  parts = with(parts, {4.5, 8.5});
  EXPECT_EQ(parts, (LeftOuts{{1, 2}, {4, 9}}));
  EXPECT_EQ(without(parts, 5), (LeftOuts{{1, 2}}));
  EXPECT_EQ(without(parts, 3), parts);
}

coaching::Analysis leftOut(const LeftOuts& parts) {
  coaching::Analysis a = smallAnalysis();
  a.request.trace.left_out = parts;
  solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  coaching::judgeAgain(a, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  return a;
}

TEST(LeftOut, ARepInItIsNotMeasuredAndTheOtherIsAsBefore) {
  const auto& before = smallAnalysis();
  ASSERT_EQ(before.reps.size(), 2u);
  const auto second = before.reps[1].whole();
  const auto a = leftOut({{second.from_t - 0.1, second.to_t + 1}});
  ASSERT_EQ(a.reps.size(), 1u);
  EXPECT_NEAR(a.reps[0].bottom_t(), before.reps[0].bottom_t(), 0.01);
  const auto depth = [](const coaching::Analysis& of) {
    return lifts::find(of.measures.reps.at(0), "hip_crease_above_knee_m")->measured()->value;
  };
  EXPECT_NEAR(depth(a), depth(before), 0.002);
  const auto inside = nearestFrame(a.trace.trace, before.reps[1].bottom_t());
  for (const Landmark l : kAllLandmarks) EXPECT_FALSE(a.trace.trace.place(inside, l)) << nameOf(l);
}

TEST(LeftOut, ARepThatReachesIntoItDoesNotCount) {
  const auto& before = smallAnalysis();
  const auto& second = before.reps[1];
  EXPECT_EQ(leftOut({{second.ascent_t() + 0.3, second.end_t() + 0.5}}).reps.size(), 1u) << "half of it is not seen";
  EXPECT_EQ(leftOut({{second.end_t() + 0.05, second.end_t() + 0.5}}).reps.size(), 2u);
}

TEST(LeftOut, MeasuringAgainBringsEverythingBack) {
  const auto& before = smallAnalysis();
  coaching::Analysis a = leftOut({{0, 1e3}});
  EXPECT_TRUE(a.reps.empty());
  EXPECT_TRUE(a.findings.empty());
  a.request.trace.left_out.clear();
  solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  coaching::judgeAgain(a, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  EXPECT_EQ(a.reps, before.reps);
}

TEST(LeftOut, HoldsForBothSidesOfAFrontView) {
  const std::string clip = std::string(JIB_MADE_CLIPS) + "/small-front.mp4";
  coaching::AnalysisRequest request;
  const auto whole = tests::keptAnalysis("front", clip, request);
  ASSERT_FALSE(whole.reps.empty());
  const auto rep = whole.reps.front().whole();
  request.trace.left_out = {{rep.from_t, rep.to_t}};
  const auto a = tests::keptAnalysis("front", clip, request);
  EXPECT_EQ(a.reps.size() + 1, whole.reps.size());
  const auto inside = nearestFrame(a.trace.trace, (rep.from_t + rep.to_t) / 2);
  EXPECT_TRUE(whole.trace.front->frames[inside].at(BodySide::Left, Landmark::Knee));
  EXPECT_FALSE(a.trace.front->frames[inside].at(BodySide::Left, Landmark::Knee));
}

// Nothing is left to be said of such a clip, whatever it shows, and nothing breaks.
TEST(LeftOut, AWholeClipOfAnyLiftAndViewHasNoNumbers) {
  for (const auto& [name, lift] : {std::pair{"front", "squat"}, {"bench", "bench"}}) {
    coaching::AnalysisRequest request;
    request.lift = lifts::liftNamed(lift)->id;
    request.variant = lifts::usualVariant(lift);
    const std::string clip = std::string(JIB_MADE_CLIPS) + "/small-" + name + ".mp4";
    ASSERT_FALSE(tests::keptAnalysis(name, clip, request).reps.empty()) << name;
    request.trace.left_out = {{0, 1e3}};
    const auto a = tests::keptAnalysis(name, clip, request);
    EXPECT_TRUE(a.reps.empty() && a.misses.empty()) << name;
    for (const auto& f : a.findings) EXPECT_NE(f.verdict, coaching::Verdict::Yes) << name << ": " << f.id;
  }
}

// The front film twice, side by side: left as it is, right smaller, as somebody further off.
TEST(LifterPointedAt, NobodyElseIsLookedAt) {
  const tests::ScratchFolder folder;
  const auto file = folder / "two.mp4";
  auto reader = must(footage::FrameReader::open(std::string(JIB_MADE_CLIPS) + "/small-front.mp4"));
  const int wide = reader.info().width, tall = reader.info().height;
  constexpr int kFrames = 30;
  auto writer = must(footage::ClipWriter::create(file, {.width = 2 * wide, .height = tall, .rate_hz = 30}));
  for (int i = 0; i < kFrames; ++i) {
    const auto frame = must(reader.next(footage::Pixels::Colour));
    ASSERT_TRUE(frame);
    cv::Mat both(tall, 2 * wide, CV_8UC3, cv::Scalar::all(120)), small;
    frame->picture.copyTo(both(cv::Rect(0, 0, wide, tall)));
    cv::resize(frame->picture, small, {}, 0.8, 0.8, cv::INTER_AREA);
    small.copyTo(both(cv::Rect(wide, tall - small.rows, small.cols, small.rows)));
    ASSERT_TRUE(writer.add(both));
  }
  ASSERT_TRUE(writer.finish());
  const auto seenAt = [&](std::optional<PointedAt> lifter) {
    auto two = must(footage::FrameReader::open(file));
    Task task;
    const auto look = must(firstLook(two, task, lifter));
    EXPECT_FALSE(look.bodies.empty());
    double left = 0;
    for (const auto& body : look.bodies) left += body.reading.next.centre.x < wide ? 1 : 0;
    return left / static_cast<double>(look.bodies.size());
  };
  EXPECT_EQ(seenAt(std::nullopt), 1) << "the larger one, where nobody says";
  EXPECT_EQ(seenAt(PointedAt{0.5, {0.5 * wide, 0.6 * tall}}), 1);
  EXPECT_EQ(seenAt(PointedAt{0.5, {1.4 * wide, 0.6 * tall}}), 0);
}

}  // namespace
}  // namespace jib::tracing
