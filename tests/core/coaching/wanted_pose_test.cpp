// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/wanted_pose.h"

#include <gtest/gtest.h>

#include <cmath>

#include "tests/core/analysed_clip.h"
#include "tests/core/kept_analysis.h"

namespace jib::coaching {
namespace {

using tracing::Landmark;

struct Posed {
  const Analysis& a = tests::smallAnalysis();
  const std::size_t frame = a.motion.frameAt(a.reps[0].bottom_t());
  const Shape pose = *poseOn(a, frame);

  Posed() = default;
  // On the frame half-way up the first rep.
  explicit Posed(const Analysis& of)
      : a(of), frame(a.motion.frameAt((a.reps[0].ascent_t() + a.reps[0].lockout_t()) / 2)), pose(*poseOn(a, frame)) {}

  MetrePoint at(const Shape& shape, PoseEnd end, Landmark l) const {
    const auto& camera = a.trace.camera;
    const MetrePoint ankle = camera.toPlane(shape.anchors[kPoseAnkle].place, camera.lateralOf(Landmark::Ankle, 0));
    const double ahead =
        l == Landmark::Knee ? camera.toPlane(shape.anchors[end].place, camera.lateralOf(l, 0)).x - ankle.x : 0;
    return camera.toPlane(shape.anchors[end].place, camera.lateralOf(l, ahead));
  }
  double shin(const Shape& s) const {
    return length(at(s, kPoseKnee, Landmark::Knee) - at(s, kPoseAnkle, Landmark::Ankle));
  }
  double thigh(const Shape& s) const {
    return length(at(s, kPoseHip, Landmark::Hip) - at(s, kPoseKnee, Landmark::Knee));
  }
  double trunk(const Shape& s) const {
    return length(at(s, kPoseShoulder, Landmark::Shoulder) - at(s, kPoseHip, Landmark::Hip));
  }
  double trunkLean(const Shape& s) const {
    const MetrePoint way = at(s, kPoseShoulder, Landmark::Shoulder) - at(s, kPoseHip, Landmark::Hip);
    return std::atan2(way.x, way.z);
  }
  // Of the bar over the middle of the shoe.
  double offFoot(const Shape& s) const {
    const auto& camera = a.trace.camera;
    const auto flat = [&](Landmark l) {
      return camera.toPlane(*a.trace.trace.place(frame, l), camera.lateralOf(l, 0)).x;
    };
    return camera.toPlane(s.anchors[kPoseBar].place, camera.plate_m).x -
           (flat(Landmark::Toe) + flat(Landmark::Heel)) / 2;
  }
  // Towards where the athlete faces, in pixels.
  PixelPoint forward(double px) const { return {*a.trace.forward * px, 0}; }
};

TEST(WantedPose, BeginsAsTheAthleteIs) {
  const Posed p;
  ASSERT_EQ(p.pose.anchors.size(), 5u);
  EXPECT_EQ(p.pose.sense, Sense::AsWanted);
  EXPECT_EQ(p.pose.anchors[kPoseHip].place.x, p.a.trace.trace.place(p.frame, Landmark::Hip)->x);
  EXPECT_FALSE(poseOn(p.a, 100000));
}

TEST(WantedPose, HoweverItIsPulledLengthsStayAndTheBarIsOverMidFoot) {
  const Posed p;
  for (PoseEnd end : {kPoseKnee, kPoseHip, kPoseShoulder})
    for (double px : {-18.0, 18.0}) {
      const Shape now = pulled(p.pose, end, p.pose.anchors[end].place + p.forward(px) + PixelPoint{0, -8}, p.a);
      EXPECT_NEAR(p.shin(now), p.shin(p.pose), 0.012) << end << " " << px;
      EXPECT_NEAR(p.thigh(now), p.thigh(p.pose), 0.012) << end << " " << px;
      EXPECT_NEAR(p.trunk(now), p.trunk(p.pose), 0.005) << end << " " << px;
      EXPECT_NEAR(p.offFoot(now), 0, 0.01) << end << " " << px;
      EXPECT_EQ(now.anchors[kPoseAnkle].place.x, p.pose.anchors[kPoseAnkle].place.x) << "the foot stands";
    }
}

TEST(WantedPose, HipsFurtherBackLeanTheTrunkAndAnUprightTrunkBringsThemForward) {
  const Posed p;
  const Shape back = pulled(p.pose, kPoseHip, p.pose.anchors[kPoseHip].place + p.forward(-15), p.a);
  const Shape ahead = pulled(p.pose, kPoseHip, p.pose.anchors[kPoseHip].place + p.forward(10), p.a);
  EXPECT_GT(p.trunkLean(back), p.trunkLean(ahead) + 0.05);
  const Shape upright = pulled(p.pose, kPoseShoulder, p.pose.anchors[kPoseShoulder].place + p.forward(-15), p.a);
  EXPECT_GT(p.at(upright, kPoseHip, Landmark::Hip).x, p.at(back, kPoseHip, Landmark::Hip).x);
}

TEST(WantedPose, BeyondWhatABodyCanDoItStops) {
  const Posed p;
  const Shape far = pulled(p.pose, kPoseHip, p.pose.anchors[kPoseHip].place + PixelPoint{0, -5000}, p.a);
  for (const Anchor& anchor : far.anchors) EXPECT_TRUE(std::isfinite(anchor.place.x) && std::isfinite(anchor.place.y));
  EXPECT_NEAR(p.shin(far), p.shin(p.pose), 0.012);
  EXPECT_EQ(pulled(p.pose, kPoseAnkle, {0, 0}, p.a), p.pose) << "the ankle is not pulled";
}

const Analysis& pulling() {
  static const Analysis kPull = [] {
    AnalysisRequest request;
    request.lift = lifts::LiftId::Deadlift;
    const std::filesystem::path clip(JIB_MADE_CLIPS "/small-deadlift.mp4");
    return tests::keptAnalysis("deadlift", clip, request);
  }();
  return kPull;
}

TEST(WantedPose, OfWhoPullsTheBarHangsFromStraightArmsAndStaysWhereItIs) {
  const Posed p(pulling());
  const auto bar = [&](const Shape& s) {
    return p.a.trace.camera.toPlane(s.anchors[kPoseBar].place, p.a.trace.camera.plate_m);
  };
  const auto arm = [&](const Shape& s) { return length(p.at(s, kPoseShoulder, Landmark::Shoulder) - bar(s)); };
  for (PoseEnd end : {kPoseKnee, kPoseHip, kPoseShoulder})
    for (double px : {-9.0, 9.0}) {
      const Shape now = pulled(p.pose, end, p.pose.anchors[end].place + p.forward(px) + PixelPoint{0, -4}, p.a);
      EXPECT_NE(now, p.pose) << end << " " << px;
      EXPECT_NEAR(p.shin(now), p.shin(p.pose), 0.012) << end << " " << px;
      EXPECT_NEAR(p.thigh(now), p.thigh(p.pose), 0.012) << end << " " << px;
      EXPECT_NEAR(p.trunk(now), p.trunk(p.pose), 0.012) << end << " " << px;
      EXPECT_NEAR(arm(now), arm(p.pose), 0.012) << end << " " << px;
      EXPECT_NEAR(length(bar(now) - bar(p.pose)), 0, 1e-6) << "it lies where it lies";
    }
  // Hips that drop bring the chest up.
  const Shape low = pulled(p.pose, kPoseHip, p.pose.anchors[kPoseHip].place + PixelPoint{0, 8}, p.a);
  EXPECT_LT(p.trunkLean(low), p.trunkLean(p.pose) - 0.02);
  // The bar is pulled along the floor, back to the foot; arms and trunk follow.
  const Shape nearer =
      pulled(p.pose, kPoseBar, p.pose.anchors[kPoseBar].place + p.forward(-6) + PixelPoint{0, 40}, p.a);
  EXPECT_LT(bar(nearer).x, bar(p.pose).x - 0.01);
  EXPECT_NEAR(bar(nearer).z, bar(p.pose).z, 1e-6);
  EXPECT_NEAR(arm(nearer), arm(p.pose), 0.012);
  const Shape far = pulled(p.pose, kPoseHip, {9000, -9000}, p.a);
  for (const Anchor& anchor : far.anchors) EXPECT_TRUE(std::isfinite(anchor.place.x) && std::isfinite(anchor.place.y));
}

const Analysis& pressing() {
  static const Analysis kPress = [] {
    AnalysisRequest request;
    request.lift = lifts::LiftId::Bench;
    return tests::keptAnalysis("bench", JIB_MADE_CLIPS "/small-bench.mp4", request);
  }();
  return kPress;
}

TEST(WantedPose, OnABenchTheElbowTurnsAboutTheArmAndTheBarTakesTheArmAlong) {
  const Analysis& a = pressing();
  const std::size_t frame = a.motion.frameAt(a.reps[0].bottom_t());
  const Shape pose = *poseOn(a, frame);
  const auto& camera = a.trace.camera;
  const double forward = *a.trace.forward, px = camera.pixelsPerMetre(camera.plate_m);
  const auto of = [&](const Shape& s, PressPoseEnd end, double out_m) {
    return camera.toPlane(s.anchors[end].place, out_m);
  };
  // Towards the feet and back: the elbow follows, bar and shoulder stay.
  for (const double way_m : {-0.06, 0.06}) {
    const PixelPoint to = pose.anchors[kPressElbow].place + PixelPoint{forward * way_m * px, 0};
    const Shape now = pulled(pose, kPressElbow, to, a);
    EXPECT_EQ(now.anchors[kPressBar], pose.anchors[kPressBar]);
    EXPECT_EQ(now.anchors[kPressShoulder], pose.anchors[kPressShoulder]);
    const double went_m = (now.anchors[kPressElbow].place.x - pose.anchors[kPressElbow].place.x) * forward / px;
    EXPECT_GT(went_m * (way_m > 0 ? 1 : -1), 0.015) << way_m;
  }
  // A touch lower on the body: the bar is where it was let go, and hand and elbow have gone along.
  const PixelPoint lower = pose.anchors[kPressBar].place + PixelPoint{forward * 0.05 * px, 0};
  const Shape touch = pulled(pose, kPressBar, lower, a);
  EXPECT_NEAR(length(touch.anchors[kPressBar].place - lower), 0, 0.5);
  EXPECT_GT((touch.anchors[kPressElbow].place.x - pose.anchors[kPressElbow].place.x) * forward, 0);
  EXPECT_NEAR((touch.anchors[kPressWrist].place.x - pose.anchors[kPressWrist].place.x) * forward / px, 0.05, 0.02);
  // Out of reach it stays on the arm: as far from the shoulder as the arm is long, seen from the side.
  const Shape far = pulled(pose, kPressBar, pose.anchors[kPressBar].place + PixelPoint{0, -9000}, a);
  const double reach_m = length(of(far, kPressBar, camera.plate_m) - of(far, kPressShoulder, 2.2 * camera.hip_m));
  EXPECT_GT(reach_m, 0.4);
  EXPECT_LT(reach_m, 0.75);
  for (const Anchor& anchor : far.anchors) EXPECT_TRUE(std::isfinite(anchor.place.x) && std::isfinite(anchor.place.y));
  EXPECT_EQ(pulled(pose, kPressShoulder, {0, 0}, a), pose) << "who lies there lies there";
}

}  // namespace
}  // namespace jib::coaching
