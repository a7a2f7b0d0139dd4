// SPDX-License-Identifier: GPL-3.0-or-later
// A clip's picture set right by hand: turned, mirrored, stretched.
#include "core/footage/upright.h"

#include <gtest/gtest.h>

#include <fstream>

#include "core/footage/frame_reader.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

constexpr PictureSize kCame{96, 64};

void expectPoint(PixelPoint is, PixelPoint wanted) {
  EXPECT_NEAR(is.x, wanted.x, 1e-9);
  EXPECT_NEAR(is.y, wanted.y, 1e-9);
}

TEST(Upright, PointsGoWhereTheirPixelsGo) {
  const PixelPoint corner{10, 4};  // near the upper left
  expectPoint(carried(corner, {}, {90, false, 1}, kCame), {60, 10});
  expectPoint(carried(corner, {}, {180, false, 1}, kCame), {86, 60});
  expectPoint(carried(corner, {}, {270, false, 1}, kCame), {4, 86});
  expectPoint(carried(corner, {}, {0, true, 1}, kCame), {86, 4});
  expectPoint(carried(corner, {}, {90, true, 1}, kCame), {4, 10});
  expectPoint(carried(corner, {}, {0, false, 1.5}, kCame), {15, 4});
  EXPECT_EQ(sizeOf({90, true, 1.5}, kCame), (PictureSize{96, 96}));
}

TEST(Upright, FromAnyToAnyAndBackIsWhereItWas) {
  const Upright all[] = {{}, {90, false, 1}, {180, true, 0.75}, {270, true, 1.25}, {90, true, 2}, {0, true, 1}};
  for (const Upright& a : all)
    for (const Upright& b : all) expectPoint(carried(carried({31, 17}, a, b, kCame), b, a, kCame), {31, 17});
}

// A film with one bright corner, the upper left.
struct Cornered {
  tests::ScratchFolder folder;
  std::filesystem::path file = folder / "cornered.mp4";

  Cornered() {
    EXPECT_TRUE(
        tests::writeClip(file, {.width = 96, .height = 64, .rate_hz = 30, .quality = 10}, 3, [](cv::Mat& m, int) {
          m.setTo(cv::Scalar::all(40));
          m(cv::Rect(0, 0, 24, 16)).setTo(cv::Scalar::all(220));
        }));
  }
  cv::Mat first() const {
    auto reader = FrameReader::open(file);
    auto frame = reader->next(Pixels::Gray);
    EXPECT_TRUE(frame && *frame);
    return (*frame)->picture;
  }
};

TEST(Upright, WhoReadsTheClipSeesItSetRight) {
  const Cornered clip;
  ASSERT_TRUE(keepUpright(clip.file, {90, true, 1.5}));
  EXPECT_EQ(uprightOf(clip.file), (Upright{90, true, 1.5}));
  const auto info = FrameReader::open(clip.file)->info();
  EXPECT_EQ(info.as_it_came, kCame);
  EXPECT_EQ(info.width, 96);  // 64 * 1.5
  EXPECT_EQ(info.height, 96);
  const cv::Mat seen = clip.first();
  ASSERT_EQ(seen.size(), cv::Size(96, 96));
  // Turned by a quarter the bright corner is at the upper right; mirrored, at the upper left again.
  EXPECT_GT(seen.at<uchar>(12, 12), 180);
  EXPECT_LT(seen.at<uchar>(12, 84), 80);
  EXPECT_LT(seen.at<uchar>(84, 12), 80);

  ASSERT_TRUE(keepUpright(clip.file, {}));
  EXPECT_FALSE(std::filesystem::exists(uprightFile(clip.file))) << "as it came leaves nothing behind";
  EXPECT_EQ(clip.first().size(), cv::Size(96, 64));
}

TEST(Upright, WhatCannotBeIsAsItCame) {
  const Cornered clip;
  for (const char* damaged : {"", "{", "[]", "{\"turn_deg\": 45}", "{\"stretch\": 0}", "{\"stretch\": 1e9}"}) {
    std::ofstream(uprightFile(clip.file)) << damaged;
    EXPECT_TRUE(uprightOf(clip.file).looksAsItCame()) << damaged;
    EXPECT_EQ(clip.first().size(), cv::Size(96, 64)) << damaged;
  }
}

}  // namespace
}  // namespace jib::footage
