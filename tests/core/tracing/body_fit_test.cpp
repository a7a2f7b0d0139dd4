// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_fit.h"

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/tracing/body/pin_correction.h"
#include "core/tracing/pose/pose_files.h"
#include "core/tracing/trace_store.h"
#include "tests/core/tracing/made_sightings.h"

namespace jib::tests {
namespace {

TEST(BodyFit, FollowsTheBodyWithoutAClick) {
  const auto& a = unplaced();
  ASSERT_TRUE(a.trace.body);
  EXPECT_EQ(a.trace.body->source, BodySource::Network);
  EXPECT_TRUE(a.trace.body->feet_seen);
  ASSERT_EQ(a.reps.size(), 2u);
  for (Landmark l : {Landmark::Knee, Landmark::Ankle, Landmark::Heel, Landmark::Toe})
    EXPECT_LT(missOf(a.trace.trace, l), 0.11) << nameOf(l);
  EXPECT_LT(missOf(a.trace.trace, Landmark::Hip), 0.13);
}

// In a wide picture with the lifter's head cut off and somebody else in the room the detector showed the other one
// only.
TEST(RegionUnderTheBar, IsGoodEnoughToBeginWith) {
  const auto& clip = unplaced().trace;
  const BodySide near = clip.camera.forward > 0 ? BodySide::Right : BodySide::Left;
  auto quick = PoseReader::make(*quickPoseNetwork());
  auto reader = footage::FrameReader::open(JIB_MADE_CLIP);
  ASSERT_TRUE(quick && reader);
  auto picture = reader->next(footage::Pixels::Colour, 10);
  ASSERT_TRUE(picture && *picture);
  auto region = regionUnder(*clip.bar, 10);
  ASSERT_TRUE(region);
  PixelPoint knee;
  for (int look = 0; look < 2; ++look) {
    const auto reading = quick->read((*picture)->picture, *region);
    ASSERT_TRUE(reading);
    EXPECT_TRUE(reading->somebody());
    region = reading->next;
    knee = reading->place(PoseMark::Knee, near);
  }
  EXPECT_LT(length(knee - smallTruth().frames[10].pixels[at(Landmark::Knee)]->place), 0.2 * shinPixels());
  EXPECT_FALSE(regionUnder(*clip.bar, unplaced().motion.frameAt(unplaced().reps[0].bottom_t())));
  BarTrace lost = *clip.bar;
  lost.plate[10].reset();
  EXPECT_FALSE(regionUnder(lost, 10));
}

TEST(BodyFit, SaysHowUnsureItIs) {
  const auto& a = unplaced();
  const auto* depth = lifts::find(a.measures.reps[0], "hip_crease_above_knee_m");
  ASSERT_TRUE(depth && depth->measured());
  EXPECT_GT(depth->measured()->sigma, 0.02) << "the network's constants are not known without a placed frame";
  const auto set = simulate::trueSet(smallTruth());
  const auto* wanted = lifts::find(set.measures.reps[0], "hip_crease_above_knee_m");
  EXPECT_LT(std::abs(depth->measured()->value - wanted->measured()->value), 2.5 * depth->measured()->sigma);
  EXPECT_TRUE(std::any_of(a.notices.begin(), a.notices.end(), [](const auto& n) { return n.id == "points_proposed"; }));
}

TEST(BodyFit, KnowsWhichWayTheLifterFaces) {
  const auto& frame = smallTruth().frames[20].pixels;
  const double forward = frame[at(Landmark::Toe)]->place.x > frame[at(Landmark::Heel)]->place.x ? 1.0 : -1.0;
  EXPECT_EQ(forwardFrom(*unplaced().trace.sightings), forward);
  EXPECT_EQ(forwardFrom({}), std::nullopt);
  // Feet that point at the camera tell nothing.
  auto front = perfectSightings({0, 0}, 0);
  for (Sighting& s : front)
    for (BodySide side : {BodySide::Left, BodySide::Right})
      s.reading.places[s.reading.index(PoseMark::Toe, side)] =
          s.reading.place(PoseMark::Heel, side) + PixelPoint{0, 10};
  EXPECT_EQ(forwardFrom(front), std::nullopt);
}

TEST(BodyFit, KeepsLengthsConstantAndJitterOut) {
  const auto& clip = unplaced().trace;
  const auto track =
      fitBody({perfectSightings({0, 0}, 3.0), *clip.bar, clip.trace.height, 0, clip.trace.size() - 1}, clip.camera);
  ASSERT_TRUE(track);
  const auto& truth = smallTruth();
  double raw = 3.0 * 3.0 * 2, squares = 0, n = 0;
  for (std::size_t i = 10; i + 10 < clip.trace.size(); ++i) {
    const auto points = pointsOf(track->skeleton, *track->poses[i], track->camera);
    const PixelPoint miss = points.knee - truth.frames[i].pixels[at(Landmark::Knee)]->place;
    squares += dot(miss, miss);
    n += 1;
    EXPECT_EQ(track->poses[i]->shin_share, 1) << "lengths are those of the skeleton";
  }
  // The body is not of the table the fit begins with, so that some of its own error stays beside the jitter.
  EXPECT_LT(squares / n, 0.65 * raw);
}

TEST(BodyFit, OneWildSightingPullsNothingAway) {
  const auto& clip = unplaced().trace;
  const auto calm = perfectSightings({0, 0}, 1.0);
  auto wild = calm;
  const std::size_t k = wild.size() / 2;
  for (PixelPoint& p : wild[k].reading.places) p = p + PixelPoint{200, -150};
  const std::size_t last = clip.trace.size() - 1;
  const auto a = fitBody({calm, *clip.bar, clip.trace.height, 0, last}, clip.camera);
  const auto b = fitBody({wild, *clip.bar, clip.trace.height, 0, last}, clip.camera);
  ASSERT_TRUE(a && b);
  const std::size_t frame = wild[k].frame;
  const auto pa = pointsOf(a->skeleton, *a->poses[frame], a->camera);
  const auto pb = pointsOf(b->skeleton, *b->poses[frame], b->camera);
  EXPECT_LT(length(pa.knee - pb.knee), 0.05 * shinPixels());
  EXPECT_LT(length(pa.hip - pb.hip), 0.05 * shinPixels());
}

// Before they take the bar, lifters stand over it: it is on the floor, and straight arms from it would fold them.
TEST(BodyFit, WhoStandsOverTheBarIsNotTiedToIt) {
  const auto& clip = unplaced().trace;
  auto standing = perfectSightings({0, 0}, 0.0);
  for (Sighting& s : standing) s.reading = standing[6].reading;
  BarTrace lying = *clip.bar;
  const auto& feet = smallTruth().frames[standing[6].frame].pixels;
  const PixelPoint floor = feet[at(Landmark::Ankle)]->place + PixelPoint{0, -0.6 * lying.rim.radius_px};
  for (auto& plate : lying.plate) plate = TracedPoint{floor, 0.5, Origin::Optical};
  const std::size_t last = clip.trace.size() - 1;
  BodyEvidence evidence{standing, lying, clip.trace.height, 0, last};
  evidence.model = {BarContact::Hands, false, true};
  const auto track = fitBody(evidence, clip.camera);
  ASSERT_TRUE(track);
  const auto points = pointsOf(track->skeleton, *track->poses[last / 2], track->camera);
  EXPECT_LT(length(points.shoulder - feet[at(Landmark::Shoulder)]->place) / shinPixels(), 0.15);
}

// From above the plate covers the hip for most of the way, and the network puts it by the knee, sure of itself.
TEST(BodyFit, AHipGuessedBehindThePlateDoesNotPushTheKnee) {
  const auto& known = unplaced();
  const auto& bar = *known.trace.bar;
  const auto hips_at = [&](double aside_rims) {
    auto sightings = perfectSightings({0, 0}, 0);
    for (Sighting& s : sightings) {
      if (!bar.plate[s.frame]) continue;
      // Always as far from the plate's middle, on the side of the knee.
      const std::size_t hip =
          s.reading.index(PoseMark::Hip, known.trace.camera.forward > 0 ? BodySide::Right : BodySide::Left);
      s.reading.places[hip] =
          bar.plate[s.frame]->place +
          PixelPoint{known.trace.camera.forward * 0.3 * bar.rim.radius_px, aside_rims * bar.rim.radius_px};
    }
    auto body = fitBody({sightings, bar, known.clip.height, 0, bar.plate.size() - 1}, known.trace.camera);
    EXPECT_TRUE(body);
    const auto bottom = known.motion.frameAt(known.reps[0].bottom_t());
    return pointsOf(body->skeleton, *body->poses[bottom], known.trace.camera).knee;
  };
  const auto bottom = known.motion.frameAt(known.reps[0].bottom_t());
  const PixelPoint truth = smallTruth().frames[bottom].pixels[at(Landmark::Knee)]->place;
  // Both are nearly half a shin from where the hip is.
  for (double aside : {0.8, 1.0})
    EXPECT_LT(length(hips_at(aside) - truth), 0.11 * shinPixels()) << aside << ": hardly believed there";
  EXPECT_GT(length(hips_at(2.6) - truth), 0.12 * shinPixels()) << "a joint in the open is";
}

// The small clip's squat as a nearly perfect network would see it, for a test to spoil.
class SeenSquat : public testing::Test {
 protected:
  const coaching::Analysis& known = unplaced();
  const SideCamera& camera = known.trace.camera;
  const BodySide near = camera.forward > 0 ? BodySide::Right : BodySide::Left;
  const double metre_px = camera.pixelsPerMetre(camera.hip_m);
  const std::size_t bottom = known.motion.frameAt(known.reps[0].bottom_t());
  std::vector<Sighting> sightings = perfectSightings({0, 0}, 1.0);

