// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/picture_area.h"

#include <gtest/gtest.h>

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include "core/footage/clip_writer.h"
#include "core/footage/shots.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

using tests::must;

// A room with a wall, a floor, shelves and somebody who moves, as six grey frames with a camera's noise.
std::vector<cv::Mat> room(cv::Size size, int wall = 150, int floor = 70) {
  std::vector<cv::Mat> all;
  cv::RNG noise(7);
  for (int k = 0; k < 6; ++k) {
    cv::Mat frame(size, CV_8UC1, cv::Scalar(wall));
    frame.rowRange(size.height * 3 / 4, size.height).setTo(floor);
    for (int shelf = 0; shelf < 5; ++shelf)
      cv::rectangle(frame, {size.width * shelf / 5 + 6, size.height / 6, size.width / 9, size.height / 4},
                    40 + 35 * shelf, cv::FILLED);
    cv::ellipse(frame, {size.width / 2, size.height / 2 + 5 * k}, {size.width / 9, size.height / 4}, 0, 0, 360, 25,
                cv::FILLED);
    cv::Mat grain(size, CV_16SC1);
    noise.fill(grain, cv::RNG::NORMAL, 0, 4);
    cv::add(frame, grain, frame, cv::noArray(), CV_8U);
    all.push_back(frame);
  }
  return all;
}

// `inside` in the middle of a canvas of one level.
std::vector<cv::Mat> onto(const std::vector<cv::Mat>& inside, cv::Size canvas, int level, cv::Point at) {
  std::vector<cv::Mat> all;
  for (const cv::Mat& frame : inside) {
    all.emplace_back(canvas, CV_8UC1, cv::Scalar(level));
    frame.copyTo(all.back()(cv::Rect(at, frame.size())));
  }
  return all;
}

// On a blurred, enlarged copy of itself, as apps fill a screen.
std::vector<cv::Mat> onBlur(const std::vector<cv::Mat>& inside, cv::Size canvas) {
  std::vector<cv::Mat> all;
  for (const cv::Mat& frame : inside) {
    const double scale = std::max(canvas.width / double(frame.cols), canvas.height / double(frame.rows));
    cv::Mat large, back;
    cv::resize(frame, large, {}, scale, scale);
    const cv::Rect middle((large.cols - canvas.width) / 2, (large.rows - canvas.height) / 2, canvas.width,
                          canvas.height);
    cv::GaussianBlur(large(middle), back, {}, 14);
    frame.copyTo(back(cv::Rect({(canvas.width - frame.cols) / 2, (canvas.height - frame.rows) / 2}, frame.size())));
    all.push_back(back);
  }
  return all;
}

void expectArea(const PictureArea& is, int x, int y, int width, int height) {
  EXPECT_NEAR(is.x, x, 2);
  EXPECT_NEAR(is.y, y, 2);
  EXPECT_NEAR(is.width, width, 3);
  EXPECT_NEAR(is.height, height, 3);
}

TEST(FilmedArea, BarsAreCutOff) {
  expectArea(filmedArea(onto(room({360, 202}), {360, 640}, 0, {0, 219})), 0, 219, 360, 202);
  expectArea(filmedArea(onto(room({202, 360}), {640, 360}, 0, {219, 0})), 219, 0, 202, 360);
  expectArea(filmedArea(onto(room({360, 202}), {360, 640}, 255, {0, 60})), 0, 60, 360, 202);
}

TEST(FilmedArea, ControlsAndWritingAreBorderToo) {
  auto screen = onto(room({360, 202}), {360, 640}, 16, {0, 219});
  for (std::size_t k = 0; k < screen.size(); ++k) {
    cv::rectangle(screen[k], {10, 8, 60, 12}, 255, cv::FILLED);
    cv::rectangle(screen[k], {20, 560, 320, 4}, 120, cv::FILLED);
    cv::circle(screen[k], {30 + 20 * static_cast<int>(k), 562}, 6, 255, cv::FILLED);
  }
  expectArea(filmedArea(screen), 0, 219, 360, 202);
}

