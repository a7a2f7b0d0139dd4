// SPDX-License-Identifier: GPL-3.0-or-later
// Side camera, body chain, pins and flesh against geometry worked out by hand.
#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"
#include "core/tracing/body/flesh.h"
#include "core/tracing/body/pin_correction.h"
#include "core/tracing/room/vertical_vanishing_point.h"
#include "core/tracing/trace_store.h"

namespace jib::tracing {
namespace {

SideCamera camera(double forward = -1, double yaw_deg = 0, double pitch_deg = 0, double roll_deg = 0) {
  SideCamera c;
  c.middle = {640, 360};
  c.focal_px = 1000;
  c.forward = forward;
  c.yaw_rad = radians(yaw_deg);
  c.pitch_rad = radians(pitch_deg);
  c.roll_rad = radians(roll_deg);
  c.plate_distance_m = 3.0;
  c.plate_m = 0.7;
  return c;
}

TEST(SideCamera, ShowsNearerThingsLarger) {
  const SideCamera c = camera();
  EXPECT_NEAR(c.pixelsPerMetre(0.7), 1000 / 3.0, 1e-9);
  EXPECT_NEAR(c.pixelsPerMetre(0.2), 1000 / 3.5, 1e-9);
  // A point 0.5 m above the axis on the plate's plane, seen at the leg's plane, sinks towards the axis by 3.0 / 3.5.
  const PixelPoint high = c.toPicture({0, 0.5}, 0.7);
  EXPECT_NEAR(high.y, 360 - 0.5 * 1000 / 3.0, 1e-9);
  EXPECT_NEAR(c.shifted(high, 0.7, 0.2).y, 360 - 0.5 * 1000 / 3.5, 1e-9);
}

TEST(SideCamera, PutsForwardWhereTheToesPoint) {
  EXPECT_GT(camera(1).toPicture({0.3, 0}, 0).x, 640);
  EXPECT_LT(camera(-1).toPicture({0.3, 0}, 0).x, 640);
}

TEST(SideCamera, GoesThereAndBackUnderAnyTurn) {
  for (double forward : {-1.0, 1.0})
    for (double yaw : {-12.0, 0.0, 9.0})
      for (double pitch : {-5.0, 8.0})
        for (double roll : {-2.0, 3.0}) {
          const SideCamera c = camera(forward, yaw, pitch, roll);
          const MetrePoint p{0.37, -0.42};
          const MetrePoint back = c.toPlane(c.toPicture(p, 0.25), 0.25);
          EXPECT_NEAR(back.x, p.x, 1e-9);
          EXPECT_NEAR(back.z, p.z, 1e-9);
        }
}

TEST(SideCamera, ReadsYawAndPitchFromTheVanishingPoint) {
  BarTrace bar;
  bar.rim = {75, 1, 0, 0.01};
  bar.plate.assign(3, TracedPoint{{640, 360}, 1, Origin::Optical});
  bar.depth_ratio = 0.1;
  bar.vanishing_sigma_px = 15;
  const double focal = 0.83 * 1280;
  bar.vanishing = PixelPoint{640 - focal * std::tan(radians(8)), 360 - focal * std::tan(radians(3))};
  const SideCamera c = sideCamera(bar, 1280, 720, 1, {});
  EXPECT_NEAR(degrees(c.yaw_rad), 8, 1e-6);
  EXPECT_NEAR(degrees(c.pitch_rad), 3, 1e-6);
  EXPECT_LT(c.yaw_sigma_rad, 0.03);
}

TEST(SideCamera, KnowsFromAFlattenedRimThatItLooksDown) {
  BarTrace bar;
  bar.plate.assign(3, TracedPoint{{640, 360}, 1, Origin::Optical});
  bar.rim = {75, std::cos(radians(18)), 0, 0.01};  // larger axis level: seen from above
  EXPECT_NEAR(degrees(sideCamera(bar, 1280, 720, 1, {}).pitch_rad), 18, 0.01);
  bar.rim.tilt_rad = kPi / 2;  // larger axis upright: seen from the front or rear quarter
  EXPECT_EQ(sideCamera(bar, 1280, 720, 1, {}).pitch_rad, 0);
  EXPECT_GT(degrees(sideCamera(bar, 1280, 720, 1, {}).yaw_sigma_rad), 15);
}

TEST(SideCamera, TakesItsDistanceFromTheRim) {
  BarTrace bar;
  const double focal = 0.83 * 1280;
  bar.rim = {focal * 0.225 / 3.2, 1, 0, 0.01};  // a rim of 0.225 m radius at 3.2 m
  bar.plate.assign(3, TracedPoint{{640, 360}, 1, Origin::Optical});
  EXPECT_NEAR(sideCamera(bar, 1280, 720, 1, {}).plate_distance_m, 3.2, 1e-9);
}

const PlacedBody kStanding{{560, 700}, {640, 705}, {625, 680}, {615, 560}, {630, 440}, {610, 300}};

TEST(BodyChain, PutsThePlacedPointsBackWhereTheyWere) {
  const SideCamera c = camera(-1, 4, 2, 1);
  const Skeleton s = skeletonOf(kStanding, c.toPlane({600, 290}, c.plate_m), c);
  const BodyPoints p = pointsOf(s, poseOf(s, kStanding, c), c);
  const std::pair<PixelPoint, PixelPoint> pairs[] = {{p.toe, kStanding.toe},     {p.heel, kStanding.heel},
                                                     {p.ankle, kStanding.ankle}, {p.knee, kStanding.knee},
                                                     {p.hip, kStanding.hip},     {p.shoulder, kStanding.shoulder}};
  for (const auto& [got, wanted] : pairs) {
    EXPECT_NEAR(got.x, wanted.x, 0.6);  // the knee's own distance is found in one round, not to the last digit
    EXPECT_NEAR(got.y, wanted.y, 0.6);
  }
}

TEST(BodyChain, KeepsTheThighsLengthAndShowsItShorterWhenKneesOpen) {
  const SideCamera c = camera();
  const Skeleton s = skeletonOf(kStanding, c.toPlane({600, 290}, c.plate_m), c);
  BodyPose q = poseOf(s, kStanding, c);
  const double upright = length(pointsOf(s, q, c).hip - pointsOf(s, q, c).knee);
  q.shin_rad = radians(30);
  q.thigh_rad = radians(-85);
  const BodyPoints deep = pointsOf(s, q, c);
  EXPECT_LT(length(deep.hip - deep.knee), 0.99 * upright);
  EXPECT_GT(length(deep.hip - deep.knee), 0.80 * upright);
}

TEST(BodyChain, LeansForwardWhereTheToesPoint) {
  for (double forward : {-1.0, 1.0}) {
    const SideCamera c = camera(forward);
    PlacedBody placed = kStanding;
    if (forward > 0)
      for (PixelPoint* p : {&placed.toe, &placed.heel, &placed.ankle, &placed.knee, &placed.hip, &placed.shoulder})
        p->x = 1280 - p->x;
    const Skeleton s = skeletonOf(placed, c.toPlane({forward > 0 ? 680.0 : 600.0, 290}, c.plate_m), c);
    BodyPose q = poseOf(s, placed, c);
    const double before = pointsOf(s, q, c).shoulder.x;
    q.trunk_rad += radians(20);
    EXPECT_GT(forward * (pointsOf(s, q, c).shoulder.x - before), 20);
  }
}

// A track in which nothing moves but the trunk, which is upright in the first half and leans 60 degrees in the second.
struct PinCase {
  SideCamera c = camera();
  BodyTrack track;
  Trace trace;
  PinCase() {
    track.skeleton = skeletonOf(kStanding, c.toPlane({600, 290}, c.plate_m), c);
    track.camera = c;
    const BodyPose standing = poseOf(track.skeleton, kStanding, c);
    for (int i = 0; i < 60; ++i) {
      BodyPose q = standing;
      if (i >= 30) {
        q.trunk_rad += radians(60);
        q.thigh_rad -= radians(80);
      }
      track.poses.push_back(q);
      track.doubt_px.push_back(0.3);
      trace.times_s.push_back(i / 30.0);
    }
    trace.frames.resize(60);
    trace.width = 1280;
    trace.height = 720;
  }
  PixelPoint hip(std::size_t frame) const { return *trace.place(frame, Landmark::Hip); }
};

TEST(Pins, AreKeptExactly) {
  PinCase k;
  PlacedFrame pin{k.trace.times_s[45], {}};
  pin.points[at(Landmark::Hip)] = PixelPoint{700, 500};
  applyPins(k.trace, k.track, k.c, {pin});
  EXPECT_EQ(k.hip(45).x, 700);
  EXPECT_EQ(k.hip(45).y, 500);
  EXPECT_EQ(k.trace.frames[45][at(Landmark::Hip)]->origin, Origin::Pinned);
}

TEST(Pins, HelpLikePosturesAndLeaveOthersAlone) {
  PinCase plain, pinned;
  applyPins(plain.trace, plain.track, plain.c, {});
  PlacedFrame pin{pinned.trace.times_s[45], {}};
  pin.points[at(Landmark::Hip)] = plain.hip(45) + PixelPoint{8, 0};
  applyPins(pinned.trace, pinned.track, pinned.c, {pin});
  EXPECT_GT(pinned.hip(58).x - plain.hip(58).x, 6);            // the same posture half a second later
  EXPECT_LT(std::abs(pinned.hip(5).x - plain.hip(5).x), 1.5);  // standing
  EXPECT_EQ(pinned.trace.place(45, Landmark::Knee)->x, plain.trace.place(45, Landmark::Knee)->x);  // another point
}

TEST(Pins, MakeTheirNeighboursMoreCertain) {
  PinCase plain, pinned;
  applyPins(plain.trace, plain.track, plain.c, {});
  PlacedFrame pin{pinned.trace.times_s[45], {}};
  pin.points[at(Landmark::Hip)] = plain.hip(45);
  applyPins(pinned.trace, pinned.track, pinned.c, {pin});
  const auto sigma = [](const PinCase& k, std::size_t i) { return k.trace.frames[i][at(Landmark::Hip)]->sigma_px; };
  EXPECT_LT(sigma(pinned, 46), 0.8 * sigma(plain, 46));
  EXPECT_NEAR(sigma(pinned, 5), sigma(plain, 5), 0.2);
}

TEST(Flesh, PutsTheCreaseOnTheUpperSideOfTheThighSquareAboveTheHip) {
  PinCase k;
  applyPins(k.trace, k.track, k.c, {});
  addFlesh(k.trace, k.c, Flesh{});
  for (std::size_t i : {5u, 45u}) {
    const PixelPoint crease = *k.trace.place(i, Landmark::HipCrease), hip = k.hip(i);
    EXPECT_NEAR(length(crease - hip), Flesh{}.crease_out_m * k.c.pixelsPerMetre(k.c.ankle_m), 1e-6)
        << "a constant distance, standing and folded";
    EXPECT_NEAR(dot(crease - hip, *k.trace.place(i, Landmark::Knee) - hip), 0, 1e-6) << "square to the thigh";
    EXPECT_LT(crease.x, hip.x) << "in front of the hip, and the lifter faces left";
  }
  EXPECT_LT(k.trace.place(45, Landmark::HipCrease)->y, k.hip(45).y);
}

TEST(Flesh, RemembersAClickInEveryPosture) {
  PinCase k;
  applyPins(k.trace, k.track, k.c, {});
  addFlesh(k.trace, k.c, Flesh{});
  PlacedFrame click{k.trace.times_s[45], {}};
  click.points[at(Landmark::HipCrease)] = *k.trace.place(45, Landmark::HipCrease) + PixelPoint{-6, -9};
  const Flesh learnt = fleshFrom(k.trace, k.c, {click});
  EXPECT_LT(learnt.crease_sigma_m, Flesh{}.crease_sigma_m);
  k.trace.frames[45][at(Landmark::HipCrease)].reset();
  addFlesh(k.trace, k.c, learnt);
  EXPECT_NEAR(k.trace.place(45, Landmark::HipCrease)->x, click.points[at(Landmark::HipCrease)]->x, 1e-6);
  EXPECT_NEAR(k.trace.place(45, Landmark::HipCrease)->y, click.points[at(Landmark::HipCrease)]->y, 1e-6);
}

TEST(Flesh, AClickOnOneClipHelpsTheNextButIsNotTakenForOne) {
  Flesh clicked;
  clicked.crease_out_m = 0.09;
  clicked.crease_sigma_m = 0.006;
  clicked.crease_clicked = true;
  const Flesh next = remembered(clicked);
  EXPECT_EQ(next.crease_out_m, 0.09);
  EXPECT_GT(next.crease_sigma_m, clicked.crease_sigma_m);
  EXPECT_LT(next.crease_sigma_m, Flesh{}.crease_sigma_m) << "surer than knowing nothing of the athlete";
  EXPECT_FALSE(next.crease_clicked) << "joints are placed anew on every clip";
  EXPECT_EQ(next.knee_top_m, Flesh{}.knee_top_m) << "what was not clicked is the prior's";
  EXPECT_EQ(fleshFrom(Trace{}, SideCamera{}, {}, next), next) << "and stands where nothing is clicked";
}

TEST(Trace, RefusesBrokenPromises) {
  Trace t;
  t.times_s = {0, 0.1};
  t.frames.resize(2);
  EXPECT_TRUE(check(t));
  t.times_s[1] = 0;
  EXPECT_FALSE(check(t));
  t.times_s[1] = 0.1;
  t.frames[1][0] = TracedPoint{{1, 2}, 0, Origin::Optical};
  EXPECT_FALSE(check(t)) << "an uncertainty of zero";
  t.frames[1][0] = TracedPoint{{std::nan(""), 2}, 1, Origin::Optical};
  EXPECT_FALSE(check(t));
}

TEST(TraceStore, GivesBackExactlyWhatWasStored) {
  PinCase k;
  ClipTrace clip;
  BarTrace bar;
  bar.times_s = k.trace.times_s;
  for (int i = 0; i < 60; ++i)
    bar.plate.push_back(i % 7 ? std::optional(TracedPoint{{i + 1.0 / 3, 2.0 / 7 * i}, 0.1 + i, Origin::Optical})
                              : std::nullopt);
  bar.end = bar.plate;
  bar.rim = {50.123456789, 0.98, 0.1, 0.01};
  bar.depth_ratio = 0.0871;
  bar.vanishing = PixelPoint{611.1, 355.5};
  clip.bar = std::make_shared<const BarTrace>(bar);
  clip.body = std::make_shared<const BodyTrack>(k.track);
  clip.roll_rad = 0.0123;
  clip.trace.width = 1280;
  clip.trace.height = 720;
  const auto back = traceFromJson(nlohmann::json::parse(traceToJson(clip).dump()));
  ASSERT_TRUE(back) << back.error().what;
  EXPECT_EQ(back->bar->plate[8]->place.x, bar.plate[8]->place.x);
  EXPECT_FALSE(back->bar->plate[7]);
  EXPECT_EQ(back->bar->rim.radius_px, bar.rim.radius_px);
  EXPECT_EQ(back->bar->vanishing->x, 611.1);
  EXPECT_EQ(back->body->poses[33]->vector(), k.track.poses[33]->vector());
  EXPECT_EQ(back->roll_rad, clip.roll_rad);
}

TEST(TraceStore, RefusesDamageWithWords) {
  EXPECT_EQ(traceFromJson(nlohmann::json::parse("{}")).error().code, ErrorCode::BadData);
  EXPECT_EQ(
      traceFromJson(nlohmann::json::parse(R"({"schema":"jagged-jib/tracing","bar":{"times_s":[0]}})")).error().code,
      ErrorCode::BadData);
}

TEST(PointsFile, IsOneFrameOrAList) {
  const auto one =
      placedFromJson(nlohmann::json::parse(R"({"t":1.2,"points":{"hip":[10,20],"wrist":[1,1],"knee":null}})"));
  ASSERT_TRUE(one);
  ASSERT_EQ(one->size(), 1u);
  EXPECT_EQ(one->front().points[at(Landmark::Hip)]->y, 20);
  EXPECT_FALSE(one->front().points[at(Landmark::Knee)]);
  EXPECT_EQ(placedFromJson(nlohmann::json::parse(R"([{"t":1,"points":{}},{"t":2,"points":{}}])"))->size(), 2u);
}

TEST(PointsFile, RefusesWhatItCannotRead) {
  for (const char* text :
       {R"({"points":{}})", R"({"t":"now","points":{}})", R"({"t":1,"points":{"hip":[1]}})", R"([1,2])"})
    EXPECT_EQ(placedFromJson(nlohmann::json::parse(text)).error().code, ErrorCode::BadData) << text;
}

TEST(Roll, IsReadFromUprights) {
  for (double roll : {-3.0, 0.0, 2.0}) {
    cv::Mat m(480, 640, CV_8UC1, cv::Scalar(160));
    for (int x : {100, 250, 420, 560}) {
      const double dx = 230 * std::tan(radians(roll));
      cv::line(m, cv::Point2d(x - dx, 10), cv::Point2d(x + dx, 470), 40, 9, cv::LINE_AA);
    }
    const auto measured = rollFromUprights(m);
    ASSERT_TRUE(measured) << roll;
    EXPECT_NEAR(degrees(*measured), roll, 0.25);
  }
}

// Posts of a room under a camera of this pitch and roll, and a few lines that are no posts.
cv::Mat room(double pitch_deg, double roll_deg, double focal_px,
             const std::vector<double>& posts = {-520.0, -380.0, -200.0, 150.0, 330.0, 540.0}) {
  cv::Mat m(720, 1280, CV_8UC1, cv::Scalar(160));
  const double k = std::tan(radians(pitch_deg)) / focal_px, r = radians(roll_deg);
  const auto turned = [&](double x, double y) {
    return cv::Point2d(640 + x * std::cos(r) + y * std::sin(r), 360 - x * std::sin(r) + y * std::cos(r));
  };
  for (double x : posts) {
    // Through (x, 0) towards the vanishing point (0, 1 / k).
    const auto at = [&](double y) { return turned(x * (1 - k * y), y); };
    cv::line(m, at(-300), at(300), 40, 8, cv::LINE_AA);
  }
  cv::line(m, {200, 500}, {420, 690}, 220, 6, cv::LINE_AA);
  cv::line(m, {700, 80}, {780, 300}, 220, 6, cv::LINE_AA);
  return m;
}

TEST(Convergence, OfUprightsTellsThePitchOfTheCamera) {
  constexpr double kFocal_px = 1000;
  for (double pitch : {-8.0, 0.0, 6.0, 17.0})
    for (double roll : {-2.0, 0.0, 3.0}) {
      const auto c = convergenceOfUprights(room(pitch, roll, kFocal_px));
      ASSERT_TRUE(c) << pitch << " " << roll;
      const double measured = degrees(std::atan(c->per_px * kFocal_px));
      EXPECT_NEAR(measured, pitch, std::max(0.5, 3 * degrees(c->sigma_per_px * kFocal_px))) << roll;
    }
  EXPECT_FALSE(convergenceOfUprights(cv::Mat(480, 640, CV_8UC1, cv::Scalar(160))));
}

TEST(Convergence, OfPostsOnOneSideIsNotTakenForARoll) {
  const auto c = convergenceOfUprights(room(8, 0, 1000, {20.0, 140.0, 260.0, 400.0, 560.0}));
  ASSERT_TRUE(c);
  ASSERT_TRUE(c->roll_rad);
  EXPECT_NEAR(degrees(*c->roll_rad), 0, 0.5);
  BarTrace bar;
  bar.times_s = {0, 0.1};
  bar.plate.assign(2, TracedPoint{{640, 300}, 0.3, Origin::Optical});
  bar.rim = {84, 0.97, 0.5, 0.01};
  // What all uprights lean by on the mean is overruled.
  EXPECT_NEAR(degrees(sideCamera(bar, 1280, 720, 1, {}, radians(-3.6), *c).roll_rad), 0, 0.5);
}

// A single post, too short for more: its lean is the camera's roll, or its place beside the middle, and both are open.
TEST(Roll, OfOneShortPostIsToldWithItsDoubt) {
  const auto post = [](double lean_deg, double x, double long_px) {
    cv::Mat m(360, 640, CV_8UC1, cv::Scalar(160));
    const double dx = long_px / 2 * std::tan(radians(lean_deg));
    cv::line(m, cv::Point2d(320 + x - dx, 180 - long_px / 2), cv::Point2d(320 + x + dx, 180 + long_px / 2), 40, 7,
             cv::LINE_AA);
    return m;
  };
  for (const double roll : {-3.0, -1.0, 0.0, 2.0}) {
    const auto near = convergenceOfUprights(post(roll, 10, 60));
    ASSERT_TRUE(near && near->roll_rad) << roll;
    EXPECT_NEAR(degrees(*near->roll_rad), roll, 1.64 * degrees(near->roll_sigma_rad)) << roll;
    EXPECT_LT(degrees(near->roll_sigma_rad), 1.2) << "it says more than nothing";
    EXPECT_FALSE(rollFromUprights(post(roll, 10, 60))) << "alone it is no row of posts";
    const auto beside = convergenceOfUprights(post(roll, 250, 60));
    ASSERT_TRUE(beside && beside->roll_rad);
    EXPECT_GT(beside->roll_sigma_rad, near->roll_sigma_rad) << "there the pitch may have leaned it";
  }
  // What no phone leans by is something else that is long and thin.
  const auto limb = convergenceOfUprights(post(17, 10, 60));
  ASSERT_TRUE(limb && limb->roll_rad);
  EXPECT_LT(std::abs(degrees(*limb->roll_rad)), 1);
  EXPECT_GT(degrees(limb->roll_sigma_rad), 1.2);
}

// One whose end says that the camera looks down by some 4 degrees.
BarTrace barWithAnEnd() {
  BarTrace bar;
  bar.times_s = {0, 0.1};
  bar.plate.assign(2, TracedPoint{{640, 300}, 0.3, Origin::Optical});
  bar.rim = {84, 0.97, 0.5, 0.01};
  bar.depth_ratio = 0.15;
  bar.vanishing_sigma_px = 10;
  bar.vanishing = PixelPoint{640, 280};
  return bar;
}

// It says nothing of the camera's pitch.
TEST(Roll, OfOneShortPostLeavesThePitchAlone) {
  const BarTrace bar = barWithAnEnd();
  cv::Mat m(720, 1280, CV_8UC1, cv::Scalar(160));
  cv::line(m, cv::Point2d(700, 300), cv::Point2d(704, 400), 40, 9, cv::LINE_AA);
  const auto one = convergenceOfUprights(m);
  ASSERT_TRUE(one);
  const SideCamera without = sideCamera(bar, 1280, 720, 1, {}),
                   with = sideCamera(bar, 1280, 720, 1, {}, std::nullopt, *one);
  EXPECT_NEAR(with.pitch_rad, without.pitch_rad, 1e-4);
  EXPECT_LT(with.roll_sigma_rad, without.roll_sigma_rad);
}

TEST(Convergence, OverrulesABarsEndThatContradictsIt) {
  const BarTrace bar = barWithAnEnd();
  const CameraPriors priors;
  const double focal = priors.focal_share * 1280;
  const Convergence steep{std::tan(radians(17)) / focal, 1e-6};
  EXPECT_NEAR(degrees(sideCamera(bar, 1280, 720, 1, priors).pitch_rad), 4.3, 0.2);
  EXPECT_NEAR(degrees(sideCamera(bar, 1280, 720, 1, priors, std::nullopt, steep).pitch_rad), 17, 0.2);
  // Where they agree both count.
  const Convergence near{std::tan(radians(5.5)) / focal, 1e-6};
  const double both = degrees(sideCamera(bar, 1280, 720, 1, priors, std::nullopt, near).pitch_rad);
  EXPECT_GT(both, 4.3);
  EXPECT_LT(both, 5.5);
}

TEST(Roll, IsUnknownWithoutUprights) {
  const cv::Mat m(480, 640, CV_8UC1, cv::Scalar(160));
  EXPECT_FALSE(rollFromUprights(m));
}

}  // namespace
}  // namespace jib::tracing
