// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/body_outline.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"
#include "core/tracing/body/body_edges.h"

namespace jib::tracing {
namespace {

constexpr int kSide = 256;

std::vector<float> logitsOf(const cv::Mat& drawn) {
  cv::Mat_<float> logits;
  drawn.convertTo(logits, CV_32F, 12.0 / 255, -6);
  return {logits.begin(), logits.end()};
}

Outline around(PixelPoint centre, double radius_px) {
  Outline outline;
  for (int i = 0; i < 180; ++i)
    outline.push_back(centre + PixelPoint{std::cos(i * kPi / 90), std::sin(i * kPi / 90)} * radius_px);
  return outline;
}

TEST(Outline, IsTheLargestPiecesLineInThePicture) {
  cv::Mat drawn(kSide, kSide, CV_8U, cv::Scalar(0));
  cv::circle(drawn, {100, 120}, 60, 255, cv::FILLED, cv::LINE_AA);
  cv::circle(drawn, {220, 40}, 15, 255, cv::FILLED, cv::LINE_AA);  // somebody else
  // The region is twice as large as the mask and turned by a right angle.
  const PoseRegion region{{400, 300}, 2.0 * kSide, kPi / 2};
  const Outline outline = outlineFrom(logitsOf(drawn), kSide, region);
  ASSERT_GT(outline.size(), 20u);
  const PixelPoint middle = region.toPicture({100.5 / kSide, 120.5 / kSide});
  for (const PixelPoint& p : outline) EXPECT_NEAR(length(p - middle), 120, 1.5);
}

TEST(Outline, IsEmptyWhereNobodyStandsOut) {
  EXPECT_TRUE(outlineFrom(std::vector<float>(kSide * kSide, -3), kSide, {{100, 100}, 200, 0}).empty());
}

// A leg on a shoe 0.27 m long, its sole tilted, seen at 300 pixels a metre; the far foot stands higher up and further
// back.
struct DrawnFoot {
  double tilt_rad;
  PixelPoint heel{200, 500};
  PixelPoint toe() const { return heel + rotated({81, 0}, tilt_rad); }
  PixelPoint ankle() const { return heel + rotated({20, -26}, tilt_rad); }
  Outline outline(bool with_foot = true) const {
    const auto on = [&](double x, double y) { return heel + rotated({x, -y}, tilt_rad); };
    if (!with_foot) return {{200, 100}, {235, 100}, {235, 500}, {200, 500}};
    return {on(4, 200), on(38, 200), on(38, 36), on(70, 22),  on(81, 8),   on(81, 2), on(79, 0),
            on(1, 0),   on(0, 3),    on(0, 30),  on(-25, 34), on(-25, 60), on(4, 60)};
  }
};

TEST(Shoe, IsFoundOnTheLineOfItsSole) {
  for (double tilt : {-0.12, 0.0, 0.15}) {
    const DrawnFoot foot{tilt};
    // The network's heel and toe lie within the shoe.
    const ShoeEnds about{foot.heel + PixelPoint{8, -9}, foot.toe() + PixelPoint{-18, -6}};
    const auto shoe = shoeOn(foot.outline(), about, foot.ankle(), 300, 1);
    ASSERT_TRUE(shoe) << tilt;
    EXPECT_LT(length(shoe->heel - foot.heel), 2) << tilt;
    EXPECT_LT(length(shoe->toe - foot.toe()), 2) << tilt;
  }
}

TEST(Shoe, IsNoneWhereTheLegEndsWithoutOneOrItIsElsewhere) {
  const DrawnFoot foot{0};
  const ShoeEnds about{foot.heel, foot.toe()};
  EXPECT_FALSE(shoeOn(foot.outline(false), about, foot.ankle(), 300, 1)) << "cut off at the shin";
  const PixelPoint aside{60, 0};
  EXPECT_FALSE(shoeOn(foot.outline(), {foot.heel + aside, foot.toe() + aside}, foot.ankle() + aside, 300, 1));
  EXPECT_FALSE(shoeOn({}, about, foot.ankle(), 300, 1));
}

TEST(Farthest, IsAnEndAndNotWhereTheReachEnds) {
  const Outline outline = around({0, 0}, 30);
  const auto found = farthestOn(outline, {5, 0}, 50, {-1, 0});
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->x, -30, 0.1);
  EXPECT_FALSE(farthestOn(outline, {5, 0}, 33, {-1, 0})) << "35 away";
  EXPECT_FALSE(farthestOn(outline, {200, 0}, 50, {-1, 0})) << "nothing near";
}

// A camera square on, 4 m from the lifter's middle, 1 m up.
SideCamera squareOn(double yaw_rad = 0) {
  SideCamera c;
  c.middle = {640, 360};
  c.focal_px = 1000;
  c.plate_distance_m = 4 - c.plate_m;
  c.yaw_rad = yaw_rad;
  return c;
}

TEST(Edges, TellHipAndKneeUnlessAPlateHidesThem) {
  const SideCamera camera = squareOn();
  const double knee_lateral = 0.25;
  const MetrePoint hip{-0.25, -0.5}, knee{0.15, -0.5};
  Rim rim;
  rim.radius_px = 70;
  const TracedPoint plate{camera.toPicture({0, 0.1}, camera.plate_m), 0.3, Origin::Optical};
  const PixelPoint at = camera.toPicture(hip, camera.hip_m);
  const Outline buttock = around(at, 0.13 * camera.pixelsPerMetre(camera.hip_m));
  const auto seen = edgesOn(buttock, plate, rim, 1, hip, knee, knee_lateral, camera);
  ASSERT_EQ(seen.size(), 2u) << "no knee on this outline";
  EXPECT_EQ(seen[0].edge, Edge::Buttock);
  EXPECT_NEAR(hip.x - seen[0].place.x, 0.13, 0.002);
  EXPECT_EQ(seen[1].edge, Edge::Seat);
  EXPECT_NEAR(hip.z - seen[1].place.z, 0.13 * 0.7071, 0.004);
  EXPECT_EQ(edgesOn(buttock, plate, rim, 0, hip, knee, knee_lateral, camera).size(), 1u) << "standing there is no seat";
  const TracedPoint before{at + PixelPoint{-30, 0}, 0.3, Origin::Optical};
  EXPECT_TRUE(edgesOn(buttock, before, rim, 1, hip, knee, knee_lateral, camera).empty());
}

TEST(Edges, AKneeBehindTheOtherOneIsLeftOut) {
  Rim rim;
  rim.radius_px = 70;
  int seen = 0;
  for (double yaw : {-0.2, 0.2}) {
    const SideCamera camera = squareOn(yaw);
    const PixelPoint at{680, 490};
    const MetrePoint knee = camera.toPlane(at, 0.25), hip = knee + MetrePoint{-0.4, 0};
    const TracedPoint plate{at + PixelPoint{0, -200}, 0.3, Origin::Optical};
    const Outline front = around(at, 0.055 * camera.pixelsPerMetre(0.25));
    for (const EdgeSeen& e : edgesOn(front, plate, rim, 1, hip, knee, 0.25, camera))
      seen += e.edge == Edge::KneeFront ? 1 : 0;
  }
  EXPECT_EQ(seen, 1) << "turned to one side the far knee stands out, to the other the near one";
}

}  // namespace
}  // namespace jib::tracing
