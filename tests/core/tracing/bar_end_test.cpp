// SPDX-License-Identifier: GPL-3.0-or-later
// The end of the bar on drawn plates: a lettered face, a collar and a sleeve towards the camera.
#include "core/tracing/bar/bar_end.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "tests/core/footage/made_clips.h"

namespace jib::tracing {
namespace {

using tests::drawDisc;

constexpr PixelPoint kMiddle{640, 360};
constexpr double kRadius = 90;

struct Bar {
  double ratio = 0.12;  // the end's lead
  PixelPoint vanishing{700, 330};
  unsigned char sleeve = 150, end = 170, face = 60;
  bool letters = true;
  std::optional<PixelPoint> likeness = {};  // where another thing, just as round and as sharp, would lead to
};

cv::Vec3b grey(unsigned char v) {
  return {v, v, v};
}

PixelPoint ahead(const Bar& bar, PixelPoint plate, double ratio) {
  return plate + (plate - bar.vanishing) * ratio;
}

cv::Mat picture(const Bar& bar, PixelPoint plate) {
  cv::Mat m(720, 1280, CV_8UC1, cv::Scalar(200));
  drawDisc(m, plate.x, plate.y, kRadius, kRadius, grey(bar.face));
  if (bar.letters)
    for (int k = 0; k < 6; ++k) {
      const double a = k * kPi / 3 + 0.4;
      const cv::Point2d at(plate.x + 0.56 * kRadius * std::cos(a), plate.y + 0.56 * kRadius * std::sin(a));
      cv::rectangle(m, at - cv::Point2d(11, 4), at + cv::Point2d(11, 4), 230, -1, cv::LINE_AA);
    }
  drawDisc(m, plate.x, plate.y, 0.21 * kRadius, 0.21 * kRadius, grey(25));
  const double r = kRadius * 50.0 / 450.0 * (1 + bar.ratio);
  const auto drawSleeve = [&](const Bar& b) {
    for (double k = 0; k < b.ratio; k += 0.002) {
      const PixelPoint p = ahead(b, plate, k);
      drawDisc(m, p.x, p.y, r, r, grey(b.sleeve));
    }
    const PixelPoint end = ahead(b, plate, b.ratio);
    drawDisc(m, end.x, end.y, r, r, grey(b.end));
  };
  drawSleeve(bar);
  if (bar.likeness) {
    Bar other = bar;
    other.vanishing = *bar.likeness;
    other.ratio = 1.5 * bar.ratio;
    drawSleeve(other);
  }
  cv::GaussianBlur(m, m, {3, 3}, 0.7);
  cv::Mat noise(m.size(), CV_8UC1), sum;
  cv::RNG random(static_cast<std::uint64_t>(1 + plate.y));
  random.fill(noise, cv::RNG::NORMAL, 8, 2.5);
  cv::add(m, noise, sum);
  return sum;
}

PixelPoint plateAt(int i) {
  return {600.0 + 4 * std::sin(0.2 * i), 300 + 110 * (1 - std::cos(2 * kPi * i / 60.0))};
}

std::vector<RimTrack::Seen> seen(const Bar& bar) {
  std::vector<RimTrack::Seen> all;
  for (int i = 0; i < 60; ++i) {
    RimFit fit;
    fit.centre = plateAt(i);
    fit.shape = {kRadius, 0, 0};
    fit.inliers = 1;
    all.push_back(RimTrack(static_cast<std::size_t>(i), picture(bar, plateAt(i)), fit).seen().front());
  }
  return all;
}

double missOf(const BarEndOffset& end, const Bar& bar) {
  double most = 0;
  for (int i = 0; i < 60; ++i) {
    const PixelPoint found = plateAt(i) + end.constant + (plateAt(i) - kMiddle) * end.ratio;
    most = std::max(most, length(found - ahead(bar, plateAt(i), bar.ratio)));
  }
  return most;
}

TEST(BarEnd, IsFoundAmongLettersAndNotTakenForTheCollar) {
  const Bar bar;
  const auto end = findBarEnd(seen(bar), kMiddle);
  ASSERT_TRUE(end);
  EXPECT_TRUE(end->is_end);
  EXPECT_NEAR(end->ratio, bar.ratio, 0.01);
  EXPECT_LT(missOf(*end, bar), 1.5) << "px; a radius of 90 px is 22.5 cm";
}

TEST(BarEnd, IsFoundBeforeThePlatesOwnRim) {
  // A long sleeve under a low camera well to the side: the end lies beyond the plate's rim.
  Bar bar;
  bar.ratio = 0.2;
  bar.vanishing = {460, 740};
  const auto end = findBarEnd(seen(bar), kMiddle);
  ASSERT_TRUE(end);
  ASSERT_GT(length(ahead(bar, plateAt(0), bar.ratio) - plateAt(0)), 0.95 * kRadius);
  EXPECT_TRUE(end->is_end);
  EXPECT_LT(missOf(*end, bar), 2.0);
}

TEST(BarEnd, SquareOnItLiesOverThePlate) {
  Bar bar;
  bar.vanishing = {600, 410};
  const auto end = findBarEnd(seen(bar), kMiddle);
  ASSERT_TRUE(end);
  EXPECT_LT(missOf(*end, bar), 1.0);
}

TEST(BarEnd, LiesWhereTheRoomSaysTheCameraLooks) {
  // The camera looks up (the end lies above the plate's middle), and the uprights say so; or they say it looks down,
  // and then whatever leads upward is no end.
  Bar bar;
  bar.vanishing = {700, 640};
  constexpr double kFocal = 0.83 * 1280, kSigma = 0.02 / kFocal;
  const double looks_up = -(640 - kMiddle.y) / (kFocal * kFocal);
  const auto end = findBarEnd(seen(bar), kMiddle, Convergence{looks_up, kSigma, {}, 0});
  ASSERT_TRUE(end);
  EXPECT_TRUE(end->is_end);
  EXPECT_LT(missOf(*end, bar), 1.5);
  const auto other = findBarEnd(seen(bar), kMiddle, Convergence{-looks_up, kSigma, {}, 0});
  EXPECT_FALSE(other && missOf(*other, bar) < 5) << "the room is believed";
}

TEST(BarEnd, OfTwoThingsAlikeNeitherIsNamed) {
  Bar bar;
  bar.letters = false;
  bar.vanishing = {860, 360};
  bar.likeness = PixelPoint{400, 360};
  EXPECT_FALSE(findBarEnd(seen(bar), kMiddle));
}

TEST(BarEnd, OfABareLetteredPlateIsNothing) {
  Bar bar;
  bar.ratio = 0;
  bar.end = bar.sleeve = 25;  // only the hub
  const auto end = findBarEnd(seen(bar), kMiddle);
  EXPECT_FALSE(end && end->is_end && end->ratio > 0.04) << end->ratio;
}

TEST(RimTrack, KeepsFewHubsOfALongTrack) {
  const Bar bar;
  RimFit fit;
  fit.centre = plateAt(0);
  fit.shape = {kRadius, 0, 0};
  fit.inliers = 1;
  const cv::Mat still = picture(bar, plateAt(0));
  RimTrack track(0, still, fit);
  for (std::size_t i = 1; i < 1500; ++i) ASSERT_TRUE(track.follow(i, still));
  const auto hubs =
      std::count_if(track.seen().begin(), track.seen().end(), [](const auto& s) { return !s.hub.empty(); });
  EXPECT_EQ(track.seen().size(), 1500u);
  EXPECT_LT(hubs, 700);
  EXPECT_GT(hubs, 200);
}

}  // namespace
}  // namespace jib::tracing
