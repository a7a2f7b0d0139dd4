// SPDX-License-Identifier: GPL-3.0-or-later
// The simulated lifter: lengths, depth and faults as ordered; the camera's geometry; the spec's strictness.
#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/core.hpp>

#include "core/base/angle.h"
#include "core/simulate/bench_script.h"
#include "core/simulate/deadlift_script.h"
#include "core/simulate/renderer.h"
#include "core/simulate/squat_script.h"
#include "core/simulate/truth_file.h"

namespace jib::simulate {
namespace {

using tracing::at;
using tracing::Landmark;

ClipSpec small() {
  ClipSpec spec;
  spec.set.reps = 2;
  spec.set.walk_out = false;
  return spec;
}

double measure(const TrueSet& set, std::size_t rep, std::string_view id) {
  const auto* m = lifts::find(set.measures.reps.at(rep), id);
  EXPECT_TRUE(m && m->measured()) << id;
  return m && m->measured() ? m->measured()->value : 1e9;
}

TEST(Lifter, KeepsItsSegmentLengthsThroughTheWholeSet) {
  ClipSpec spec = small();
  spec.set.walk_out = true;
  spec.set.faults = {0.05, 4, 0.03, 0.02};
  const SquatScript script(spec);
  const Build& b = script.build();
  for (double t = 0; t < script.duration_s(); t += 0.05) {
    const Body body = script.at(t);
    for (const Leg* leg : {&body.left, &body.right}) {
      EXPECT_NEAR(length(leg->knee - leg->ankle), b.shin, 1e-6) << t;
      EXPECT_NEAR(length(leg->hip - leg->knee), b.thigh, 0.012) << t;
    }
    EXPECT_NEAR(length(body.mid_shoulder - body.mid_hip), b.trunk, 1e-9) << t;
    EXPECT_NEAR(length(body.left_arm.elbow - body.left_arm.shoulder), b.upper_arm, 1e-6) << t;
  }
}

TEST(Lifter, GoesAsDeepAsAsked) {
  for (double depth : {-0.06, -0.01, 0.04}) {
    ClipSpec spec = small();
    spec.set.depth_m = depth;
    EXPECT_NEAR(measure(trueSet(truthOf(spec)), 0, "hip_crease_above_knee_m"), depth, 0.002);
  }
}

TEST(Lifter, ShowsEachFaultWithItsSize) {
  ClipSpec clean = small(), faulty = small();
  faulty.set.faults = {0.05, 0, 0.03, 0.02};
  const TrueSet a = trueSet(truthOf(clean)), b = trueSet(truthOf(faulty));
  EXPECT_NEAR(measure(a, 0, "knee_slide_back_m"), 0, 0.003);
  EXPECT_NEAR(measure(b, 0, "knee_slide_back_m"), 0.05, 0.012);
  EXPECT_NEAR(measure(a, 0, "bar_drift_reversal_m"), 0, 1e-6);
  EXPECT_NEAR(measure(b, 0, "bar_drift_reversal_m"), 0.03, 0.001);
  EXPECT_NEAR(measure(b, 0, "heel_lift_m"), 0.02, 0.004);
  EXPECT_GT(measure(b, 0, "hip_shoulder_rise_ratio"), measure(a, 0, "hip_shoulder_rise_ratio") + 0.2);
}

TEST(Lifter, PitchesByWhatWasAskedOnTopOfTheSlide) {
  ClipSpec spec = small();
  spec.set.faults.trunk_pitch_deg = 8;
  EXPECT_NEAR(measure(trueSet(truthOf(spec)), 0, "trunk_lean_gain_deg"), 8, 1.5);
}

TEST(Lifter, FadesOverTheReps) {
  ClipSpec spec = small();
  spec.set.reps = 3;
  spec.set.fade_ascent = 0.15;
  const TrueSet set = trueSet(truthOf(spec));
  ASSERT_EQ(set.reps.size(), 3u);
  EXPECT_GT(measure(set, 2, "ascent_s"), 1.2 * measure(set, 0, "ascent_s"));
}

TEST(Lifter, LooksTheSameFromBothSides) {
  ClipSpec left = small(), right = small();
  right.camera.side = "right";
  const Truth a = truthOf(left), b = truthOf(right);
  const auto& p = *a.frames[60].pixels[at(Landmark::Knee)];
  const auto& q = *b.frames[60].pixels[at(Landmark::Knee)];
  EXPECT_NEAR(p.place.x, left.camera.width - q.place.x, 1e-6);
  EXPECT_NEAR(p.place.y, q.place.y, 1e-6);
}

ClipSpec aPull() {
  ClipSpec spec;
  spec.lift = "deadlift";
  spec.set.variant = "conventional";
  spec.set.reps = 2;
  return spec;
}

TEST(Puller, ComesDownToABarThatLiesStillAndStandsUpFromItAtTheEnd) {
  ClipSpec spec = aPull();
  spec.set.approach_s = 1.5;
  const DeadliftScript script(spec);
  const double floor_m = spec.plate_mm / 2000, stature = spec.lifter.stature_m;
  EXPECT_GT(script.at(0).mid_shoulder.z, 0.75 * stature);
  EXPECT_NEAR(script.at(0).bar.z, floor_m, 1e-9);
  EXPECT_GT(script.at(0).left_arm.wrist.z, floor_m + 0.3) << "the hands are not at the bar yet";
  const double pull_s = script.reps().front().start_s;
  EXPECT_NEAR(script.at(pull_s - 0.01).left_arm.wrist.z, floor_m, 0.04);
  EXPECT_GT(script.at(script.duration_s()).mid_shoulder.z, 0.75 * stature);
  EXPECT_NEAR(script.at(script.duration_s()).bar.z, floor_m, 1e-9);
  // Nothing jumps from one frame to the next.
  for (double t = 0.02; t < script.duration_s(); t += 0.02) {
    EXPECT_LT(length(script.at(t).mid_hip - script.at(t - 0.02).mid_hip), 0.06) << t;
    EXPECT_LT(length(script.at(t).left_arm.wrist - script.at(t - 0.02).left_arm.wrist), 0.06) << t;
  }
  EXPECT_EQ(trueSet(truthOf(spec)).reps.size(), 2u);
}

TEST(Puller, BendsTheShaftBeforeThePlatesLeave) {
  ClipSpec spec = aPull();
  spec.set.slack_s = 0.6;
  spec.set.shaft_bend_m = 0.02;
  const DeadliftScript script(spec);
  const double pull_s = script.reps().front().start_s;
  EXPECT_EQ(script.at(pull_s - 0.7).shaft_bend_m, 0);
  EXPECT_NEAR(script.at(pull_s - 0.05).shaft_bend_m, 0.02, 1e-9);
  EXPECT_NEAR(script.at(pull_s - 0.05).bar.z, spec.plate_mm / 2000, 1e-9);
  EXPECT_NEAR(script.at(pull_s - 0.05).left_arm.wrist.z - script.at(pull_s - 0.7).left_arm.wrist.z, 0.02, 1e-6);
}

TEST(Puller, HitchesAndIsMissedWhereAsked) {
  ClipSpec spec = aPull();
  spec.set.faults.dip_m = 0.03;
  EXPECT_NEAR(measure(trueSet(truthOf(spec)), 0, "dip_m"), 0.03, 0.006);
  spec = aPull();
  spec.set.missed_at = 0.45;
  const DeadliftScript script(spec);
  const auto& reps = script.reps();
  const double whole = script.at(reps[0].top_s).bar.z, missed = script.at(reps[1].top_s).bar.z;
  const double floor_m = spec.plate_mm / 2000;
  EXPECT_NEAR((missed - floor_m) / (whole - floor_m), 0.45, 0.01);
  EXPECT_EQ(trueSet(truthOf(spec)).reps.size(), 1u) << "a miss is none";
}

TEST(Puller, WithoutARestIsTouchAndGoAndWandersForward) {
  ClipSpec spec = aPull();
  spec.set.rest_s = 0;
  spec.set.faults.wander_m = 0.04;
  const auto set = trueSet(truthOf(spec));
  ASSERT_EQ(set.reps.size(), 2u);
  EXPECT_EQ(set.reps[1].type, motion::RepType::TouchAndGo);
  const DeadliftScript script(spec);
  EXPECT_NEAR(script.at(script.duration_s()).bar.x, 0.04, 1e-9);
}

TEST(Puller, InAHexBarHasItsHandsAtTheSides) {
  ClipSpec spec = aPull();
  const double straight = DeadliftScript(spec).at(0).left_arm.wrist.y;
  spec.set.variant = "hex";
  const DeadliftScript script(spec);
  EXPECT_GT(script.at(0).left_arm.wrist.y, straight + 0.04);
  EXPECT_LT(script.at(0).mid_shoulder.x - script.at(0).bar.x, 0.01) << "shoulders stand over the handles";
}

TEST(Presser, WhoMissesIsHelpedToTheHooksByTheSpotter) {
  ClipSpec spec;
  spec.lift = "bench";
  spec.set.reps = 2;
  spec.set.missed_at = 0.5;
  spec.look.spotter = true;
  const BenchScript script(spec);
  const ScriptedRep& miss = script.reps().back();
  EXPECT_LT(script.at(miss.top_s + 0.8).bar.z, script.at(miss.top_s).bar.z) << "stuck, it sinks";
  const MetrePoint hooks = BenchScript::hooks(script.build());
  EXPECT_NEAR(script.at(script.duration_s()).bar.z, hooks.z, 1e-3);
  const auto hands = [&](double t) { return *script.helperAt(t); };
  const Body waiting = hands(miss.bottom_s), helping = hands(miss.top_s + 1.6), bar = script.at(miss.top_s + 1.6);
  EXPECT_GT(length(waiting.left_arm.wrist - script.at(miss.bottom_s).bar), 0.4);
  EXPECT_LT(std::abs(helping.left_arm.wrist.z - bar.bar.z), 0.05);
  EXPECT_LT(std::abs(helping.left_arm.wrist.x - bar.bar.x), 0.05);
  spec.look.spotter = false;
  EXPECT_FALSE(BenchScript(spec).helperAt(1));
}

TEST(Pinhole, ProjectsByTheTextbook) {
  CameraSpec spec;
  spec.distance_m = 4;
  spec.height_m = 1;
  spec.hfov_deg = 90;  // focal length is half the width
  const Pinhole c = Pinhole::from(spec);
  EXPECT_NEAR(c.focal_px, 640, 1e-9);
  const PixelPoint middle = c.project({0, 0, 1});
  EXPECT_NEAR(middle.x, 640, 1e-9);
  EXPECT_NEAR(middle.y, 360, 1e-9);
  EXPECT_NEAR(c.project({0, 0, 2}).y, 360 - 640 / 4.0, 1e-9);
  EXPECT_LT(c.project({1, 0, 1}).x, 640) << "the athlete's left side is seen: forward is to the left";
}

TEST(Pinhole, SendsRaysThroughItsPixels) {
  CameraSpec spec;
  spec.yaw_deg = 7;
  spec.pitch_deg = 5;
  spec.roll_deg = 2;
  const Pinhole c = Pinhole::from(spec);
  for (PixelPoint p : {PixelPoint{10, 20}, PixelPoint{900, 650}}) {
    const PixelPoint back = c.project(c.place + c.ray(p) * 3.0);
    EXPECT_NEAR(back.x, p.x, 1e-6);
    EXPECT_NEAR(back.y, p.y, 1e-6);
  }
}

TEST(Renderer, ShowsThePlateWhereTheTruthSays) {
  ClipSpec spec = small();
  spec.camera.width = 320;
  spec.camera.height = 180;
  spec.camera.noise = 0;
  spec.samples = 1;
  const SquatScript script(spec);
  const cv::Mat picture = Renderer(spec, script).render(1.0, 0);
  const TrueFrame frame = truthOf(spec).frames[30];
  const PixelPoint plate = frame.pixels[at(Landmark::Plate)]->place;
  // A dark plate before a lighter wall, half a radius off the hub.
  const double r = Pinhole::from(spec.camera).focal_px * 0.225 / (4 - 0.72);
  const auto level = [&](double dx, double dy) {
    return cv::mean(picture(cv::Rect(static_cast<int>(plate.x + dx) - 1, static_cast<int>(plate.y + dy) - 1, 2, 2)))[0];
  };
  EXPECT_LT(level(0, -0.85 * r), level(0, -1.3 * r) - 30);
}

TEST(Spec, SurvivesARoundTrip) {
  ClipSpec spec = small();
  spec.lifter.stature_m = 1.61;
  spec.set.faults.heel_lift_m = 0.012;
  spec.look.shirt = {1, 2, 3};
  const auto back = parseSpec(specToJson(spec));
  ASSERT_TRUE(back) << back.error().what;
  EXPECT_EQ(specToJson(*back), specToJson(spec));
}

TEST(Spec, RefusesWhatItDoesNotKnow) {
  for (const char* text : {R"({"lifter":{"heigth_m":1.7}})", R"({"set":{"reps":"three"}})",
                           R"({"camera":{"side":"front"}})", R"({"camera":{"width":3}})", "[]", "{"}) {
    const auto spec = parseSpec(text);
    ASSERT_FALSE(spec) << text;
    EXPECT_EQ(spec.error().code, ErrorCode::BadData);
  }
  EXPECT_NE(parseSpec(R"({"lifter":{"heigth_m":1.7}})").error().what.find("heigth_m"), std::string::npos);
}

}  // namespace
}  // namespace jib::simulate
