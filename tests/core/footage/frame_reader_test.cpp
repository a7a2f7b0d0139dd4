// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/frame_reader.h"

#include <gtest/gtest.h>

#include "core/footage/footage.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

using tests::levelOf;
using tests::meanLevel;
using tests::ScratchFolder;

constexpr double kLevel = 3;  // grey levels: what limited-range H.264 at this quality moves a flat picture by

// H.264's luma is 16..235.
double expectedColour(int frame) {
  return levelOf(frame);
}

struct CountingClip {
  ScratchFolder folder;
  std::filesystem::path file = folder / "count.mp4";
  explicit CountingClip(int frames = 75) { EXPECT_TRUE(tests::writeCountingClip(file, frames)); }
};

TEST(FrameReader, GivesEveryFrameOnceInOrderWithItsTime) {
  const CountingClip clip;
  auto reader = FrameReader::open(clip.file);
  ASSERT_TRUE(reader) << reader.error().what;
  ASSERT_EQ(reader->info().frames(), 75u);
  std::size_t expected = 0;
  for (;;) {
    auto frame = reader->next(Pixels::Colour);
    ASSERT_TRUE(frame);
    if (!*frame) break;
    EXPECT_EQ((*frame)->index, expected);
    EXPECT_NEAR((*frame)->t_s, static_cast<double>(expected) / 30, 1e-6);
    EXPECT_NEAR(meanLevel((*frame)->picture), expectedColour(static_cast<int>(expected)), kLevel) << expected;
    ++expected;
  }
  EXPECT_EQ(expected, 75u);
}

TEST(FrameReader, GoesOnAfterSeekingBackAndForth) {
  const CountingClip clip;
  auto reader = FrameReader::open(clip.file);
  ASSERT_TRUE(reader);
  for (std::size_t target : {50u, 3u, 74u, 31u}) {
    ASSERT_TRUE(reader->seekBefore(target));
    auto frame = reader->next(Pixels::Gray, target);
    ASSERT_TRUE(frame && *frame);
    EXPECT_EQ((*frame)->index, target);
  }
}

TEST(FrameReader, ReadsBackwardOverChunkBorders) {
  const CountingClip clip(110);  // more than two chunks of 48
  auto reader = FrameReader::open(clip.file);
  ASSERT_TRUE(reader);
  std::size_t expected = 105;
  ASSERT_TRUE(readBackward(*reader, 105, Pixels::Gray, [&](const Frame& f) {
    EXPECT_EQ(f.index, expected);
    return expected-- > 2;
  }));
  EXPECT_EQ(expected, 1u);
}

TEST(FrameReader, SaysThatAnEmptyFileIsEmpty) {
  const ScratchFolder folder;
  const auto reader = FrameReader::open(folder.write("empty.mp4", ""));
  ASSERT_FALSE(reader);
  EXPECT_EQ(reader.error().code, ErrorCode::ClipUnreadable);
  EXPECT_NE(reader.error().what.find("is empty"), std::string::npos);
}

TEST(FrameReader, SaysThatAMissingFileIsNotThere) {
  const ScratchFolder folder;
  EXPECT_NE(FrameReader::open(folder / "none.mp4").error().what.find("not there"), std::string::npos);
}

TEST(FrameReader, SaysThatTextIsNoFilm) {
  const ScratchFolder folder;
  const auto reader = FrameReader::open(folder.write("film.mp4", "this is only text, and not much of it"));
  ASSERT_FALSE(reader);
  EXPECT_NE(reader.error().what.find("not a clip"), std::string::npos);
}

TEST(FrameReader, SaysThatSoundAloneHasNoPicture) {
  const ScratchFolder folder;
  // A RIFF WAVE of 800 silent samples.
  std::string wav("RIFF\x64\x06\0\0WAVEfmt \x10\0\0\0\x01\0\x01\0\x40\x1f\0\0\x80\x3e\0\0\x02\0\x10\0data\x40\x06\0\0",
                  44);
  wav += std::string(1600, '\0');
  const auto reader = FrameReader::open(folder.write("voice.wav", wav));
  ASSERT_FALSE(reader);
  EXPECT_NE(reader.error().what.find("no picture"), std::string::npos);
}

TEST(FrameReader, SurvivesAClipCutAtAnyPlace) {
  const CountingClip clip;
  const std::string whole = tests::bytesOf(clip.file);
  for (int share : {1, 5, 20, 40, 60, 80, 95, 99}) {
    const auto file =
        clip.folder.write("cut.mp4", whole.substr(0, whole.size() * static_cast<std::size_t>(share) / 100));
    auto reader = FrameReader::open(file);
    if (!reader) {
      EXPECT_EQ(reader.error().code, ErrorCode::ClipUnreadable) << share;
      EXPECT_FALSE(reader.error().next.empty());
      continue;
    }
    std::size_t frames = 0;
    for (;;) {
      auto frame = reader->next(Pixels::Gray);
      if (!frame || !*frame) break;
      ++frames;
    }
    EXPECT_LE(frames, 75u) << share;
  }
}

