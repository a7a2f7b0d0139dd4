// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/camera_move.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace jib::tracing {
namespace {

constexpr int kWide = 640, kHigh = 360;

// A room of many boxes, larger than the picture on every side.
const cv::Mat& room() {
  static const cv::Mat kRoom = [] {
    cv::Mat room(3 * kHigh, 4 * kWide, CV_8UC3, cv::Scalar(90, 110, 100));
    cv::RNG random(7);
    for (int k = 0; k < 900; ++k) {
      const cv::Rect box(random.uniform(0, room.cols), random.uniform(0, room.rows), random.uniform(12, 60),
                         random.uniform(12, 60));
      cv::rectangle(room, box, cv::Scalar(random.uniform(0, 255), random.uniform(0, 255), random.uniform(0, 255)), -1);
    }
    cv::GaussianBlur(room, room, {}, 1.0);
    return room;
  }();
  return kRoom;
}

// What a camera sees that has moved so: the still picture lies in the room's middle.
cv::Mat seen(const CameraMove& m) {
  const CameraMove in{1, 0, {-1.5 * kWide, -kHigh}};
  const CameraMove all = after(in, m);
  const cv::Mat matrix =
      (cv::Mat_<double>(2, 3) << all.along, -all.across, all.shift.x, all.across, all.along, all.shift.y);
  cv::Mat picture;
  cv::warpAffine(room(), picture, matrix, {kWide, kHigh});
  return picture;
}

CameraMove about(PixelPoint centre, double turn, double growth, PixelPoint shift) {
  CameraMove m{growth * std::cos(turn), growth * std::sin(turn), {}};
  m.shift = centre + shift - m.moved(centre);
  return m;
}

double furthest(const CameraMove& a, const CameraMove& b) {
  double most = 0;
  for (const PixelPoint p : {PixelPoint{0, 0}, PixelPoint{kWide, 0}, PixelPoint{0, kHigh}, PixelPoint{kWide, kHigh}})
    most = std::max(most, length(a.moved(p) - b.moved(p)));
  return most;
}

const RoomWatch::Lifter kNobody{{-500, -500}, 1, 1};

TEST(CameraMove, TakesBackWhatItDid) {
  const CameraMove m = about({100, 50}, 0.1, 1.2, {7, -3});
  const PixelPoint p{321, 123}, q = m.still(m.moved(p));
  EXPECT_NEAR(q.x, p.x, 1e-9);
  EXPECT_NEAR(q.y, p.y, 1e-9);
  EXPECT_NEAR(m.turn_rad(), 0.1, 1e-12);
  const CameraMove twice = after(m, m);
  EXPECT_LT(length(twice.moved(p) - m.moved(m.moved(p))), 1e-9);
  EXPECT_LT(length(between(m, twice, 0.25).moved(p) - (m.moved(p) * 0.75 + twice.moved(p) * 0.25)), 1e-9);
}

TEST(RoomWatch, SeesShiftTurnAndGrowth) {
  RoomWatch watch({kNobody});
  watch.look(seen({}));
  for (int k = 1; k <= 12; ++k) {
    const CameraMove truth = about({320, 180}, 0.004 * k, 1 + 0.006 * k, {2.5 * k, -1.5 * k});
    EXPECT_LT(furthest(watch.look(seen(truth)), truth), 0.5) << k;
  }
}

TEST(RoomWatch, TakesAMereShiftForNothingElse) {
  RoomWatch watch({kNobody});
  watch.look(seen({}));
  const CameraMove m = watch.look(seen({1, 0, {9.5, 4}}));
  EXPECT_EQ(m.along, 1);
  EXPECT_EQ(m.across, 0);
  EXPECT_NEAR(m.shift.x, 9.5, 0.2);
}

TEST(RoomWatch, GoesOnWhenTheFirstRoomHasGoneOutOfSight) {
  RoomWatch watch({kNobody});
  watch.look(seen({}));
  CameraMove last;
  for (int k = 1; k <= 60; ++k) last = watch.look(seen({1, 0, {-14.0 * k, 0}}));
  EXPECT_NEAR(last.shift.x, -840, 4) << "more than the picture is wide";
}

TEST(RoomWatch, DoesNotFollowTheLifter) {
  // Half the picture moves by itself.
  const RoomWatch::Lifter lifter{{320, 180}, 160, 180};
  RoomWatch watch({lifter});
  const auto withLifter = [](double away) {
    cv::Mat picture = seen({});
    cv::Mat other = seen({1, 0, {40 + away, 25}});
    other(cv::Rect(170, 0, 300, kHigh)).copyTo(picture(cv::Rect(170, 0, 300, kHigh)));
    return picture;
  };
  watch.look(withLifter(0));
  EXPECT_LT(furthest(watch.look(withLifter(15)), {}), 0.5);
}

TEST(RoomWatch, StaysWhereItWasWhenNothingIsMadeOut) {
  RoomWatch watch({kNobody});
  watch.look(seen({}));
  const CameraMove before = watch.look(seen({1, 0, {6, 0}}));
  const cv::Mat dark(kHigh, kWide, CV_8UC3, cv::Scalar(10, 10, 10));
  EXPECT_LT(furthest(watch.look(dark), before), 1e-12);
  EXPECT_LT(furthest(watch.look(seen({1, 0, {12, 0}})), {1, 0, {12, 0}}), 0.5) << "and finds the room again";
}

}  // namespace
}  // namespace jib::tracing
