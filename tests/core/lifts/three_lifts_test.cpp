// SPDX-License-Identifier: GPL-3.0-or-later
// A deadlift and a bench press filmed from the side, from the pixels to the cue, against the simulation's exact truth.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/base/median.h"
#include "core/coaching/analysis.h"
#include "core/coaching/sketch.h"
#include "core/coaching/two_films.h"
#include "core/exchange/reports/analysis_file.h"
#include "core/lifts/which_lift.h"
#include "core/simulate/truth_file.h"
#include "core/tracing/sightings/lift_look.h"
#include "core/tracing/trace_store.h"
#include "tests/core/kept_analysis.h"
#include "tests/core/scratch_folder.h"

namespace jib {
namespace {

using coaching::Analysis;
using lifts::LiftId;

struct Filmed {
  simulate::TrueSet truth;
  Analysis a;
  std::string seen;

  // `glance`: with the pose network, which tells the lift and which way the athlete faces; else that is said. With
  // something placed the clip is not looked at again: `known` is of the same clip.
  static Filmed of(LiftId id, bool glance, const std::vector<tracing::PlacedFrame>& placed = {},
                   tracing::KnownTrace known = {}) {
    const std::string name(lifts::definition(id).name);
    Filmed f{simulate::trueSet(simulate::truthOf(
                 *simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-" + name + ".json")))),
             {},
             {}};
    const std::string clip = std::string(JIB_MADE_CLIPS) + "/small-" + name + ".mp4";
    auto reader = footage::FrameReader::open(clip);
    EXPECT_TRUE(reader);
    coaching::AnalysisRequest request;
    request.lift = id;
    request.trace.parts.network = glance;
    request.trace.placed = placed;
    if (!glance) request.trace.view = id == LiftId::Deadlift ? tracing::View::Right : tracing::View::Left;
    Task task;
    f.a = glance && placed.empty()
              ? tests::keptAnalysis(name, clip, request)
              : tests::must(coaching::analyse(*reader, request, *coaching::shippedStyle("balanced"),
                                              *coaching::CueBook::shipped(), task, std::move(known)));
    if (!glance || !placed.empty()) return f;
    const auto look = tracing::firstLook(*reader, task);
    f.seen = look ? lifts::looksLike(tracing::liftSeen(*look, f.a.trace.bar.get())) : "";
    return f;
  }

  // Of a measure of a rep: error over what is said of it.
  void holds(std::size_t rep, std::string_view id, double most_sigmas = 2.6) const {
    const auto* measured = lifts::find(a.measures.reps.at(rep), id);
    const auto* wanted = lifts::find(truth.measures.reps.at(rep), id);
    ASSERT_TRUE(measured && measured->measured()) << id;
    ASSERT_TRUE(wanted && wanted->measured()) << id;
    EXPECT_NEAR(measured->measured()->value, wanted->measured()->value, most_sigmas * measured->measured()->sigma)
        << id << " of rep " << rep + 1;
  }
};

const Filmed& deadlift() {
  static const Filmed kFilmed = Filmed::of(LiftId::Deadlift, false);
  return kFilmed;
}
const Filmed& bench() {
  static const Filmed kFilmed = Filmed::of(LiftId::Bench, false);
  return kFilmed;
}

bool says(const Analysis& a, std::string_view finding, coaching::Verdict verdict) {
  return std::any_of(a.findings.begin(), a.findings.end(),
                     [&](const coaching::Finding& f) { return f.id == finding && f.verdict == verdict; });
}

TEST(Deadlift, IsCountedAndTimedFromTheFloor) {
  const auto& f = deadlift();
  ASSERT_EQ(f.a.reps.size(), 2u);
  for (std::size_t i = 0; i < 2; ++i) {
    EXPECT_NEAR(f.a.reps[i].bottom_t(), f.truth.reps[i].bottom_t(), 1.5 / 30);
    EXPECT_NEAR(f.a.reps[i].end_t(), f.truth.reps[i].end_t(), 1.5 / 30);
    // Told by the bar alone; the truth waits for the joints.
    EXPECT_NEAR(f.a.reps[i].lockout_t(), f.truth.reps[i].lockout_t(), 4.0 / 30);
  }
}

// With the pose network, nothing placed.
const Filmed& pulledAndSeen() {
  static const Filmed kFilmed = Filmed::of(LiftId::Deadlift, true);
  return kFilmed;
}

simulate::Truth truthOfThePull() {
  return simulate::truthOf(*simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-deadlift.json")));
}

// Half of the frames are nearer than this to where the landmark is, m.
double medianMiss(const Analysis& a, const simulate::Truth& truth, tracing::Landmark l) {
  const double px = a.trace.camera.pixelsPerMetre(0.1);
  std::vector<double> off_m;
  for (std::size_t i = 0; i < truth.frames.size(); ++i)
    if (const auto p = a.trace.trace.place(i, l))
      off_m.push_back(length(*p - truth.frames[i].pixels[tracing::at(l)]->place) / px);
  EXPECT_GT(off_m.size(), 60u) << tracing::nameOf(l);
  if (off_m.empty()) return 1;
  std::sort(off_m.begin(), off_m.end());
  return off_m[off_m.size() / 2];
}

TEST(Deadlift, FollowsTheBodyThatTheBarHangsFrom) {
  const auto& f = pulledAndSeen();
  ASSERT_TRUE(f.a.trace.body);
  EXPECT_EQ(f.a.trace.body->source, tracing::BodySource::Network);
  EXPECT_FALSE(f.a.trace.body->knowsPlacedFrame());
  const auto truth = truthOfThePull();
  for (const auto l : {tracing::Landmark::Knee, tracing::Landmark::Hip, tracing::Landmark::Shoulder})
    EXPECT_LT(medianMiss(f.a, truth, l), 0.05) << tracing::nameOf(l);
  for (std::size_t i = 0; i < 2; ++i)
    for (const char* id : {"trunk_lean_liftoff_deg", "shin_liftoff_deg", "hip_height_liftoff_pct", "lockout_hip_deg"})
      f.holds(i, id, 3);
}

TEST(Deadlift, AFrameThatTheCoachPlacedTellsLengthsAndFeet) {
  const auto truth = truthOfThePull();
  const motion::Motion& motion = pulledAndSeen().truth.motion;
  const std::size_t set = motion.frameAt(pulledAndSeen().truth.reps[0].bottom_t() - 0.2);
  tracing::PlacedFrame placed;
  placed.t_s = motion.times_s[set];
  for (const auto l : {tracing::Landmark::Toe, tracing::Landmark::Heel, tracing::Landmark::Ankle,
                       tracing::Landmark::Knee, tracing::Landmark::Hip, tracing::Landmark::Shoulder})
    placed.points[tracing::at(l)] = truth.frames[set].pixels[tracing::at(l)]->place;
  const Filmed f = Filmed::of(LiftId::Deadlift, true, {placed}, pulledAndSeen().a.trace.known());
  ASSERT_TRUE(f.a.trace.body);
  EXPECT_TRUE(f.a.trace.body->knowsPlacedFrame()) << "it is not asked for again";
  for (const auto l : {tracing::Landmark::Knee, tracing::Landmark::Hip})
    EXPECT_LT(medianMiss(f.a, truth, l), medianMiss(pulledAndSeen().a, truth, l) + 0.006) << tracing::nameOf(l);
  EXPECT_LT(medianMiss(f.a, truth, tracing::Landmark::Ankle), 0.03);
}

// Hips that come up by 5 cm before the plates leave, exactly known; and on film, by their own picture.
TEST(Deadlift, HipsThatRiseFirstAreSeenAndBeginTheRep) {
  const std::string spec = R"({"lift": "deadlift", "set": {"variant": "conventional", "reps": 2,
                              "faults": {"hip_rise_m": 0.05}}})";
  const auto truth = simulate::trueSet(simulate::truthOf(*simulate::parseSpec(spec)));
  for (const auto& rep : truth.measures.reps) {
    const auto* rise = lifts::find(rep, "hip_rise_before_liftoff_m")->measured();
    ASSERT_TRUE(rise);
    EXPECT_NEAR(rise->value, 0.05, 0.004);
  }
  // Nobody's hips rise in the conventional pull; in the sumo one they do.
  pulledAndSeen().holds(0, "hip_rise_before_liftoff_m", 3);
  EXPECT_FALSE(says(pulledAndSeen().a, "deadlift.hips_rise_first", coaching::Verdict::Yes));
  coaching::AnalysisRequest request;
  request.lift = LiftId::Deadlift;
  request.variant = "sumo";
  const Filmed sumo{simulate::trueSet(simulate::truthOf(
                        *simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-sumo.json")))),
                    tests::keptAnalysis("sumo", std::string(JIB_MADE_CLIPS) + "/small-sumo.mp4", request),
                    {}};
  ASSERT_EQ(sumo.a.reps.size(), 1u);
  sumo.holds(0, "hip_rise_before_liftoff_m", 3);
  const motion::Rep& rep = sumo.a.reps[0];
  ASSERT_TRUE(rep.when(motion::EventKind::Start));
  EXPECT_LT(*rep.when(motion::EventKind::Start), rep.bottom_t());
  EXPECT_TRUE(rep.when(motion::EventKind::HandsOn)) << "the lifter comes down to the bar";
  EXPECT_TRUE(says(sumo.a, "deadlift.hips_rise_first", coaching::Verdict::Yes));
  const auto book = *coaching::CueBook::shipped();
  const auto by_eye = book.byEye(LiftId::Deadlift);
  EXPECT_TRUE(std::any_of(by_eye.begin(), by_eye.end(),
                          [](const auto* e) { return e->finding == "deadlift.hips_rise_first"; }));
}

TEST(Deadlift, KnowsWhichWayTheAthleteFacesWithoutBeingTold) {
  const Filmed& seen = pulledAndSeen();
  EXPECT_EQ(seen.a.trace.forward, 1.0) << "the right side faces the camera";
  EXPECT_EQ(seen.seen, "deadlift") << "bent to the bar is not lying under it";
}

// With the pose network, nothing placed.
const Filmed& pressedAndSeen() {
  static const Filmed kFilmed = Filmed::of(LiftId::Bench, true);
  return kFilmed;
}

TEST(Bench, KnowsWhichWayTheAthleteLiesWithoutBeingTold) {
  EXPECT_EQ(pressedAndSeen().a.trace.forward, -1.0) << "the left side faces the camera";
  EXPECT_EQ(pressedAndSeen().seen, "bench");
}

TEST(Bench, TracesTheBodyThatLies) {
  const auto& f = pressedAndSeen();
  ASSERT_TRUE(f.a.trace.body);
  EXPECT_TRUE(f.a.trace.body->feet_seen);
  const auto truth =
      simulate::truthOf(*simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-bench.json")));
  using tracing::Landmark;
  for (const auto l : {Landmark::Toe, Landmark::Heel, Landmark::Ankle, Landmark::Knee, Landmark::Hip})
    EXPECT_LT(medianMiss(f.a, truth, l), 0.03) << tracing::nameOf(l);
  for (const auto l : {Landmark::Shoulder, Landmark::Elbow, Landmark::Wrist})
    EXPECT_LT(medianMiss(f.a, truth, l), 0.05) << tracing::nameOf(l);
}

TEST(Bench, SeesTheHipsLeaveThePadAndTheElbowBelowThePlate) {
  const auto& f = pressedAndSeen();
  ASSERT_EQ(f.a.reps.size(), 2u);
  for (std::size_t i = 0; i < 2; ++i)
    for (const char* id : {"hip_lift_m", "elbow_ahead_of_bar_touch_m", "bar_sink_m", "knee_below_hip_m"})
      f.holds(i, id, 3);
  EXPECT_TRUE(says(f.a, "bench.hips_leave_pad", coaching::Verdict::Yes));
  EXPECT_FALSE(says(f.a, "bench.heels_lift", coaching::Verdict::Yes));
  ASSERT_FALSE(f.a.proposal.cues.empty());
  EXPECT_EQ(f.a.proposal.cues[0].finding, "bench.hips_leave_pad");
}

TEST(AnalysisFile, ReadsABenchPressBackAsItWas) {
  tests::ScratchFolder folder;
  const auto file = folder.write("a.json", exchange::analysisToJson(pressedAndSeen().a));
  const auto again = exchange::readAnalysis(file, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  ASSERT_TRUE(again) << again.error().sentence();
  for (std::size_t i = 0; i < 2; ++i)
    for (const char* id : {"hip_lift_m", "elbow_ahead_of_bar_touch_m"}) {
      const auto* was = lifts::find(pressedAndSeen().a.measures.reps[i], id)->measured();
      const auto* is = lifts::find(again->measures.reps[i], id)->measured();
      ASSERT_TRUE(was && is) << id;
      EXPECT_NEAR(is->value, was->value, 1e-6) << "what was watched is kept with the trace: " << id;
    }
}

TEST(Deadlift, MeasuresTheBar) {
  for (std::size_t i = 0; i < 2; ++i)
    for (const char* id : {"bar_loop_m", "bar_forward_drift_m", "stroke_m", "lowering_s", "bar_peak_ascent_mps",
                           "bar_peak_descent_mps", "dip_m"})
      deadlift().holds(i, id);
}

TEST(Deadlift, SaysThatTheBarLoops) {
  const Analysis& a = deadlift().a;
  EXPECT_TRUE(says(a, "deadlift.bar_loops", coaching::Verdict::Yes));
  EXPECT_TRUE(says(a, "deadlift.stalls", coaching::Verdict::No));
  ASSERT_FALSE(a.proposal.cues.empty());
  EXPECT_EQ(a.proposal.cues[0].finding, "deadlift.bar_loops");
  for (const auto& finding : a.findings) EXPECT_TRUE(finding.id.starts_with("deadlift.")) << finding.id;
}

TEST(Bench, IsCountedAndTimedWithItsPause) {
  const auto& f = bench();
  ASSERT_EQ(f.a.reps.size(), 2u);
  for (std::size_t i = 0; i < 2; ++i) {
    EXPECT_NEAR(f.a.reps[i].start_t(), f.truth.reps[i].start_t(), 1.5 / 30);
    EXPECT_NEAR(f.a.reps[i].bottom_t(), f.truth.reps[i].bottom_t(), 1.5 / 30);
    EXPECT_NEAR(f.a.reps[i].ascent_t(), f.truth.reps[i].ascent_t(), 1.5 / 30);
    EXPECT_EQ(f.a.reps[i].type, motion::RepType::Paused);
  }
}

TEST(Bench, MeasuresTheBarAndFindsThePauseLongEnough) {
  for (std::size_t i = 0; i < 2; ++i)
    for (const char* id :
         {"touch_to_lockout_shift_m", "stroke_m", "touch_pause_s", "descent_s", "bar_peak_descent_mps"})
      bench().holds(i, id);
  EXPECT_TRUE(says(bench().a, "bench.no_pause", coaching::Verdict::No));
  EXPECT_LT(lifts::find(bench().a.measures.reps[0], "touch_to_lockout_shift_m")->measured()->value, -0.05)
      << "from the chest the bar goes towards the head";
}

// A squat from the front, from its pixels: the view is told by the film.
const Analysis& fromTheFront() {
  static const Analysis kAnalysis = tests::keptAnalysis("front", std::string(JIB_MADE_CLIPS) + "/small-front.mp4", {});
  return kAnalysis;
}

TEST(FromTheFront, BothSidesAndBothEndsOfTheBarAreTraced) {
  const Analysis& a = fromTheFront();
  ASSERT_TRUE(a.trace.front);
  EXPECT_EQ(a.trace.front->facing, tracing::Facing::Front);
  ASSERT_EQ(a.reps.size(), 2u);
  const auto truth =
      simulate::truthOf(*simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-front.json")));
  using tracing::Landmark;
  // The truth is of the athlete's left, which is on the picture's right; the right side is its mirror image.
  for (const auto& [l, most_m] : {std::pair{Landmark::Knee, 0.02}, {Landmark::Ankle, 0.02}, {Landmark::Bar, 0.03}}) {
    std::vector<double> off;
    for (std::size_t i = 0; i < truth.frames.size(); ++i)
      for (const auto side : {tracing::BodySide::Left, tracing::BodySide::Right})
        if (const auto& p = a.trace.front->frames[i].at(side, l)) {
          const PixelPoint true_place = truth.frames[i].pixels[tracing::at(l)]->place;
          const double wanted =
              side == tracing::BodySide::Left ? true_place.x : static_cast<double>(a.clip.width) - true_place.x;
          // A rack's upright may hide where a sleeve ends, not how high it is.
          const double off_px = l == Landmark::Bar ? p->place.y - true_place.y : p->place.x - wanted;
          off.push_back(std::abs(off_px) / a.trace.front->metre_px);
        }
    ASSERT_GT(off.size(), truth.frames.size()) << tracing::nameOf(l);
    std::sort(off.begin(), off.end());
    EXPECT_LT(off[off.size() / 2], most_m) << tracing::nameOf(l);
  }
}

TEST(FromTheFront, KneesThatComeInAreSaidAndALevelBarIsNot) {
  const Analysis& a = fromTheFront();
  for (const auto& rep : a.measures.reps)
    for (const char* id : {"knee_cave_left_m", "knee_cave_right_m"})
      EXPECT_NEAR(lifts::find(rep, id)->measured()->value, 0.075, 0.025) << id;
  EXPECT_TRUE(says(a, "squat.knees_cave", coaching::Verdict::Yes));
  EXPECT_FALSE(says(a, "squat.bar_tilts", coaching::Verdict::Yes));
  EXPECT_EQ(lifts::find(a.measures.reps[0], "hip_crease_above_knee_m"), nullptr) << "depth is not seen from here";
  ASSERT_FALSE(a.proposal.cues.empty());
  EXPECT_EQ(a.proposal.cues[0].finding, "squat.knees_cave");
}

TEST(FromTheFront, ToesAreTurnedOutAsTheLifterStands) {
  const Analysis& a = fromTheFront();
  const double wanted =
      simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-front.json"))->lifter.toe_out_deg;
  for (const auto& rep : a.measures.reps)
    for (const char* id : {"toe_out_left_deg", "toe_out_right_deg"}) {
      const auto* out = lifts::find(rep, id)->measured();
      ASSERT_TRUE(out) << id;
      EXPECT_NEAR(out->value, wanted, 8) << id;
      EXPECT_NEAR(out->value, wanted, 2.6 * out->sigma) << id;
      EXPECT_LT(out->sigma, 6) << "it has to tell toes ahead from toes out";
    }
}

TEST(FromTheFront, AKneeThatIsPlacedByHandChangesWhatIsSaidAndTakenBackLeavesNothing) {
  Analysis a = fromTheFront();
  const auto cave = [&] { return lifts::find(a.measures.reps[0], "knee_cave_left_m")->measured()->value; };
  const double was = cave();
  const std::size_t caves = a.motion.frameAt(lifts::find(a.measures.reps[0], "knee_cave_left_m")->measured()->t_s);
  const tracing::PointName knee{tracing::Landmark::Knee, tracing::BodySide::Left};
  const auto again = [&] {
    tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
    coaching::judgeAgain(a, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  };
  tracing::PlacedFrame frame{a.motion.times_s[caves], {}, {}};
  frame.at(knee) = *a.trace.place(caves, knee) - PixelPoint{0.04 * a.trace.front->metre_px, 0};
  a.request.trace.placed = {frame};
  again();
  EXPECT_GT(cave(), was + 0.015);
  EXPECT_TRUE(a.trace.front->frames[caves].at(*knee.side, knee.landmark)->origin == tracing::Origin::Pinned);
  const auto kept = nlohmann::json::parse(tracing::traceToJson(a.trace).dump());
  EXPECT_NE(tracing::traceFromJson(kept)->front_seen->frames[caves].at(*knee.side, knee.landmark)->origin,
            tracing::Origin::Pinned)
      << "what was traced is kept without the pins";
  a.request.trace.placed.clear();
  again();
  EXPECT_DOUBLE_EQ(cave(), was);
}

TEST(FromTheFront, ALineThatIsDrawnOnTheKneeRidesOnIt) {
  const Analysis& a = fromTheFront();
  const tracing::PointName knee{tracing::Landmark::Knee, tracing::BodySide::Right};
  const auto stands = *a.trace.place(5, knee);
  const auto end = coaching::snapped(stands + PixelPoint{2, 1}, {}, a, 5, 8);
  ASSERT_TRUE(end.rides == knee);
  coaching::Sketch sketch;
  const double t = a.motion.times_s[5];
  sketch.shapes.push_back({coaching::ShapeKind::Text, coaching::Sense::AsItIs, {end}, "here", t, 0, 99});
  sketch = coaching::sketchFromJson(coaching::sketchToJson(sketch));
  const std::size_t bottom = a.motion.frameAt(a.reps[0].bottom_t());
  const auto on = coaching::shapesOn(sketch, a, bottom);
  ASSERT_EQ(on.size(), 1u);
  EXPECT_NEAR(length(on[0].anchors[0] - *a.trace.place(bottom, knee)), 0, 1e-6);
}

TEST(FromTheFront, SaysWhatLimitsItAndWhatAnyViewMaySay) {
  Analysis a = fromTheFront();
  a.clip.variable_rate = true;
  a.request.overruled["depth"] = "2026-11-20";
  coaching::judgeAgain(a, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  const auto has = [&](std::string_view id) {
    return std::any_of(a.notices.begin(), a.notices.end(), [&](const coaching::Notice& n) { return n.id == id; });
  };
  for (const char* id : {"across", "scale_from_body", "variable_rate", "overruled"}) EXPECT_TRUE(has(id)) << id;
  for (const char* id : {"body_not_placed", "facing_unknown", "camera_height"})
    EXPECT_FALSE(has(id)) << id << " is of a side view";
}

TEST(FromTheFront, TheFileNamesEachSideAndIsReadBack) {
  const Analysis& a = fromTheFront();
  const auto json = nlohmann::json::parse(exchange::analysisToJson(a));
  EXPECT_EQ(json.at("clip").at("view"), "front");
  const auto& points = json.at("frames").at(30).at("points");
  for (const char* name : {"bar_left", "bar_right", "left_knee", "right_knee"})
    EXPECT_TRUE(points.contains(name)) << name;
  EXPECT_FALSE(points.contains("bar"));
  tests::ScratchFolder folder;
  const auto file = folder.write("a.json", json.dump());
  const auto again = exchange::readAnalysis(file, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  ASSERT_TRUE(again) << again.error().sentence();
  ASSERT_TRUE(again->trace.front);
  EXPECT_NEAR(lifts::find(again->measures.reps[0], "knee_cave_left_m")->measured()->value,
              lifts::find(a.measures.reps[0], "knee_cave_left_m")->measured()->value, 1e-3);
}

const Analysis& fromTheHead() {
  static const Analysis kAnalysis = [] {
    coaching::AnalysisRequest request;
    request.lift = LiftId::Bench;
    request.variant = "paused";
    return tests::keptAnalysis("head", std::string(JIB_MADE_CLIPS) + "/small-head.mp4", request);
  }();
  return kAnalysis;
}

TEST(FromTheHeadsEnd, TheViewIsToldAndTheBarFollowed) {
  const Analysis& a = fromTheHead();
  ASSERT_TRUE(a.trace.front);
  EXPECT_EQ(a.trace.front->facing, tracing::Facing::Head);
  EXPECT_TRUE(a.trace.front->scale_from_plate);
  ASSERT_EQ(a.reps.size(), 1u);
  const auto truth =
      simulate::truthOf(*simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-head.json")));
  // The truth is of the athlete's left end, which is on the picture's left from behind the head.
  // Of the rep: at the hooks the posts stand before the plates.
  std::vector<double> off_m;
  for (std::size_t i = a.motion.frameAt(a.reps[0].start_t()); i <= a.motion.frameAt(a.reps[0].lockout_t()); ++i)
    if (const auto& p = a.trace.front->frames[i].at(tracing::BodySide::Left, tracing::Landmark::Bar)) {
      const PixelPoint off = p->place - truth.frames[i].pixels[tracing::at(tracing::Landmark::Bar)]->place;
      off_m.push_back(length(off) / a.trace.front->metre_px);
    }
  ASSERT_GT(off_m.size(), truth.frames.size() / 4);
  std::sort(off_m.begin(), off_m.end());
  EXPECT_LT(off_m[off_m.size() * 9 / 10], 0.03);
  EXPECT_NEAR(a.motion.real_s(a.reps[0].bottom_t(), a.reps[0].ascent_t()), 0.5, 0.12) << "the pause";
}

TEST(FromTheHeadsEnd, ACrookedBarIsSaidWithItsSide) {
  const Analysis& a = fromTheHead();
  const auto* tilt = lifts::find(a.measures.reps[0], "bar_tilt_max_deg");
  ASSERT_TRUE(tilt && tilt->measured());
  EXPECT_NEAR(tilt->measured()->value, 5, 1) << "the left end is the higher one";
  EXPECT_TRUE(says(a, "bench.bar_tilts", coaching::Verdict::Yes));
  EXPECT_TRUE(says(a, "bench.no_pause", coaching::Verdict::No));
  EXPECT_EQ(lifts::find(a.measures.reps[0], "hip_lift_m"), nullptr) << "the hips are not seen from here";
  EXPECT_EQ(coaching::filmedFrom(a), "from behind the head");
}

TEST(FromTheHeadsEnd, TheFileSaysSoAndIsReadBack) {
  const auto json = nlohmann::json::parse(exchange::analysisToJson(fromTheHead()));
  EXPECT_EQ(json.at("clip").at("view"), "head");
  tests::ScratchFolder folder;
  const auto again = exchange::readAnalysis(folder.write("a.json", json.dump()), *coaching::shippedStyle("balanced"),
                                            *coaching::CueBook::shipped());
  ASSERT_TRUE(again) << again.error().sentence();
  EXPECT_EQ(again->trace.front->facing, tracing::Facing::Head);
  EXPECT_NEAR(lifts::find(again->measures.reps[0], "bar_tilt_max_deg")->measured()->value,
              lifts::find(fromTheHead().measures.reps[0], "bar_tilt_max_deg")->measured()->value, 0.05);
}

// Nobody says from where it is filmed, and whoever is seen best stands behind the bench.
TEST(FromTheFeetsEnd, ASpotterIsNotTakenForTheLifter) {
  coaching::AnalysisRequest request;
  request.lift = LiftId::Bench;
  request.variant = "paused";
  const Analysis a = tests::keptAnalysis("feet", JIB_MADE_CLIPS "/small-feet.mp4", request);
  ASSERT_TRUE(a.trace.front);
  EXPECT_EQ(a.trace.front->facing, tracing::Facing::Front);
  ASSERT_EQ(a.reps.size(), 1u);
  const auto truth = simulate::truthOf(*simulate::parseSpec(tests::bytesOf(JIB_TEST_DATA "/small-feet.json")));
  EXPECT_NEAR(a.reps[0].bottom_t(), truth.reps[0].bottom_s, 0.1);
  EXPECT_NEAR(a.reps[0].ascent_t(), truth.reps[0].ascent_s, 0.1);
  std::vector<double> off_m;
  for (std::size_t i = 0; i < a.trace.front->frames.size(); ++i)
    if (const auto& shoulder = a.trace.front->frames[i].at(tracing::BodySide::Left, tracing::Landmark::Shoulder))
      off_m.push_back(length(shoulder->place - truth.frames[i].pixels[at(tracing::Landmark::Shoulder)]->place) /
                      a.trace.front->metre_px);
  // How many frames are sure enough to be told differs from one processor to the next: the network's sums are ordered
  // differently.
  ASSERT_GT(off_m.size(), 6u);
  EXPECT_LT(median(off_m), 0.12) << "a spotter's are half a metre higher";
}

TEST(FilmedFrom, IsSaidAsPeopleSayIt) {
  using coaching::filmedFrom;
  EXPECT_EQ(filmedFrom("front", lifts::definition(LiftId::Squat)), "from the front");
  EXPECT_EQ(filmedFrom("rear", lifts::definition(LiftId::Deadlift)), "from the rear");
  EXPECT_EQ(filmedFrom("front", lifts::definition(LiftId::Bench)), "from the feet's end");
  EXPECT_EQ(filmedFrom("head", lifts::definition(LiftId::Bench)), "from behind the head");
  EXPECT_EQ(filmedFrom("left", lifts::definition(LiftId::Bench)), "from the side");
}

TEST(AnalysisFile, NamesEachLiftsOwnEvents) {
  const auto pull = nlohmann::json::parse(exchange::analysisToJson(deadlift().a)).at("reps").at(0);
  EXPECT_EQ(pull.at("liftoff_t"), pull.at("bottom_t"));
  EXPECT_TRUE(pull.at("start_t").is_null()) << "never invented";
  EXPECT_EQ(pull.at("type"), "dead_stop");
  const auto press = nlohmann::json::parse(exchange::analysisToJson(bench().a)).at("reps").at(0);
  EXPECT_EQ(press.at("touch_t"), press.at("bottom_t"));
  EXPECT_EQ(press.at("press_t"), press.at("ascent_t"));
}

TEST(AnalysisFile, ReadsADeadliftBackAsItWas) {
  tests::ScratchFolder folder;
  const auto file = folder.write("a.json", exchange::analysisToJson(deadlift().a));
  const auto again = exchange::readAnalysis(file, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  ASSERT_TRUE(again) << again.error().sentence();
  EXPECT_EQ(again->request.lift, LiftId::Deadlift);
  EXPECT_EQ(again->reps, deadlift().a.reps);
  EXPECT_EQ(again->proposal.cues, deadlift().a.proposal.cues);
  EXPECT_EQ(again->trace.forward, deadlift().a.trace.forward) << "which way the athlete faces is kept";
}

}  // namespace
}  // namespace jib