  BodyTrack fitted(const std::vector<Sighting>& seen, bool outlines = true) const {
    auto body = fitBody(
        {seen, *known.trace.bar, known.clip.height, 0, known.trace.bar->plate.size() - 1, true, outlines}, camera);
    EXPECT_TRUE(body);
    return body ? std::move(*body) : *known.trace.body;
  }
};

// In a dim picture the network put the hip of a deep squat before the knee: thighs folded forward, hips 50 cm off.
TEST_F(SeenSquat, AHipSeenBeforeTheKneeDoesNotFoldTheThighForward) {
  for (Sighting& s : sightings) {
    const auto& truth = smallTruth().frames[s.frame].pixels;
    const PixelPoint knee = truth[at(Landmark::Knee)]->place;
    if (knee.y - truth[at(Landmark::Hip)]->place.y < 0.25 * metre_px)
      s.reading.places[s.reading.index(PoseMark::Hip, near)] = knee + PixelPoint{camera.forward * 0.1 * metre_px, 0};
  }
  const BodyTrack body = fitted(sightings);
  for (const auto& pose : body.poses) {
    if (!pose) continue;
    EXPECT_LT(pose->thigh_rad, pose->shin_rad + 0.2);
  }
  EXPECT_LT(body.poses[bottom]->thigh_rad, -1.0);
}

TEST_F(SeenSquat, WhatTheNetworkIsLessSureOfCountsLess) {
  const auto seen = [&](double sure) {
    auto spoiled = sightings;
    for (Sighting& s : spoiled) {
      if (std::abs(known.motion.times_s[s.frame] - known.reps[0].bottom_t()) > 0.25) continue;
      const std::size_t knee = s.reading.index(PoseMark::Knee, near);
      s.reading.places[knee].x += camera.forward * 0.05 * metre_px;
      s.reading.confidence[knee] = sure;
    }
    return fitted(spoiled);
  };
  const BodyTrack sure = seen(0.9), unsure = seen(0.4);
  EXPECT_LT(missAt(unsure, bottom, &BodyPoints::knee, Landmark::Knee),
            0.8 * missAt(sure, bottom, &BodyPoints::knee, Landmark::Knee));
  EXPECT_GT(unsure.doubt_px[bottom], sure.doubt_px[bottom]) << "and its points are less sure";
}

TEST_F(SeenSquat, HeelsStayDownWhileTheLifterStands) {
  // The network squeezes the lower leg in the second before the first descent.
  const auto begins = known.motion.frameAt(known.reps[0].start_t());
  for (Sighting& s : sightings) {
    if (s.frame > begins) continue;
    for (PoseMark mark : {PoseMark::Heel, PoseMark::Ankle, PoseMark::Knee})
      s.reading.places[s.reading.index(mark, near)].y -= 0.05 * metre_px;
  }
  const BodyTrack body = fitted(sightings);
  EXPECT_LT(std::abs(degrees(body.poses[begins / 2]->foot_rad)), 2.5);
}

// Behind the plate the network puts the hip a hand's breadth forward whenever the lifter is down; where the buttocks
// end says otherwise.
TEST_F(SeenSquat, WhereTheOutlineEndsHoldsTheHipTheNetworkMisses) {
  for (Sighting& s : sightings) {
    const PixelPoint hip = smallTruth().frames[s.frame].pixels[at(Landmark::Hip)]->place;
    for (int i = 0; i < 90; ++i)
      s.reading.outline.push_back(hip + PixelPoint{std::cos(i * kPi / 45), std::sin(i * kPi / 45)} * (0.15 * metre_px));
    const double knee_above = hip.y - smallTruth().frames[s.frame].pixels[at(Landmark::Knee)]->place.y;
    if (knee_above > -0.15 * metre_px)
      s.reading.places[s.reading.index(PoseMark::Hip, near)].x += camera.forward * 0.10 * metre_px;
  }
  const auto miss = [&](bool outlines) {
    return missAt(fitted(sightings, outlines), bottom, &BodyPoints::hip, Landmark::Hip);
  };
  EXPECT_LT(miss(true), 0.5 * miss(false));
}

TEST(BodyFit, SeenFromHighAboveItsPointsAreLessSure) {
  const auto& known = unplaced();
  const auto sigmaFrom = [&](double pitch_deg, bool pinned) {
    ClipTrace clip = known.trace;
    // The posts of the room converge as they do under a camera that looks down.
    clip.uprights = Convergence{std::tan(radians(pitch_deg)) / clip.camera.focal_px, 1e-6};
    TraceRequest request = known.request.trace;
    const auto frame = known.motion.frameAt(known.reps[0].bottom_t());
    if (pinned) {
      request.placed.push_back({clip.bar->times_s[frame], {}});
      request.placed.back().points[at(Landmark::Hip)] = known.trace.trace.place(frame, Landmark::Hip);
    }
    solveAgain(clip, request, known.clip.width, known.clip.height);
    return clip.trace.frames[frame][at(Landmark::Hip)]->sigma_px;
  };
  EXPECT_NEAR(sigmaFrom(3, false), sigmaFrom(0, false), 0.5) << "nearly level makes no difference";
  EXPECT_GT(sigmaFrom(20, false), 1.3 * sigmaFrom(0, false));
  EXPECT_LT(sigmaFrom(20, true), 0.5 * sigmaFrom(20, false)) << "what the coach set is as sure as ever";
}

TEST(BodyFit, DoesNotBelieveFeetAtThePicturesEdge) {
  const auto& clip = unplaced().trace;
  auto cut = perfectSightings({0, 0}, 1.0);
  for (Sighting& s : cut)
    for (PoseMark mark : {PoseMark::Toe, PoseMark::Heel, PoseMark::Ankle})
      for (BodySide side : {BodySide::Left, BodySide::Right})
        s.reading.places[s.reading.index(mark, side)].y = clip.trace.height - 2.0;
  const auto track = fitBody({cut, *clip.bar, clip.trace.height, 0, clip.trace.size() - 1}, clip.camera);
  ASSERT_TRUE(track);
  EXPECT_FALSE(track->feet_seen);
  Trace trace = clip.trace;
  for (auto& frame : trace.frames) frame = {};
  applyPins(trace, *track, clip.camera, {});
  EXPECT_FALSE(trace.place(30, Landmark::Heel));
  EXPECT_TRUE(trace.place(30, Landmark::Knee));
}

TEST(CameraMoves, IsNothingOnATripodAndInterpolatedInAHand) {
  auto sightings = perfectSightings({0, 0}, 0);
  const auto& times = unplaced().trace.trace.times_s;
  for (Sighting& s : sightings) s.camera.shift = {0.3, -0.2};
  EXPECT_TRUE(cameraMoves(sightings, times).empty()) << "what is measured of a still camera is noise";
  for (Sighting& s : sightings) s.camera.shift = {0.5 * static_cast<double>(s.frame), -4};
  const auto moves = cameraMoves(sightings, times);
  ASSERT_EQ(moves.size(), times.size());
  EXPECT_NEAR(moves[31].shift.x, 15.5, 1e-6) << "between the sightings of frames 30 and 33";
  EXPECT_NEAR(moves[31].shift.y, -4, 1e-9);
  EXPECT_TRUE(cameraMoves({}, times).empty());
}

TEST(CameraMoves, IsTakenOffTheBodyAndPutBackIntoThePicture) {
  const auto& clip = unplaced().trace;
  auto still = perfectSightings({0, 0}, 0.5), swayed = still;
  BarTrace bar = *clip.bar;
  const auto sway = [](std::size_t frame) {
    const auto t = static_cast<double>(frame);
    const double turn = 0.02 * std::sin(0.06 * t);
    return CameraMove{
        std::cos(turn), std::sin(turn), {12 * std::sin(0.05 * t) + 360 * turn, 7 * std::cos(0.04 * t) - 640 * turn}};
  };
  for (Sighting& s : swayed) {
    s.camera = sway(s.frame);
    for (PixelPoint& p : s.reading.places) p = s.camera.moved(p);
  }
  const auto moves = cameraMoves(swayed, bar.times_s);
  ASSERT_FALSE(moves.empty());
  for (std::size_t i = 0; i < bar.plate.size(); ++i)
    if (bar.plate[i]) bar.plate[i]->place = moves[i].moved(bar.plate[i]->place);
  const std::size_t last = clip.trace.size() - 1;
  const auto a = fitBody({still, *clip.bar, clip.trace.height, 0, last}, clip.camera);
  const auto b = fitBody({swayed, bar, clip.trace.height, 0, last}, clip.camera);
  ASSERT_TRUE(a && b);
  EXPECT_NEAR(a->skeleton.shin_m, b->skeleton.shin_m, 1e-3);
  EXPECT_NEAR(a->poses[40]->shin_rad, b->poses[40]->shin_rad, 0.01);
  Trace trace = clip.trace;
  for (auto& frame : trace.frames) frame = {};
  trace.camera_moves = moves;
  applyPins(trace, *b, clip.camera, {});
  const PixelPoint steady = pointsOf(b->skeleton, *b->poses[40], b->camera).knee;
  EXPECT_LT(length(*trace.place(40, Landmark::Knee) - moves[40].moved(steady)), 1e-9) << "drawn where the knee is seen";
}

TEST(BodyFit, StopsWhenAsked) {
  const auto& clip = unplaced().trace;
  Task task;
  task.cancel();
  const auto sightings = perfectSightings({0, 0}, 1.0);
  EXPECT_FALSE(fitBody({sightings, *clip.bar, clip.trace.height, 0, clip.trace.size() - 1}, clip.camera, &task));
  // Nothing is decoded again where bar and sightings are known, and the fit is what is left to stop.
  auto reader = footage::FrameReader::open(JIB_MADE_CLIP);
  ASSERT_TRUE(reader);
  TraceRequest request;
  request.parts.flow = false;
  const auto traced = traceClip(*reader, request, task, clip.known());
  ASSERT_FALSE(traced);
  EXPECT_EQ(traced.error().code, ErrorCode::Cancelled);
}

TEST(BodyFit, NeedsEnoughSightings) {
  const auto& clip = unplaced().trace;
  auto few = perfectSightings({0, 0}, 1.0);
  few.resize(4);
  EXPECT_FALSE(fitBody({few, *clip.bar, clip.trace.height, 0, clip.trace.size() - 1}, clip.camera));
  auto dim = perfectSightings({0, 0}, 1.0);
  for (Sighting& s : dim) s.reading.confidence.fill(0.3);
  EXPECT_FALSE(fitBody({dim, *clip.bar, clip.trace.height, 0, clip.trace.size() - 1}, clip.camera));
}

TEST(BodyFit, AChainThatSlidOffIsNotBelievedAgainstTheSightings) {
  // As on plain dark tights: the followed thigh stays behind by 20 degrees through the whole descent.
  const auto& placed = smallAnalysis();
  const auto bottom = placed.motion.frameAt(placed.reps[0].bottom_t());
  BodyTrack slid = *placed.trace.body;
  for (std::size_t i = 0; i < slid.poses.size(); ++i)
    if (slid.poses[i] && i != slid.placed_frame) {
      const double down = std::abs(slid.poses[i]->thigh_rad - slid.poses[slid.placed_frame]->thigh_rad);
      slid.poses[i]->thigh_rad += 0.25 * down;
      slid.poses[i]->trunk_rad += 0.25 * down;
    }
  const double before = missAt(slid, bottom, &BodyPoints::hip, Landmark::Hip);
  ASSERT_GT(before, 0.2);
  const auto fit = fitBody({perfectSightings({0, 0}, 2.0), *placed.trace.bar, placed.trace.trace.height, 0,
                            slid.poses.size() - 1, true, true, &slid},
                           placed.trace.camera);
  ASSERT_TRUE(fit);
  EXPECT_LT(missAt(*fit, bottom, &BodyPoints::hip, Landmark::Hip), 0.3 * before);
  EXPECT_GT(fit->doubt_px[bottom], slid.doubt_px[bottom] + 1) << "a contradiction is doubt";
  EXPECT_NEAR(fit->doubt_px[slid.placed_frame], slid.doubt_px[slid.placed_frame], 1.0);
}

TEST(BodyFit, AFollowedShinSaysWhatTheNetworkMissesAtTheBottom) {
  // The network sees the knee 7 cm too far ahead for as long as the lifter is low, and is sure of it.
  const auto& clip = smallAnalysis().trace;
  const auto set = simulate::trueSet(smallTruth());
  const BodySide near = clip.camera.forward > 0 ? BodySide::Right : BodySide::Left;
  const std::size_t last = clip.trace.size() - 1, bottom = set.motion.frameAt(set.reps[0].bottom_t());
  auto seen = perfectSightings({0, 0}, 2.0);
  for (Sighting& s : seen)
    if (const double shin = *set.motion.angles[s.frame].shin_deg; shin > 15) {
      PixelPoint& knee = s.reading.places[s.reading.index(PoseMark::Knee, near)];
      knee.x += clip.camera.forward * 0.07 * clip.camera.pixelsPerMetre(clip.camera.ankle_m);
    }
  // Followed from a frame whose shin was taken for 4 degrees more upright than it was, with the usual lag.
  std::vector<Followed> followed;
  for (const Stretch& s : stretchesOnTheWay(*clip.bar, {}, 0.45, 0, last)) {
    Followed f{s, {}, {}};
    for (std::size_t i = s.first; i <= s.last; ++i) {
      BodyPose pose;
      const double begins = *set.motion.angles[s.first].shin_deg;
      pose.shin_rad = radians(begins - 4 + (*set.motion.angles[i].shin_deg - begins) / 1.07);
      f.poses.push_back(pose);
    }
    followed.push_back(std::move(f));
  }
  const auto shinMiss = [&](const std::vector<Followed>& with) {
    const auto fit =
        fitBody({seen, *clip.bar, clip.trace.height, 0, last, true, true, nullptr, nullptr, with}, clip.camera);
    const double turned = fit->poses[bottom]->shin_rad - fit->poses[followed[0].stretch.first]->shin_rad;
    return degrees(turned) -
           (*set.motion.angles[bottom].shin_deg - *set.motion.angles[followed[0].stretch.first].shin_deg);
  };
  ASSERT_EQ(followed.size(), 2u);
  const double without = shinMiss({});
  ASSERT_GT(without, 4);
  EXPECT_LT(std::abs(shinMiss(followed)), 0.8 * without);
}

TEST(BodyFit, APlacedChainIsTheSameUnderAHandThatSways) {
  const auto& clip = smallAnalysis().trace;
  const std::size_t last = clip.trace.size() - 1;
  auto still = perfectSightings({0, 0}, 1.0), swayed = still;
  const auto move = [](std::size_t frame) {
    const auto t = static_cast<double>(frame);
    return CameraMove{1, 0.02 * std::sin(0.05 * t), {10 * std::sin(0.04 * t), -6 * std::sin(0.03 * t)}};
  };
  for (Sighting& s : swayed) {
    s.camera = move(s.frame);
    for (PixelPoint& p : s.reading.places) p = s.camera.moved(p);
  }
  BarTrace bar = *clip.bar;
  BodyTrack chain = *clip.body;
  const auto moves = cameraMoves(swayed, bar.times_s);
  for (std::size_t i = 0; i <= last; ++i) {
    if (bar.plate[i]) bar.plate[i]->place = moves[i].moved(bar.plate[i]->place);
    auto& pose = chain.poses[i];
    if (!pose) continue;
    const SideCamera& c = chain.camera;
    pose->ankle = c.toPlane(moves[i].moved(c.toPicture(pose->ankle, c.ankle_m)), c.ankle_m);
    for (double* lean : {&pose->shin_rad, &pose->thigh_rad, &pose->trunk_rad}) *lean += c.forward * moves[i].turn_rad();
  }
  const auto a = fitBody({still, *clip.bar, clip.trace.height, 0, last, true, true, &*clip.body}, clip.camera);
  const auto b = fitBody({swayed, bar, clip.trace.height, 0, last, true, true, &chain}, clip.camera);
  ASSERT_TRUE(a && b);
  for (std::size_t i : {std::size_t{40}, std::size_t{70}}) {
    ASSERT_TRUE(a->poses[i] && b->poses[i]);
    const double turn = clip.camera.forward * moves[i].turn_rad();
    EXPECT_NEAR(b->poses[i]->shin_rad - turn, a->poses[i]->shin_rad, 0.01) << i;
    EXPECT_NEAR(b->poses[i]->thigh_rad - turn, a->poses[i]->thigh_rad, 0.01) << i;
    EXPECT_EQ(b->poses[i]->ankle.x, chain.poses[i]->ankle.x) << "where the picture shows it";
  }
}

TEST(BodyFit, ALiftersKnownBuildSettlesTheNetworksConstants) {
  // The network sees ankle and knee some centimetres further up the shin. On the first clip a frame is placed, on the
  // next one nothing is.
  const auto& placed = smallAnalysis();
  const auto& clip = placed.trace;
  const BodySide near = clip.camera.forward > 0 ? BodySide::Right : BodySide::Left;
  auto seen = perfectSightings({0, 0}, 2.0);
  for (Sighting& s : seen) {
    const auto& truth = smallTruth().frames[s.frame].pixels;
    const PixelPoint shin = truth[at(Landmark::Knee)]->place - truth[at(Landmark::Ankle)]->place;
    for (const auto& [mark, share] : {std::pair(PoseMark::Ankle, 0.20), std::pair(PoseMark::Knee, 0.08)}) {
      PixelPoint& place = s.reading.places[s.reading.index(mark, near)];
      place = place + shin * share;
    }
  }
  const auto first =
      fitBody({seen, *clip.bar, clip.trace.height, 0, clip.trace.size() - 1, true, true, &*clip.body}, clip.camera);
  ASSERT_TRUE(first && first->build);
  const auto next = [&](const KnownBuild* known) {
    return *fitBody({seen, *clip.bar, clip.trace.height, 0, clip.trace.size() - 1, true, true, nullptr, known},
                    clip.camera);
  };
  const BodyTrack without = next(nullptr), with = next(&*first->build);
  EXPECT_FALSE(without.began_with_build);
  EXPECT_TRUE(with.began_with_build);
  const auto bottom = placed.motion.frameAt(placed.reps[0].bottom_t());
  const auto ankle = [&](const BodyTrack& track) { return missAt(track, bottom, &BodyPoints::ankle, Landmark::Ankle); };
  EXPECT_LT(ankle(with), 0.5 * ankle(without));
  EXPECT_LT(missAt(with, bottom, &BodyPoints::knee, Landmark::Knee), 0.03);
  EXPECT_LT(wanderOf(Landmark::Ankle, with).constant_m, wanderOf(Landmark::Ankle, without).constant_m);
  const auto kept = buildFromJson(nlohmann::json::parse(buildToJson(*first->build).dump()));
  EXPECT_EQ(kept, first->build);
  EXPECT_FALSE(buildFromJson(nlohmann::json::parse(R"({"shin_m": 0.4})")));
}

// Back to the rack: the foot that moved off is no longer drawn where it stood.
TEST(BodyFit, AFootThatIsWalkedOffIsLeftOutFromThere) {
  const auto& a = unplaced();
  ClipTrace clip = a.trace;
  const double leaves_s = clip.trace.times_s.back() - 0.8, px = clip.camera.pixelsPerMetre(clip.camera.ankle_m);
  const BodySide near = *clip.forward > 0 ? BodySide::Right : BodySide::Left;
  auto sightings = *clip.sightings;
  std::size_t moved = 0;
  for (Sighting& s : sightings)
    if (clip.trace.times_s[s.frame] > leaves_s) {
      for (PoseMark mark : {PoseMark::Toe, PoseMark::Heel}) {
        const std::size_t k = s.reading.index(mark, near);
        s.reading.places[k] = s.reading.places[k] + PixelPoint{0.3 * px, 0};
      }
      ++moved;
    }
  ASSERT_GE(moved, 2u) << "two looks in a row";
  clip.sightings = std::make_shared<const std::vector<Sighting>>(sightings);
  solveAgain(clip, a.request.trace, clip.trace.width, clip.trace.height);
  EXPECT_FALSE(clip.trace.place(clip.trace.size() - 1, Landmark::Toe));
  EXPECT_FALSE(clip.trace.place(clip.trace.size() - 1, Landmark::Knee));
  EXPECT_TRUE(clip.trace.place(clip.trace.size() - 1, Landmark::Hip)) << "only the leg";
  EXPECT_TRUE(clip.trace.place(a.motion.frameAt(a.reps[0].bottom_t()), Landmark::Toe));
  EXPECT_TRUE(a.trace.trace.place(clip.trace.size() - 1, Landmark::Toe)) << "where nothing moved nothing is left out";
}

}  // namespace
}  // namespace jib::tests
