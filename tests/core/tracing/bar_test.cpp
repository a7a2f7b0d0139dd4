// SPDX-License-Identifier: GPL-3.0-or-later
// Plate finder, rim fit and bar tracer on drawn discs whose place is exactly known.
#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/bar/plate_finder.h"
#include "core/tracing/bar/rim_fit.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/scratch_folder.h"

namespace jib::tracing {
namespace {

using tests::drawDisc;
using tests::ScratchFolder;

cv::Mat greyWith(double cx, double cy, double rx, double ry) {
  cv::Mat m(360, 640, CV_8UC1, cv::Scalar(150));
  drawDisc(m, cx, cy, rx, ry, {40, 40, 40});
  return m;
}

void addNoise(cv::Mat& m, double sigma) {
  cv::Mat noise(m.size(), CV_16SC(m.channels()));
  cv::RNG random(7);
  random.fill(noise, cv::RNG::NORMAL, 0, sigma);
  cv::Mat sum;
  m.convertTo(sum, CV_16S);
  sum += noise;
  sum.convertTo(m, CV_8U);
}

TEST(PlateFinder, FindsADiscWithinThreePixels) {
  cv::Mat m = greyWith(300.3, 170.8, 50, 50);
  addNoise(m, 3);
  const auto found = findRoundThings(m);
  ASSERT_FALSE(found.empty());
  EXPECT_NEAR(found.front().centre.x, 300.3, 3);
  EXPECT_NEAR(found.front().centre.y, 170.8, 3);
  EXPECT_NEAR(found.front().radius_px, 50, 3);
}

// A plate seen from 30 and from 41 degrees off the side is no circle any more.
TEST(PlateFinder, FindsAPlateSeenAtAnAngle) {
  for (const double aspect : {0.87, 0.75}) {
    cv::Mat m = greyWith(300.3, 170.8, 50 * aspect, 50);
    addNoise(m, 3);
    const auto found = findRoundThings(m);
    ASSERT_FALSE(found.empty()) << aspect;
    EXPECT_NEAR(found.front().centre.x, 300.3, 3) << aspect;
    EXPECT_NEAR(found.front().centre.y, 170.8, 3) << aspect;
    EXPECT_NEAR(found.front().aspect, aspect, 0.01);
    EXPECT_NEAR(found.front().radius_px, 50 * (1 + aspect) / 2, 3) << aspect;
    EXPECT_GT(found.front().coverage, 0.8) << aspect;
  }
}

TEST(PlateFinder, FindsNothingRoundInABox) {
  cv::Mat m(360, 640, CV_8UC1, cv::Scalar(150));
  cv::rectangle(m, {200, 100}, {420, 260}, 40, -1);
  EXPECT_TRUE(findRoundThings(m).empty());
}

TEST(PlateFinder, KeepsToThePlaceClicked) {
  cv::Mat m = greyWith(150, 180, 45, 45);
  drawDisc(m, 480, 180, 45, 45, {40, 40, 40});
  const auto found = findRoundThings(m, PixelPoint{475, 190});
  ASSERT_FALSE(found.empty());
  for (const auto& thing : found) EXPECT_GT(thing.centre.x, 400);
}

TEST(RimFit, FindsTheCentreToATenthOfAPixel) {
  for (double shift : {0.0, 0.25, 0.5, 0.75}) {
    cv::Mat m = greyWith(300 + shift, 170 + shift, 48, 48);
    addNoise(m, 2);
    const auto fit = fitRim(m, {302, 168}, {48, 0, 0}, {});
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->centre.x, 300 + shift, 0.1);
    EXPECT_NEAR(fit->centre.y, 170 + shift, 0.1);
    EXPECT_NEAR(fit->shape.radius_px, 48, 0.3);
    EXPECT_GT(fit->inliers, 0.9);
  }
}

TEST(RimFit, LearnsHowFlatARimIs) {
  const cv::Mat m = greyWith(300, 170, 45, 50);  // yaw squeezes x: aspect 0.9
  const auto fit = fitRim(m, {301, 171}, {48, 0, 0}, {.window_rel = 0.2, .shape_free = true});
  ASSERT_TRUE(fit);
  EXPECT_NEAR(fit->shape.at(0), 45, 0.5);
  EXPECT_NEAR(fit->shape.at(kPi / 2), 50, 0.5);
}

TEST(RimFit, IsNotDrawnAsideByAnArmOverTheRim) {
  cv::Mat m = greyWith(300, 170, 48, 48);
  cv::rectangle(m, {335, 100}, {640, 175}, 90, -1);
  const auto fit = fitRim(m, {302, 171}, {48, 0, 0}, {});
  ASSERT_TRUE(fit);
  EXPECT_NEAR(fit->centre.x, 300, 0.25);
  EXPECT_NEAR(fit->centre.y, 170, 0.25);
}

TEST(RimFit, APlateWhoseMiddleIsBelowThePictureIsPlacedByWhatIsSeenOfIt) {
  for (const double below : {-20.0, 3.0, 12.0}) {
    cv::Mat m = greyWith(300, 360 + below, 48, 48);
    drawDisc(m, 300, 360 + below, 33, 33, {120, 120, 120});  // a ring within the rim, which the edge does not cut more
    const auto fit = fitRim(m, {302, 357 + below}, {48, 0, 0}, {});
    ASSERT_TRUE(fit) << below;
    EXPECT_NEAR(fit->centre.x, 300, 0.5) << below;
    EXPECT_NEAR(fit->centre.y, 360 + below, 0.7) << below;
  }
  const cv::Mat gone = greyWith(300, 400, 48, 48);
  EXPECT_FALSE(fitRim(gone, {300, 395}, {48, 0, 0}, {})) << "a sliver tells nothing";
}

TEST(RimFit, SaysNoOnNoise) {
  cv::Mat m(360, 640, CV_8UC1, cv::Scalar(128));
  addNoise(m, 4);  // a dark phone clip after compression
  const auto fit = fitRim(m, {300, 170}, {48, 0, 0}, {});
  EXPECT_TRUE(!fit || fit->inliers < 0.55);
}

// A plate on a vertical stroke: still, down and up as a cosine, still.
PixelPoint plateAt(int frame) {
  const double t = frame / 30.0;
  const double s = std::clamp((t - 0.7) / 2.0, 0.0, 1.0);
  return {310.0 + 0.5 * std::sin(3 * t), 120 + 60 * (1 - std::cos(2 * kPi * s)) / 2 * 2};
}

std::filesystem::path plateClip(const ScratchFolder& folder, bool moving) {
  const auto file = folder / "plate.mp4";
  EXPECT_TRUE(tests::writeClip(file, {.width = 640, .height = 360, .quality = 20}, 100, [&](cv::Mat& m, int i) {
    cv::rectangle(m, {60, 0}, {80, 360}, {60, 60, 60}, -1);
    drawDisc(m, 520, 250, 44, 44, {50, 50, 50});  // stored plate: the same size, but still
    const PixelPoint p = moving ? plateAt(i) : PixelPoint{310, 120};
    drawDisc(m, p.x, p.y, 44, 44, {30, 30, 30});
  }));
  return file;
}

TEST(BarTracer, FollowsTheMovingPlateNotTheStoredOne) {
  const ScratchFolder folder;
  auto reader = footage::FrameReader::open(plateClip(folder, true));
  ASSERT_TRUE(reader);
  Task task;
  const auto bar = BarTracer().run(*reader, task);
  ASSERT_TRUE(bar) << bar.error().what;
  ASSERT_EQ(bar->plate.size(), 100u);
  double squares = 0;
  for (int i = 0; i < 100; ++i) {
    ASSERT_TRUE(bar->plate[static_cast<std::size_t>(i)]) << "frame " << i;
    const PixelPoint miss = bar->plate[static_cast<std::size_t>(i)]->place - plateAt(i);
    squares += dot(miss, miss);
  }
  // 0.4 cm at 450 mm a rim of 44 px radius is 0.78 px.
  EXPECT_LT(std::sqrt(squares / 100), 0.4);
  EXPECT_NEAR(bar->rim.radius_px, 44, 0.6);
  EXPECT_GT(bar->rim.aspect, 0.985);
}

// A head is round, goes up and down with the bar and shows better than a dark plate before a dark wall; but nobody
// moves a plate by seven times its radius.
TEST(BarTracer, IsNotTheHeadThatGoesWithTheBar) {
  const ScratchFolder folder;
  const auto file = folder / "head.mp4";
  ASSERT_TRUE(tests::writeClip(file, {.width = 640, .height = 360, .quality = 20}, 100, [&](cv::Mat& m, int i) {
    cv::rectangle(m, {0, 0}, {295, 360}, {34, 34, 34}, -1);
    const PixelPoint p = plateAt(i);
    if (i > 20) drawDisc(m, p.x, p.y, 44, 44, {30, 30, 30});
    drawDisc(m, p.x + 40, p.y - 75, 18, 18, {70, 60, 50});
  }));
  auto reader = footage::FrameReader::open(file);
  ASSERT_TRUE(reader);
  Task task;
  const auto bar = BarTracer().run(*reader, task);
  ASSERT_TRUE(bar) << bar.error().what;
  EXPECT_NEAR(bar->rim.radius_px, 44, 1.5);
  ASSERT_TRUE(bar->plate[60]);
  EXPECT_LT(length(bar->plate[60]->place - plateAt(60)), 1.5);
}

TEST(BarTracer, LastPlacesOffTheLineOfTheOthersAreNotKept) {
  const ScratchFolder folder;
  const auto file = folder / "stray.mp4";
  const auto shown = [](int i) { return plateAt(i) + PixelPoint{i == 0 ? 11.0 : i == 1 ? 7.0 : 0.0, 0}; };
  ASSERT_TRUE(tests::writeClip(file, {.width = 640, .height = 360, .quality = 20}, 100, [&](cv::Mat& m, int i) {
    drawDisc(m, shown(i).x, shown(i).y, 44, 44, {30, 30, 30});
  }));
  auto reader = footage::FrameReader::open(file);
  ASSERT_TRUE(reader);
  Task task;
  const auto bar = BarTracer().run(*reader, task);
  ASSERT_TRUE(bar) << bar.error().what;
  EXPECT_FALSE(bar->plate[0]);
  EXPECT_FALSE(bar->plate[1]);
  ASSERT_TRUE(bar->plate[2]);
  EXPECT_LT(length(bar->plate[2]->place - plateAt(2)), 0.6);
  EXPECT_TRUE(bar->plate[99]);
}

// The ring is round; the rim of a thick plate seen from below is somewhat taller.
class DarkPlate : public testing::TestWithParam<double> {};

TEST_P(DarkPlate, IsTracedByItsRimAndNotByABrightRingOnIt) {
  const double wide = GetParam();
  const ScratchFolder folder;
  const auto file = folder / "ring.mp4";
  ASSERT_TRUE(tests::writeClip(file, {.width = 640, .height = 360, .quality = 20}, 100, [&](cv::Mat& m, int i) {
    cv::rectangle(m, {0, 0}, {290, 360}, {34, 34, 34}, -1);  // as dark as the plate: a third of the rim is not seen
    const PixelPoint p = plateAt(i);
    drawDisc(m, p.x, p.y, wide, 44, {30, 30, 30});
    drawDisc(m, p.x, p.y, 27, 27, {170, 170, 170});
    drawDisc(m, p.x, p.y, 24, 24, {30, 30, 30});
  }));
  PlacedFrame click;
  click.t_s = 50 / 30.0;
  click.points[at(Landmark::Bar)] = plateAt(50) + PixelPoint{3, -2};
  for (const BarOptions& options : {BarOptions{}, BarOptions{{click}}}) {
    auto reader = footage::FrameReader::open(file);
    ASSERT_TRUE(reader);
    Task task;
    const auto bar = BarTracer(options).run(*reader, task);
    ASSERT_TRUE(bar) << bar.error().what;
    EXPECT_NEAR(bar->rim.radius_px, 44, 1.2);
    for (int i : {5, 30, 50, 80}) {
      ASSERT_TRUE(bar->plate[static_cast<std::size_t>(i)]) << i;
      EXPECT_LT(length(bar->plate[static_cast<std::size_t>(i)]->place - plateAt(i)), 1.2) << i;
    }
  }
}

INSTANTIATE_TEST_SUITE_P(BarTracer, DarkPlate, testing::Values(44.0, 41.0));

TEST(BarTracer, SaysThatNothingMovesLikeABar) {
  const ScratchFolder folder;
  auto reader = footage::FrameReader::open(plateClip(folder, false));
  ASSERT_TRUE(reader);
  Task task;
  const auto bar = BarTracer().run(*reader, task);
  ASSERT_FALSE(bar);
  EXPECT_EQ(bar.error().code, ErrorCode::NoLiftFound);
  EXPECT_NE(bar.error().next.find("Click"), std::string::npos);
}

// Somebody further off lifts in the same picture, on the right: smaller, and seen less of the time.
TEST(BarTracer, TakesTheBarOfTheLifterWhoIsPointedAt) {
  const ScratchFolder folder;
  const auto file = folder / "two.mp4";
  const auto other = [](int i) { return PixelPoint{520, 150 + (plateAt(i).y - plateAt(0).y) * 0.6}; };
  ASSERT_TRUE(tests::writeClip(file, {.width = 640, .height = 360, .quality = 20}, 100, [&](cv::Mat& m, int i) {
    drawDisc(m, plateAt(i).x, plateAt(i).y, 44, 44, {30, 30, 30});
    drawDisc(m, other(i).x, other(i).y, 30, 30, {30, 30, 30});
  }));
  const auto traced = [&](std::optional<PointedAt> lifter) {
    auto reader = footage::FrameReader::open(file);
    Task task;
    return BarTracer({{}, {}, lifter}).run(*reader, task);
  };
  const auto off = [](const Result<BarTrace>& bar, PixelPoint at) { return length(bar->plate[50]->place - at); };
  const auto nobody = traced(std::nullopt), near = traced(PointedAt{0.5, plateAt(15) + PixelPoint{20, 90}}),
             far = traced(PointedAt{0.5, other(15) + PixelPoint{-25, 70}});
  ASSERT_TRUE(nobody && near && far);
  EXPECT_LT(off(nobody, plateAt(50)), 1) << "the larger one, where nobody says";
  EXPECT_LT(off(near, plateAt(50)), 1);
  EXPECT_LT(off(far, other(50)), 1);
  const auto none = traced(PointedAt{0.5, {10, 350}});
  ASSERT_FALSE(none);
  EXPECT_EQ(none.error().code, ErrorCode::NoLiftFound);
  EXPECT_NE(none.error().next.find("Point"), std::string::npos);
}

TEST(BarTracer, TracesBothWaysFromAClick) {
  const ScratchFolder folder;
  auto reader = footage::FrameReader::open(plateClip(folder, true));
  ASSERT_TRUE(reader);
  PlacedFrame click;
  click.t_s = 50 / 30.0;
  click.points[at(Landmark::Bar)] = plateAt(50) + PixelPoint{6, -5};
  Task task;
  const auto bar = BarTracer({{click}}).run(*reader, task);
  ASSERT_TRUE(bar) << bar.error().what;
  for (int i : {0, 20, 50, 80, 99}) {
    ASSERT_TRUE(bar->plate[static_cast<std::size_t>(i)]) << i;
    EXPECT_LT(length(bar->plate[static_cast<std::size_t>(i)]->place - plateAt(i)), 0.8) << i;
  }
}

TEST(BarTracer, FindsAPlateAgainHoweverOftenItWasLost) {
  // Twelve descents with the lens covered for a second between them: more tracks than are followed at a time.
  const ScratchFolder folder;
  const auto file = folder / "often.mp4";
  constexpr int kCycle = 60, kCovered = 22, kTimes = 12;
  const auto at_cycle = [](int i) {
    const double s = static_cast<double>(i % kCycle) / (kCycle - kCovered);
    return PixelPoint{160, 60 + 60 * (1 - std::cos(2 * kPi * std::min(1.0, s))) / 2};
  };
  ASSERT_TRUE(
      tests::writeClip(file, {.width = 320, .height = 180, .quality = 20}, kTimes * kCycle, [&](cv::Mat& m, int i) {
        if (i % kCycle >= kCycle - kCovered) return;
        drawDisc(m, at_cycle(i).x, at_cycle(i).y, 30, 30, {30, 30, 30});
      }));
  auto reader = footage::FrameReader::open(file);
  ASSERT_TRUE(reader);
  Task task;
  const auto bar = BarTracer().run(*reader, task);
  ASSERT_TRUE(bar) << bar.error().what;
  for (int k = 0; k < kTimes; ++k) {
    const int i = k * kCycle + 30;
    ASSERT_TRUE(bar->plate[static_cast<std::size_t>(i)]) << "descent " << k;
    EXPECT_LT(length(bar->plate[static_cast<std::size_t>(i)]->place - at_cycle(i)), 1.0) << k;
  }
}

TEST(BarTracer, StopsWhenAsked) {
  const ScratchFolder folder;
  auto reader = footage::FrameReader::open(plateClip(folder, true));
  ASSERT_TRUE(reader);
  Task task;
  task.cancel();
  EXPECT_EQ(BarTracer().run(*reader, task).error().code, ErrorCode::Cancelled);
}

}  // namespace
}  // namespace jib::tracing
