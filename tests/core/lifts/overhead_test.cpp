// SPDX-License-Identifier: GPL-3.0-or-later
// The overhead press: faults of known sizes in exactly known motion, and two small presses from the pixels to the cue.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/coaching/analysis.h"
#include "core/exchange/reports/analysis_file.h"
#include "core/lifts/which_lift.h"
#include "core/motion/reps.h"
#include "core/simulate/overhead_script.h"
#include "core/simulate/truth_file.h"
#include "core/tracing/sightings/lift_look.h"
#include "tests/core/kept_analysis.h"
#include "tests/core/scratch_folder.h"

namespace jib::lifts {
namespace {

simulate::ClipSpec pressSpec(const simulate::LiftFaults& faults = {}) {
  simulate::ClipSpec spec;
  spec.lift = "overhead";
  spec.set.variant = "strict";
  spec.set.reps = 2;
  spec.set.walk_out = false;
  spec.set.faults = faults;
  return spec;
}

simulate::TrueSet pressed(const simulate::LiftFaults& faults) {
  return simulate::trueSet(simulate::truthOf(pressSpec(faults)));
}

double valueOf(const simulate::TrueSet& set, std::string_view id, std::size_t rep = 0) {
  const auto* m = find(set.measures.reps.at(rep), id);
  EXPECT_TRUE(m && m->measured()) << id;
  return m && m->measured() ? m->measured()->value : 1e9;
}

TEST(OverheadScript, KeepsTheBodyWholeAndTheHandsOnTheBar) {
  simulate::ClipSpec spec = pressSpec({.bar_drift_m = 0.06, .elbow_ahead_m = -0.05, .leg_drive_m = 0.06});
  spec.set.walk_out = true;
  const simulate::OverheadScript script(spec);
  const auto& build = script.build();
  for (double t = 0; t < script.duration_s(); t += 0.05) {
    const simulate::Body body = script.at(t);
    EXPECT_NEAR(length(body.left.knee - body.left.hip), build.thigh, 0.004) << t;
    EXPECT_NEAR(length(body.mid_shoulder - body.mid_hip), build.trunk, 1e-6) << t;
    EXPECT_NEAR(length(body.right_arm.elbow - body.right_arm.shoulder), build.upper_arm, 1e-6) << t;
    EXPECT_NEAR(length(body.right_arm.wrist - body.right_arm.elbow), build.forearm, 1e-6) << t;
    EXPECT_LT(std::abs(body.right_arm.wrist.z + 0.03 - body.bar.z), 0.02) << t;
    if (t > script.reps()[0].start_s - 1 && t < script.reps()[0].start_s) {
      EXPECT_NEAR(body.right_arm.elbow.x - body.bar.x, -0.05, 0.005) << "as asked for";
    }
    if (t > 0) {
      EXPECT_LT(length(body.bar - script.at(t - 0.05).bar), 0.12) << "nothing jumps, " << t;
    }
  }
  EXPECT_GT(script.at(0).bar.x, script.at(script.reps()[0].start_s - 0.1).bar.x + 0.2) << "stepped back from the rack";
}

TEST(OverheadReps, GoFromTheShouldersOverTheHeadAndBack) {
  const auto set = pressed({});
  ASSERT_EQ(set.reps.size(), 2u);
  const auto script = simulate::OverheadScript(pressSpec());
  for (std::size_t i = 0; i < 2; ++i) {
    EXPECT_NEAR(set.reps[i].ascent_t(), script.reps()[i].ascent_s, 0.1);
    EXPECT_NEAR(set.reps[i].lockout_t(), script.reps()[i].top_s, 0.15);
    EXPECT_FALSE(set.reps[i].when(motion::EventKind::HandsOn)) << "nobody takes this bar from the floor";
    EXPECT_TRUE(set.reps[i].when(motion::EventKind::End));
  }
  EXPECT_NEAR(valueOf(set, "stroke_m"), script.at(script.reps()[0].top_s).bar.z - script.at(0).bar.z, 0.01);
}

TEST(OverheadReps, BeginWhereTheBarLeavesTheShouldersAndNotInTheHooksOrTheDip) {
  simulate::ClipSpec spec = pressSpec({.leg_drive_m = 0.08});
  spec.set.walk_out = true;
  const auto set = simulate::trueSet(simulate::truthOf(spec));
  const auto script = simulate::OverheadScript(spec);
  ASSERT_EQ(set.reps.size(), 2u);
  for (std::size_t i = 0; i < 2; ++i) {
    EXPECT_NEAR(set.reps[i].ascent_t(), script.reps()[i].ascent_s + 0.2, 0.2) << "the drive brings it back there";
    const double down_s = script.reps()[i].top_s + spec.set.hold_s + spec.set.descent_s;
    EXPECT_NEAR(set.reps[i].end_t(), down_s - 0.15, 0.15);
  }
}

TEST(OverheadReps, OneThatStopsHalfWayIsAMiss) {
  simulate::ClipSpec spec = pressSpec();
  spec.set.missed_at = 0.5;
  const auto truth = simulate::trueSet(simulate::truthOf(spec));
  EXPECT_EQ(truth.reps.size(), 1u);
  const auto misses = motion::findMisses(truth.motion, definition(LiftId::Overhead).pattern);
  ASSERT_EQ(misses.size(), 1u);
  EXPECT_NEAR(misses[0].risen, 0.5, 0.05);
}

TEST(OverheadMeasures, ACleanPressHasNothingToSay) {
  const auto set = pressed({});
  EXPECT_LT(valueOf(set, "knee_dip_deg"), 4);
  EXPECT_LT(valueOf(set, "lean_back_gain_deg"), 11);
  EXPECT_LT(valueOf(set, "bar_forward_drift_m"), 0.02);
  EXPECT_LT(std::abs(valueOf(set, "bar_to_midfoot_lockout_m")), 0.03);
  EXPECT_LT(std::abs(valueOf(set, "bar_over_shoulder_start_m")), 0.03);
}

TEST(OverheadMeasures, EachFaultShowsWithItsSize) {
  EXPECT_NEAR(
      valueOf(pressed({.trunk_pitch_deg = 12}), "lean_back_gain_deg") - valueOf(pressed({}), "lean_back_gain_deg"), 12,
      1.5);
  EXPECT_GT(valueOf(pressed({.leg_drive_m = 0.06}), "knee_dip_deg"), 25);
  EXPECT_NEAR(valueOf(pressed({.bar_drift_m = 0.08}), "bar_forward_drift_m"), 0.08, 0.03);
}

const coaching::Analysis& smallPress() {
  static const coaching::Analysis kAnalysis = [] {
    coaching::AnalysisRequest request;
    request.lift = LiftId::Overhead;
    request.variant = "strict";
    return tests::keptAnalysis("overhead", JIB_MADE_CLIPS "/small-overhead.mp4", request);
  }();
  return kAnalysis;
}

// Of a measure of a rep: error over what is said of it.
void holds(std::size_t rep, std::string_view id) {
  static const simulate::TrueSet kTruth = simulate::trueSet(
      simulate::truthOf(*simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-overhead.json"))));
  const auto* said = find(smallPress().measures.reps.at(rep), id);
  const auto* is = find(kTruth.measures.reps.at(rep), id);
  ASSERT_TRUE(said && said->measured()) << id;
  ASSERT_TRUE(is && is->measured()) << id;
  EXPECT_NEAR(said->measured()->value, is->measured()->value, 2.6 * said->measured()->sigma) << id << " " << rep;
}

TEST(OverheadFilm, IsCutAndMeasuredAgainstTheTruth) {
  const coaching::Analysis& a = smallPress();
  ASSERT_EQ(a.reps.size(), 2u);
  ASSERT_TRUE(a.trace.body);
  for (const std::size_t rep : {0u, 1u})
    for (const char* id : {"stroke_m", "ascent_s", "bar_mean_ascent_mps", "bar_peak_ascent_mps", "lowering_s",
                           "bar_forward_drift_m", "bar_x_range_m", "lean_back_gain_deg", "knee_dip_deg",
                           "bar_to_midfoot_lockout_m", "bar_over_shoulder_start_m"})
      holds(rep, id);
}

TEST(OverheadFilm, SaysNothingThatIsNotSo) {
  const auto verdict = [](std::string_view id) {
    for (const auto& f : smallPress().findings)
      if (f.id == id) return f.verdict;
    return coaching::Verdict::TooClose;
  };
  EXPECT_EQ(verdict("overhead.knees_bend"), coaching::Verdict::No);
  EXPECT_EQ(verdict("overhead.starts_off_shoulders"), coaching::Verdict::No);
  EXPECT_NE(verdict("overhead.leans_back"), coaching::Verdict::No) << "23 degrees";
  EXPECT_NE(verdict("overhead.drifts_forward"), coaching::Verdict::No) << "4.2 cm against 4";
}

// Placed as the bar passes the head, where the coach is asked to look.
TEST(OverheadFilm, AFrameThatTheCoachPlacedTellsTheLean) {
  const auto truth =
      simulate::truthOf(*simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-overhead.json")));
  const auto* before = find(smallPress().measures.reps[0], "lean_back_gain_deg")->measured();
  ASSERT_TRUE(before);
  const std::size_t frame = smallPress().motion.frameAt(before->t_s);
  tracing::PlacedFrame placed;
  placed.t_s = smallPress().motion.times_s[frame];
  for (const auto l : {tracing::Landmark::Toe, tracing::Landmark::Heel, tracing::Landmark::Ankle,
                       tracing::Landmark::Knee, tracing::Landmark::Hip, tracing::Landmark::Shoulder})
    placed.points[tracing::at(l)] = truth.frames[frame].pixels[tracing::at(l)]->place;
  coaching::AnalysisRequest request;
  request.lift = LiftId::Overhead;
  request.variant = "strict";
  request.trace.placed = {placed};
  auto reader = tests::must(footage::FrameReader::open(JIB_MADE_CLIPS "/small-overhead.mp4"));
  Task task;
  const auto a = tests::must(coaching::analyse(reader, request, *coaching::shippedStyle("balanced"),
                                               *coaching::CueBook::shipped(), task, smallPress().trace.known()));
  const auto* after = find(a.measures.reps[0], "lean_back_gain_deg")->measured();
  ASSERT_TRUE(after);
  EXPECT_LT(std::abs(after->value - 23), std::abs(before->value - 23));
  EXPECT_NEAR(after->value, 23, 5);
}

TEST(OverheadFilm, LooksLikeOne) {
  auto reader = tests::must(footage::FrameReader::open(JIB_MADE_CLIPS "/small-overhead.mp4"));
  Task task;
  const auto look = tracing::firstLook(reader, task);
  ASSERT_TRUE(look);
  EXPECT_EQ(looksLike(tracing::liftSeen(*look, smallPress().trace.bar.get())), "overhead");
}

TEST(OverheadFilm, TheFileIsReadBack) {
  const auto json = nlohmann::json::parse(exchange::analysisToJson(smallPress()));
  EXPECT_EQ(json.at("clip").at("lift"), "overhead");
  EXPECT_TRUE(json.at("reps").at(0).at("press_t").is_number());
  tests::ScratchFolder folder;
  const auto again = exchange::readAnalysis(folder.write("a.json", json.dump()), *coaching::shippedStyle("balanced"),
                                            *coaching::CueBook::shipped());
  ASSERT_TRUE(again) << again.error().sentence();
  EXPECT_EQ(again->reps.size(), 2u);
}

}  // namespace
}  // namespace jib::lifts
