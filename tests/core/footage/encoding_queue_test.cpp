// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/encoding_queue.h"

#include <gtest/gtest.h>

#include <array>

#include "core/footage/frame_reader.h"
#include "tests/core/must.h"
#include "tests/core/no_room.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

constexpr int kWidth = 160, kHeight = 96;

TEST(EncodingQueue, PicturesPaintedOverInTurnAreShownInTheirOrder) {
  tests::ScratchFolder folder;
  {
    EncodingQueue queue(tests::must(ClipWriter::create(folder / "a.mp4", {.width = kWidth, .height = kHeight})));
    std::array<cv::Mat, EncodingQueue::kInUse + 1> pictures;
    for (int i = 0; i < 40; ++i) {
      cv::Mat& picture = pictures[static_cast<std::size_t>(i) % pictures.size()];
      picture.create(kHeight, kWidth, CV_8UC3);
      picture.setTo(cv::Scalar::all(20 + 5 * i));
      tests::must(queue.add(picture, i == 10 ? 3 : 1));
    }
    tests::must(queue.finish());
  }
  auto reader = tests::must(FrameReader::open(folder / "a.mp4"));
  ASSERT_EQ(reader.info().frames(), 42u);
  for (int i = 0; i < 42; ++i) {
    const auto frame = tests::must(reader.next(Pixels::Colour));
    ASSERT_TRUE(frame);
    const int of = i <= 10 ? i : std::max(10, i - 2);
    EXPECT_NEAR(cv::mean(frame->picture)[1], 20 + 5 * of, 2.5) << "frame " << i;
  }
}

TEST(EncodingQueue, SaysThatTheDiskIsFullAndWaitsForNothingAfterwards) {
  tests::ScratchFolder folder;
  EncodingQueue queue(tests::must(ClipWriter::create(folder / "b.mp4", {.width = kWidth, .height = kHeight})));
  const tests::NoRoom no_room(1000);
  cv::RNG random(7);
  Result<bool> added = true;
  for (int i = 0; i < 600 && added; ++i) {
    cv::Mat noise(kHeight, kWidth, CV_8UC3);
    random.fill(noise, cv::RNG::UNIFORM, 0, 256);
    added = queue.add(noise);
  }
  ASSERT_FALSE(added);
  EXPECT_EQ(added.error().code, ErrorCode::CannotWrite);
  EXPECT_FALSE(queue.add(cv::Mat(kHeight, kWidth, CV_8UC3, cv::Scalar::all(9))));
  EXPECT_FALSE(queue.finish());
}

TEST(EncodingQueue, LeavesNothingBehindWhenItIsDropped) {
  tests::ScratchFolder folder;
  {
    EncodingQueue queue(tests::must(ClipWriter::create(folder / "c.mp4", {.width = kWidth, .height = kHeight})));
    for (int i = 0; i < 5; ++i) tests::must(queue.add(cv::Mat(kHeight, kWidth, CV_8UC3, cv::Scalar::all(9))));
  }
  EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

}  // namespace
}  // namespace jib::footage
