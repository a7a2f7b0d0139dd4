// SPDX-License-Identifier: GPL-3.0-or-later
// What becomes of a fitted body: elbows, points corrected by hand, and what is stored.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/tracing/body/pin_correction.h"
#include "core/tracing/camera/knee_out.h"
#include "core/tracing/trace_store.h"
#include "tests/core/tracing/made_sightings.h"

namespace jib::tests {
namespace {

TEST(Elbow, IsSeenBesideThePlateAndLeftOutBehindIt) {
  ClipTrace clip = unplaced().trace;
  const BodySide near = *clip.forward > 0 ? BodySide::Right : BodySide::Left;
  auto sightings = *clip.sightings;
  const double r = clip.bar->rim.radius_px;
  const std::size_t beside = sightings[3].frame, behind = sightings[8].frame, unsure = sightings[12].frame;
  for (Sighting& s : sightings) {
    const std::size_t k = s.reading.index(PoseMark::Elbow, near);
    s.reading.confidence[k] = s.frame == unsure ? 0.3 : 0.8;
    s.reading.places[k] = clip.bar->plate[s.frame]->place + PixelPoint{0, s.frame == behind ? 0.8 * r : 1.3 * r};
  }
  clip.sightings = std::make_shared<const std::vector<Sighting>>(sightings);
  TraceRequest request;
  solveAgain(clip, request, clip.trace.width, clip.trace.height);
  ASSERT_TRUE(clip.trace.place(beside, Landmark::Elbow));
  EXPECT_EQ(clip.trace.place(beside, Landmark::Elbow)->y, clip.bar->plate[beside]->place.y + 1.3 * r);
  EXPECT_TRUE(clip.trace.place(beside + 1, Landmark::Elbow)) << "straight on to the next look";
  EXPECT_EQ(clip.trace.frames[behind][at(Landmark::Elbow)] &&
                clip.trace.frames[behind][at(Landmark::Elbow)]->origin == Origin::Optical,
            false);
  EXPECT_EQ(clip.trace.frames[unsure][at(Landmark::Elbow)] &&
                clip.trace.frames[unsure][at(Landmark::Elbow)]->origin == Origin::Optical,
            false);
  const PixelPoint before = *clip.trace.place(beside + 1, Landmark::Elbow);
  PlacedFrame pin{clip.trace.times_s[beside], {}};
  pin.points[at(Landmark::Elbow)] = *clip.trace.place(beside, Landmark::Elbow) + PixelPoint{20, 0};
  request.placed = {pin};
  solveAgain(clip, request, clip.trace.width, clip.trace.height);
  EXPECT_EQ(clip.trace.frames[beside][at(Landmark::Elbow)]->origin, Origin::Pinned);
  EXPECT_NEAR(clip.trace.place(beside + 1, Landmark::Elbow)->x, before.x + 20, 1.5) << "its neighbour comes along";
}

// It was as sure of a knee, of the feet, or of somebody behind.
TEST(Elbow, IsNotWhatOnlyOneLookSaysOrNoArmReaches) {
  ClipTrace clip = unplaced().trace;
  const BodySide near = *clip.forward > 0 ? BodySide::Right : BodySide::Left;
  const double r = clip.bar->rim.radius_px;
  const auto seenWhere = [&](const auto& place) {
    auto sightings = *clip.sightings;
    for (std::size_t i = 0; i < sightings.size(); ++i) {
      const std::size_t k = sightings[i].reading.index(PoseMark::Elbow, near);
      const auto elbow = place(i, clip.bar->plate[sightings[i].frame]->place);
      sightings[i].reading.confidence[k] = elbow ? 0.8 : 0.1;
      if (elbow) sightings[i].reading.places[k] = *elbow;
    }
    ClipTrace with = clip;
    with.sightings = std::make_shared<const std::vector<Sighting>>(sightings);
    solveAgain(with, {}, clip.trace.width, clip.trace.height);
    return std::count_if(with.trace.frames.begin(), with.trace.frames.end(),
                         [](const FramePoints& p) { return p[at(Landmark::Elbow)].has_value(); });
  };
  using Place = std::optional<PixelPoint>;
  const PixelPoint below{0, 1.3 * r}, feet{0, 4 * r}, above{0, -1.5 * r};
  EXPECT_GT(seenWhere([&](std::size_t, PixelPoint p) { return Place(p + below); }), 10);
  EXPECT_EQ(seenWhere([&](std::size_t i, PixelPoint p) { return i % 4 == 0 ? Place(p + below) : std::nullopt; }), 0);
  EXPECT_EQ(seenWhere([&](std::size_t, PixelPoint p) { return Place(p + feet); }), 0);
  EXPECT_EQ(seenWhere([&](std::size_t, PixelPoint p) { return Place(p + above); }), 0);
}

TEST(PinCorrection, OnePlacedPointSettlesTheNetworksConstant) {
  const auto& clip = unplaced().trace;
  const PlacedFrame one = placedAt(smallTruth(), 20, false);
  Trace with = clip.trace;
  for (auto& frame : with.frames) frame = {};
  applyPins(with, *clip.body, clip.camera, {one});
  for (Landmark l : {Landmark::Knee, Landmark::Hip, Landmark::Heel}) {
    EXPECT_LT(missOf(with, l), missOf(clip.trace, l) + 0.005) << nameOf(l);
    const std::size_t bottom = static_cast<std::size_t>(unplaced().reps[0].bottom_t() * 30);
    EXPECT_LT(with.frames[bottom][at(l)]->sigma_px, clip.trace.frames[bottom][at(l)]->sigma_px) << nameOf(l);
  }
  // The placed place itself is kept to the last bit.
  EXPECT_EQ(with.place(20, Landmark::Knee)->x, one.points[at(Landmark::Knee)]->x);
}

TEST(PinCorrection, ConstantTurnsWithTheLimb) {
  // Seen 3 cm up the shin from the knee in every frame; placed right once, it is right where the shin leans otherwise.
  const auto& clip = unplaced().trace;
  BodyTrack track = *clip.body;
  const std::size_t standing = 20, bottom = static_cast<std::size_t>(unplaced().reps[0].bottom_t() * 30);
  ASSERT_TRUE(track.poses[standing] && track.poses[bottom]);
  const double share = 0.03 / track.skeleton.shin_m;
  const auto along = [&](std::size_t i) {
    const auto p = pointsOf(track.skeleton, *track.poses[i], track.camera);
    return p.knee + (p.knee - p.ankle) * share;
  };
  PlacedFrame pin{clip.trace.times_s[standing], {}};
  pin.points[at(Landmark::Knee)] = along(standing);
  Trace trace = clip.trace;
  for (auto& frame : trace.frames) frame = {};
  applyPins(trace, track, clip.camera, {pin});
  const auto raw = pointsOf(track.skeleton, *track.poses[bottom], track.camera);
  const PixelPoint got = *trace.place(bottom, Landmark::Knee) - raw.knee, wanted = along(bottom) - raw.knee;
  EXPECT_GT(dot(got, wanted) / (length(got) * length(wanted)), 0.97) << "turned with the shin";
  EXPECT_GT(length(got), 0.5 * length(wanted));
}

// Feet 0.76 m apart: the knee of a straight leg stands half-way between hip and ankle, bent it goes out over the foot.
TEST(WideStance, TakesTheKneeOutAsItBendsAndBackAsItStraightens) {
  SideCamera camera;
  camera.middle = {480, 270};
  camera.wide_stance = true;
  camera.ankle_m = 0.38;
  camera.splay_rad = 0.65;
  Skeleton s;
  s.shin_m = 0.43;
  s.thigh_m = 0.42;
  s.trunk_m = 0.5;
  const auto out = [&](const BodyPose& q) {
    return kneeOut(camera, s.shin_m, s.thigh_m, q.shin_rad, q.thigh_rad, camera.splay_rad);
  };
  BodyPose tall, set;
  set.shin_rad = radians(4);
  set.thigh_rad = radians(-70);
  set.trunk_rad = radians(55);
  EXPECT_NEAR(out(tall), (0.38 + 0.09) / 2, 1e-9);
  EXPECT_NEAR(out(set), 0.36, 0.03) << "about over the ankle";
  for (const BodyPose& q : {tall, set}) {
    const BodyPoints seen = pointsOf(s, q, camera);
    const PlacedBody placed{seen.toe, seen.heel, seen.ankle, seen.knee, seen.hip, seen.shoulder};
    const Skeleton back = skeletonOf(placed, {0, 0}, camera);
    EXPECT_NEAR(back.shin_m, s.shin_m, 0.01);
    EXPECT_NEAR(back.thigh_m, s.thigh_m, 0.01);
  }
  camera.wide_stance = false;
  EXPECT_EQ(camera.kneeAhead(0.1, 0.3, -0.2), 0.3 - 0.1);
}

TEST(TraceStore, KeepsSightingsAndTheirBody) {
  const auto& clip = unplaced().trace;
  ClipTrace with_lens = clip;
  with_lens.far_plate = FarPlate{0.71, 0.02};
  auto body = *clip.body;
  EXPECT_TRUE(body.shoe_outlined && body.hip_outlined) << "as seen on this clip";
  body.build = KnownBuild{.shin_m = 0.44, .thigh_m = 0.43, .trunk_m = 0.5};
  body.build->edge_reach_m[0] = 0.14;
  body.build->sight_stays[2] = {0.01, -0.02};
  body.camera.splay_rad = 0.5;
  body.camera.wide_stance = body.bar_hangs = true;
  body.hip_before_off.assign(body.poses.size(), std::nullopt);
  body.hip_before_off[4] = PixelPoint{1.25, -3.5};
  with_lens.body = std::make_shared<const BodyTrack>(body);
  const auto again = traceFromJson(nlohmann::json::parse(traceToJson(with_lens).dump()));
  ASSERT_TRUE(again) << again.error().what;
  ASSERT_TRUE(again->far_plate);
  EXPECT_EQ(again->far_plate->share, 0.71);
  ASSERT_TRUE(again->sightings && again->body);
  EXPECT_EQ(again->sightings->size(), clip.sightings->size());
  EXPECT_EQ(again->body->source, BodySource::Network);
  EXPECT_EQ(again->body->build, body.build);
  EXPECT_EQ(again->body->camera.splay_rad, 0.5);
  EXPECT_TRUE(again->body->camera.wide_stance && again->body->bar_hangs);
  ASSERT_EQ(again->body->hip_before_off.size(), body.poses.size());
  EXPECT_EQ(again->body->hip_before_off[4]->y, -3.5);
  EXPECT_FALSE(again->body->hip_before_off[5]);
  EXPECT_TRUE(again->body->shoe_outlined && again->body->hip_outlined);
  EXPECT_FALSE(clip.sightings->front().reading.outline.empty());
  EXPECT_EQ(again->sightings->front().reading.outline.size(), clip.sightings->front().reading.outline.size());
  const auto &a = clip.sightings->back(), &b = again->sightings->back();
  EXPECT_EQ(a.frame, b.frame);
  EXPECT_EQ(a.reading.place(PoseMark::Hip, BodySide::Right).x, b.reading.place(PoseMark::Hip, BodySide::Right).x);
  // From what was stored the same body is fitted again.
  const std::size_t last = clip.trace.size() - 1;
  const auto p = fitBody({*clip.sightings, *clip.bar, clip.trace.height, 0, last}, clip.camera);
  const auto q = fitBody({*again->sightings, *again->bar, clip.trace.height, 0, last}, clip.camera);
  ASSERT_TRUE(p && q);
  EXPECT_EQ(p->skeleton.shin_m, q->skeleton.shin_m);

  auto older = traceToJson(clip);
  for (auto& s : older["sightings"]) {
    s["marks"].erase(s["marks"].end() - 12, s["marks"].end());
    s.erase("camera");
    s["shift"] = {3.0, -2.0};
  }
  const auto old = traceFromJson(older);
  ASSERT_TRUE(old) << old.error().what << ": tracings made before elbows, ears and turns were kept";
  EXPECT_EQ(old->sightings->back().camera.shift.y, -2.0);
  EXPECT_EQ(old->sightings->back().reading.sure(PoseMark::Elbow, BodySide::Left), 0);
  EXPECT_EQ(again->sightings->back().reading.sure(PoseMark::Ear, BodySide::Right),
            clip.sightings->back().reading.sure(PoseMark::Ear, BodySide::Right));

  auto broken = traceToJson(clip);
  broken["sightings"][1]["frame"] = 100000;
  EXPECT_EQ(traceFromJson(broken).error().code, ErrorCode::BadData);
}

}  // namespace
}  // namespace jib::tests
