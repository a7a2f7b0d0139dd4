// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/clip_writer.h"

#include <gtest/gtest.h>

#include <opencv2/core.hpp>

#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

// A second of noise that drifts.
std::string noiseFilmed(const std::filesystem::path& file) {
  auto writer = tests::must(ClipWriter::create(file, {.width = 160, .height = 96, .repeatable = true}));
  cv::RNG random(7);
  cv::Mat picture(96, 160, CV_8UC3);
  for (int i = 0; i < 30; ++i) {
    random.fill(picture, cv::RNG::NORMAL, 60 + 3 * i, 25);
    tests::must(writer.add(picture, 1));
  }
  tests::must(writer.finish());
  return tests::bytesOf(file);
}

TEST(ClipWriter, ARepeatableFilmIsTheSameFileEachTime) {
  tests::ScratchFolder folder;
  const std::string first = noiseFilmed(folder / "a.mp4");
  EXPECT_GT(first.size(), 10000u);
  // The encoder must not look at memory that was used for something else before.
  std::vector<std::string> used(64, std::string(1 << 16, '\xa5'));
  used.clear();
  EXPECT_EQ(noiseFilmed(folder / "b.mp4"), first);
}

TEST(ClipWriter, LeavesNothingBehindWhenItIsDropped) {
  tests::ScratchFolder folder;
  {
    auto writer = tests::must(ClipWriter::create(folder / "c.mp4", {.width = 160, .height = 96}));
    tests::must(writer.add(cv::Mat(96, 160, CV_8UC3, cv::Scalar(9, 9, 9)), 3));
  }
  EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

}  // namespace
}  // namespace jib::footage