TEST(FilmedArea, ABlurredCopyIsNoPicture) {
  expectArea(filmedArea(onBlur(room({360, 202}), {360, 640})), 0, 219, 360, 202);
  expectArea(filmedArea(onBlur(room({202, 360}), {640, 360})), 219, 0, 202, 360);
}

TEST(FilmedArea, BarsRoundABlurredCopyGoFirst) {
  const auto both = onto(onBlur(room({360, 202}), {360, 560}), {360, 640}, 0, {0, 40});
  expectArea(filmedArea(both), 0, 219, 360, 202);
}

TEST(FilmedArea, ARoomIsWholeWhateverItsColours) {
  EXPECT_TRUE(filmedArea(room({640, 360})).whole());
  EXPECT_TRUE(filmedArea(room({360, 640})).whole());
  EXPECT_TRUE(filmedArea(room({640, 360}, 12, 8)).whole()) << "a dark room";
  EXPECT_TRUE(filmedArea(room({640, 360}, 250, 250)).whole()) << "a white one";
  EXPECT_TRUE(filmedArea({cv::Mat(360, 640, CV_8UC1, cv::Scalar(0))}).whole()) << "nothing but black";
  EXPECT_TRUE(filmedArea(std::vector<cv::Mat>{}).whole());
}

// Black ceiling, lit wall, black floor: straight lines all over the picture, but somebody moves on that floor.
TEST(FilmedArea, ADarkFloorSomebodyMovesOnIsNoBorder) {
  auto frames = room({640, 360}, 140, 10);
  for (std::size_t k = 0; k < frames.size(); ++k) {
    frames[k].rowRange(0, 40).setTo(10);
    frames[k].rowRange(270, 360).setTo(10);
    cv::circle(frames[k], {300 + 3 * static_cast<int>(k), 290 - 4 * static_cast<int>(k)}, 40, 90, cv::FILLED);
  }
  EXPECT_TRUE(filmedArea(frames).whole());
}

TEST(FilmedArea, OfAFilmIsReadWithoutItsBorders) {
  const tests::ScratchFolder folder;
  const auto film = folder / "bars.mp4";
  ClipFormat format;
  format.width = 360;
  format.height = 640;
  ClipWriter writer = must(ClipWriter::create(film, format));
  const auto frames = onto(room({360, 202}), {360, 640}, 0, {0, 219});
  for (const cv::Mat& frame : frames) {
    cv::Mat colour;
    cv::cvtColor(frame, colour, cv::COLOR_GRAY2BGR);
    ASSERT_TRUE(writer.add(colour));
  }
  ASSERT_TRUE(writer.finish());
  Task task;
  FrameReader reader = must(openFilmed(film, task));
  EXPECT_NEAR(reader.info().height, 202, 3);
  EXPECT_EQ(reader.info().as_it_came, (PictureSize{360, 640}));
  const Frame first = *must(reader.next(Pixels::Gray));
  EXPECT_EQ(first.picture.rows, reader.info().height);
  double mean = cv::mean(first.picture.row(1))[0];
  EXPECT_GT(mean, 60) << "the wall, and no bar above it";
  // The same clip again is cut the same way; the file alone is whole.
  EXPECT_EQ(must(FrameReader::open(reader.info())).info().height, reader.info().height);
  EXPECT_EQ(must(FrameReader::open(film)).info().height, 640);
}

TEST(Upright, ACutGoesFirst) {
  const PictureSize came{360, 640};
  const Upright cut{.turn_deg = 90, .filmed = {0, 219, 360, 202}};
  EXPECT_EQ(sizeOf(cut, came), (PictureSize{202, 360}));
  const PixelPoint corner = carried({0, 219}, {}, cut, came);
  EXPECT_NEAR(corner.x, 202, 1e-9);
  EXPECT_NEAR(corner.y, 0, 1e-9);
  const PixelPoint back = carried(corner, cut, {}, came);
  EXPECT_NEAR(back.x, 0, 1e-9);
  EXPECT_NEAR(back.y, 219, 1e-9);
  EXPECT_EQ(sizeOf({.filmed = {0, 219, 360, 202}, .with_borders = true}, came), came);
}

}  // namespace
}  // namespace jib::footage