TEST(FrameReader, SurvivesFlippedBytes) {
  const CountingClip clip(30);
  const std::string whole = tests::bytesOf(clip.file);
  unsigned state = 12345;  // fixed seed
  for (int round = 0; round < 25; ++round) {
    std::string damaged = whole;
    for (int k = 0; k < 20; ++k) {
      state = state * 1664525u + 1013904223u;
      damaged[state % damaged.size()] = static_cast<char>(state >> 16);
    }
    auto reader = FrameReader::open(clip.folder.write("damaged.mp4", damaged));
    std::size_t read = 0;
    while (reader && read < 200) {
      auto frame = reader->next(Pixels::Colour);
      if (!frame || !*frame) break;
      ++read;
    }
    EXPECT_LT(read, 200u) << "round " << round;
  }
}

TEST(FrameReader, UndoesRotation) {
  const CountingClip clip(5);
  const auto turned = clip.folder / "turned.mp4";
  if (!tests::run("ffmpeg -y -i " + clip.file.string() + " -c copy -metadata:s:v rotate=90 " + turned.string()))
    GTEST_SKIP() << "this ffmpeg does not write a rotation";
  auto reader = FrameReader::open(turned);
  ASSERT_TRUE(reader);
  EXPECT_EQ(reader->info().width, 64);
  EXPECT_EQ(reader->info().height, 96);
  auto frame = reader->next(Pixels::Gray);
  ASSERT_TRUE(frame && *frame);
  EXPECT_EQ((*frame)->picture.cols, 64);
  EXPECT_EQ((*frame)->picture.rows, 96);
}

TEST(FrameReader, MakesPixelsSquare) {
  const CountingClip clip(5);
  const auto wide = clip.folder / "wide.mp4";
  ASSERT_TRUE(tests::run("ffmpeg -y -i " + clip.file.string() + " -vf setsar=4/3 " + wide.string()));
  auto reader = FrameReader::open(wide);
  ASSERT_TRUE(reader);
  EXPECT_EQ(reader->info().width, 128);  // 96 * 4 / 3
  EXPECT_EQ(reader->info().height, 64);
}

TEST(FrameReader, KeepsUnevenTimes) {
  const CountingClip clip(20);
  const auto uneven = clip.folder / "uneven.mkv";
  // Frames at n^2 * 10 ms.
  ASSERT_TRUE(tests::run("ffmpeg -y -i " + clip.file.string() +
                         " -vf \"settb=1/1000,setpts=N*N*10\" -vsync passthrough -enc_time_base 1/1000 " +
                         uneven.string()));
  auto reader = FrameReader::open(uneven);
  ASSERT_TRUE(reader);
  ASSERT_EQ(reader->info().frames(), 20u);
  EXPECT_TRUE(reader->info().variable_rate);
  for (std::size_t i : {1u, 7u, 19u}) EXPECT_NEAR(reader->info().times_s[i], static_cast<double>(i * i) * 0.01, 0.0011);
}

TEST(Footage, GivesTheSameFrameHoweverItIsReached) {
  const CountingClip clip;
  auto footage = Footage::open(clip.file);
  ASSERT_TRUE(footage);
  for (std::size_t i : {0u, 40u, 39u, 38u, 5u, 74u, 73u, 40u}) {
    auto frame = footage->frame(i);
    ASSERT_TRUE(frame) << frame.error().what;
    EXPECT_EQ(frame->index, i);
    EXPECT_NEAR(meanLevel(frame->picture), expectedColour(static_cast<int>(i)), kLevel) << i;
  }
}

TEST(Footage, KeepsToItsBudget) {
  const CountingClip clip;
  // Room for four frames only: everything still comes out right.
  auto footage = Footage::open(clip.file, 1);
  ASSERT_TRUE(footage);
  for (std::size_t i = 74; i > 60; --i) EXPECT_EQ(footage->frame(i)->index, i);
}

TEST(ClipInfo, FindsTheNearestFrame) {
  ClipInfo info;
  info.times_s = {0.0, 0.1, 0.2, 0.5};
  EXPECT_EQ(info.nearestFrame(-1), 0u);
  EXPECT_EQ(info.nearestFrame(0.14), 1u);
  EXPECT_EQ(info.nearestFrame(0.36), 3u);
  EXPECT_EQ(info.nearestFrame(9), 3u);
}

TEST(ClipWriter, LeavesNothingBehindWhenDropped) {
  const ScratchFolder folder;
  {
    auto writer = ClipWriter::create(folder / "half.mp4", {.width = 64, .height = 64});
    ASSERT_TRUE(writer);
    ASSERT_TRUE(writer->add(cv::Mat(64, 64, CV_8UC3, cv::Scalar(1, 2, 3))));
  }
  EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

TEST(ClipWriter, CutsOddSizesToEvenOnes) {
  const ScratchFolder folder;
  ASSERT_TRUE(tests::writeCountingClip(folder / "odd.mp4", 3, 97, 65));
  auto reader = FrameReader::open(folder / "odd.mp4");
  ASSERT_TRUE(reader);
  EXPECT_EQ(reader->info().width, 96);
  EXPECT_EQ(reader->info().height, 64);
}

TEST(ClipWriter, NamesTheFolderItCannotWriteTo) {
  const auto writer = ClipWriter::create("/no/such/folder/clip.mp4", {.width = 64, .height = 64});
  ASSERT_FALSE(writer);
  EXPECT_EQ(writer.error().code, ErrorCode::CannotWrite);
}

}  // namespace
}  // namespace jib::footage
