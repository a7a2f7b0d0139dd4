// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/rim_track.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

// A dark plate with bright marks before a wall whose lower half is as dark as the plate; it goes down until no more
// than a sixth of its rim shows against the bright half, stays there, and comes up again.
struct DarkRoom {
  static constexpr double kRadius = 60;
  bool marks = true;

  PixelPoint centre(int frame) const {
    const double down = frame < 40    ? 0
                        : frame < 80  ? (1 - std::cos(kPi * (frame - 40) / 40)) / 2
                        : frame < 140 ? 1
                        : frame < 180 ? (1 + std::cos(kPi * (frame - 140) / 40)) / 2
                                      : 0;
    return {200.3, 120.6 + 150 * down};
  }
  cv::Mat picture(int frame) const {
    cv::Mat gray(440, 400, CV_8U, cv::Scalar(24));
    gray.rowRange(0, 230) = cv::Scalar(120);
    const PixelPoint c = centre(frame);
    const auto at = [](PixelPoint p) {
      return cv::Point(static_cast<int>(std::lround(16 * (p.x - 0.5))),
                       static_cast<int>(std::lround(16 * (p.y - 0.5))));
    };
    cv::circle(gray, at(c), static_cast<int>(16 * kRadius), 22, cv::FILLED, cv::LINE_AA, 4);
    for (int k = 0; marks && k < 5; ++k) {
      const PixelPoint p = c + rotated({0.45 * kRadius, 0}, k * 1.1);
      cv::circle(gray, at(p), 16 * 6, 150, cv::FILLED, cv::LINE_AA, 4);
    }
    return gray;
  }
  RimTrack begun() const {
    const cv::Mat first = picture(0);
    return RimTrack(0, first, *fitRim(first, centre(0), {kRadius, 0, 0}, {.shape_free = true}));
  }
};

TEST(RimTrack, APlateAsDarkAsItsBackgroundIsFollowedByItsFace) {
  const DarkRoom room;
  RimTrack track = room.begun();
  for (int frame = 1; frame < 200; ++frame) {
    ASSERT_TRUE(track.follow(static_cast<std::size_t>(frame), room.picture(frame))) << frame;
    EXPECT_LT(length(track.last().centre - room.centre(frame)), 2) << frame;
  }
  EXPECT_GT(track.recentlySeen(), 0.5) << "and is not given up";
}

TEST(RimTrack, WithoutAnythingOnItsFaceItIsLostThere) {
  const DarkRoom room{.marks = false};
  RimTrack track = room.begun();
  int lost = 0;
  for (int frame = 1; frame < 140; ++frame)
    lost += track.follow(static_cast<std::size_t>(frame), room.picture(frame)) && track.recentlySeen() > 0.5 ? 0 : 1;
  EXPECT_GT(lost, 20);
}

}  // namespace
}  // namespace jib::tracing
