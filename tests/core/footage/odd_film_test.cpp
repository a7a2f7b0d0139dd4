// SPDX-License-Identifier: GPL-3.0-or-later
// Films as strangers make them: every width and format, sizes that change, clocks that jump, files that were cut off.
#include <gtest/gtest.h>

#include "core/footage/frame_reader.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

using tests::ScratchFolder;

std::string quoted(const std::filesystem::path& file) {
  return "'" + file.string() + "'";
}

std::filesystem::path made(const ScratchFolder& folder, const std::string& name, const std::string& arguments) {
  const auto file = folder / name;
  if (!tests::run("ffmpeg -y -v error " + arguments + " " + quoted(file))) return {};
  return file;
}

// The scaler writes whole vectors: motion JPEG 426 or 358 pixels wide wrote past the end of the picture. Run with the
// address sanitizer this fails at the first byte too many; without it the heap shows it sooner or later.
TEST(OddFilm, EveryWidthOfEveryFormatIsReadWithoutWritingPastThePicture) {
  ScratchFolder folder;
  for (const char* format :
       {"mjpeg -pix_fmt yuvj420p", "mjpeg -pix_fmt yuvj422p", "mjpeg -pix_fmt yuvj444p", "ffv1 -pix_fmt yuv420p10le",
        "ffv1 -pix_fmt gray", "ffv1 -pix_fmt bgr0", "png -pix_fmt rgb24"})
    for (const int width : {16, 358, 426}) {
      const auto film =
          made(folder, "odd.mkv", "-f lavfi -i testsrc2=s=" + std::to_string(width) + "x240:r=10:d=0.3 -c:v " + format);
      if (width == 16) continue;  // 15 to 1: refused, below
      ASSERT_FALSE(film.empty()) << format;
      auto reader = FrameReader::open(film);
      ASSERT_TRUE(reader) << format << ": " << reader.error().sentence();
      for (const Pixels pixels : {Pixels::Gray, Pixels::Colour}) {
        ASSERT_TRUE(reader->seekBefore(0));
        int frames = 0;
        while (true) {
          auto frame = reader->next(pixels);
          ASSERT_TRUE(frame);
          if (!*frame) break;
          EXPECT_EQ((*frame)->picture.cols, width);
          EXPECT_EQ((*frame)->picture.rows, 240);
          ++frames;
        }
        EXPECT_EQ(frames, 3) << format << ' ' << width;
      }
    }
}

TEST(OddFilm, OfASizeThatChangesMidwayGivesTheSizeItTold) {
  ScratchFolder folder;
  const auto large = made(folder, "large.ts", "-f lavfi -i testsrc2=s=320x240:r=10:d=0.5 -c:v mpeg2video -bf 0"),
             small = made(folder, "small.ts", "-f lavfi -i testsrc2=s=160x120:r=10:d=0.5 -c:v mpeg2video -bf 0");
  ASSERT_FALSE(large.empty() || small.empty());
  folder.write("both.ts", tests::bytesOf(large) + tests::bytesOf(small));
  auto reader = FrameReader::open(folder / "both.ts");
  ASSERT_TRUE(reader);
  int frames = 0;
  for (auto frame = reader->next(Pixels::Gray); frame && *frame; frame = reader->next(Pixels::Gray)) {
    EXPECT_EQ((*frame)->picture.cols, reader->info().width) << "frame " << frames;
    EXPECT_EQ((*frame)->picture.rows, reader->info().height);
    ++frames;
  }
  EXPECT_GE(frames, 5);
}

TEST(OddFilm, WhoseClockJumpsIsRefusedWithAReason) {
  ScratchFolder folder;
  const auto film = made(
      folder, "gap.mkv",
      "-f lavfi -i testsrc2=s=64x48:r=10:d=2 -c:v ffv1 -bsf:v 'setts=ts=TS+if(gte(N\\,10)\\,9000000/TB/1000\\,0)'");
  if (film.empty()) GTEST_SKIP() << "this ffmpeg has no setts filter";
  const auto reader = FrameReader::open(film);
  ASSERT_FALSE(reader);
  EXPECT_EQ(reader.error().code, ErrorCode::ClipUnreadable);
  EXPECT_NE(reader.error().what.find("clock jumps"), std::string::npos) << reader.error().what;
}

TEST(OddFilm, ThatIsAStripIsRefused) {
  ScratchFolder folder;
  const auto film = made(folder, "strip.mkv", "-f lavfi -i testsrc2=s=1600x16:r=5:d=1 -c:v ffv1");
  ASSERT_FALSE(film.empty());
  const auto reader = FrameReader::open(film);
  ASSERT_FALSE(reader);
  EXPECT_NE(reader.error().what.find("strip"), std::string::npos) << reader.error().what;
}

TEST(OddFilm, ThatBeginsBeforeZeroCanBeReadFromTheMiddle) {
  ScratchFolder folder;
  const auto film = made(folder, "early.mkv",
                         "-f lavfi -i testsrc2=s=64x48:r=10:d=2 -c:v libx264 -g 5 -bf 0 -output_ts_offset -3 "
                         "-avoid_negative_ts disabled");
  ASSERT_FALSE(film.empty());
  auto reader = FrameReader::open(film);
  ASSERT_TRUE(reader) << reader.error().sentence();
  for (const std::size_t at : {15u, 3u, 0u}) {
    ASSERT_TRUE(reader->seekBefore(at)) << at;
    auto frame = reader->next(Pixels::Gray, at);
    ASSERT_TRUE(frame && *frame) << at;
    EXPECT_EQ((*frame)->index, at);
  }
}

TEST(OddFilm, WhoseEndIsMissingSaysSo) {
  ScratchFolder folder;
  const auto film =
      made(folder, "whole.mp4", "-f lavfi -i testsrc2=s=320x240:r=10:d=3 -c:v libx264 -movflags +faststart");
  ASSERT_FALSE(film.empty());
  EXPECT_FALSE(FrameReader::open(film)->info().cut_off);
  const std::string bytes = tests::bytesOf(film);
  const auto half = FrameReader::open(folder.write("half.mp4", bytes.substr(0, bytes.size() / 2)));
  ASSERT_TRUE(half);
  EXPECT_TRUE(half->info().cut_off);
}

}  // namespace
}  // namespace jib::footage
