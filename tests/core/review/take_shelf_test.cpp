// SPDX-License-Identifier: GPL-3.0-or-later
// What was said over a clip: kept in order, taken back, and found again after the program was killed in the middle.
#include "core/review/take_shelf.h"

#include <gtest/gtest.h>

#include "core/footage/sound.h"
#include "core/footage/wav_writer.h"
#include "tests/core/must.h"
#include "tests/core/no_room.h"
#include "tests/core/scratch_folder.h"

namespace jib::review {
namespace {

using tests::must;

// A recording of a constant, that is not finished.
std::filesystem::path begun(TakeShelf& shelf, const std::string& chapter, double length_s) {
  const auto file = must(shelf.nextSound());
  auto wav = must(footage::WavWriter::create(file));
  must(TakeShelf::begin(file, chapter));
  must(TakeShelf::note(file, {0, 1.5, 0.25}));
  must(TakeShelf::note(file, {0.4, 2.5, 0}));
  const std::vector<std::int16_t> samples(static_cast<std::size_t>(length_s * footage::WavWriter::kRate_hz), 8000);
  must(wav.add(samples));
  return file;
}

Take finished(TakeShelf& shelf, const std::string& chapter) {
  const auto file = begun(shelf, chapter, 0.5);
  must(footage::mendWav(file));
  return {file, chapter, 0, {{0, 1.5, 0.25}}};
}

TEST(TakeShelf, KeepsTakesInTheOrderOfTheirChaptersAndReadsThemBack) {
  const tests::ScratchFolder folder;
  const std::vector<std::string> chapters{"what is good", "cue 1", "what next"};
  TakeShelf shelf(folder / "takes");
  must(shelf.open());
  EXPECT_TRUE(shelf.takes().empty());
  for (const char* chapter : {"what next", "what is good", "cue 1"})
    must(shelf.set(withTake(shelf.takes(), finished(shelf, chapter), chapters)));
  TakeShelf again(folder / "takes");
  must(again.open());
  ASSERT_EQ(again.takes().size(), 3u);
  for (std::size_t i = 0; i < 3; ++i) EXPECT_EQ(again.takes()[i].chapter, chapters[i]);
  EXPECT_EQ(again.takes(), shelf.takes());
}

TEST(TakeShelf, ATakeThatIsSaidAgainReplacesItsOwnAndCanBeTakenBack) {
  const tests::ScratchFolder folder;
  TakeShelf shelf(folder / "takes");
  const Take first = finished(shelf, "cue 1");
  must(shelf.set({first}));
  const auto before = shelf.takes();
  const Take second = finished(shelf, "cue 1");
  EXPECT_NE(first.file, second.file);
  must(shelf.set(withTake(before, second, {"cue 1"})));
  ASSERT_EQ(shelf.takes().size(), 1u);
  EXPECT_EQ(shelf.takes().front().file, second.file);
  must(shelf.set(before));
  EXPECT_TRUE(std::filesystem::exists(shelf.takes().front().file)) << "the sound is still there";
  must(shelf.open());
  EXPECT_FALSE(std::filesystem::exists(second.file)) << "until the folder is opened the next time";
}

TEST(TakeShelf, WhatWasBeingRecordedWhenTheProgramWasKilledIsATake) {
  const tests::ScratchFolder folder;
  TakeShelf shelf(folder / "takes");
  must(shelf.set({finished(shelf, "what is good")}));
  begun(shelf, "cue 1", 0.7);
  TakeShelf again(folder / "takes");
  must(again.open());
  ASSERT_NE(again.of("cue 1"), nullptr);
  EXPECT_NEAR(must(footage::readSound(again.of("cue 1")->file)).length_s(), 0.7, 0.01);
  ASSERT_EQ(again.of("cue 1")->plays.size(), 2u);
  EXPECT_EQ(again.of("cue 1")->plays[1].clip_t, 2.5);
  EXPECT_EQ(again.of("what is good")->plays.size(), 1u);
}

TEST(TakeShelf, AChapterThatIsThereIsNotReplacedByHalfOfAnother) {
  const tests::ScratchFolder folder;
  TakeShelf shelf(folder / "takes");
  const Take whole = finished(shelf, "cue 1");
  must(shelf.set({whole}));
  const auto half = begun(shelf, "cue 1", 0.1);
  TakeShelf again(folder / "takes");
  must(again.open());
  ASSERT_EQ(again.takes().size(), 1u);
  EXPECT_EQ(again.takes().front().file, whole.file);
  EXPECT_FALSE(std::filesystem::exists(half));
}

TEST(TakeShelf, AFullDiskKeepsTheListAsItWas) {
  const tests::ScratchFolder folder;
  TakeShelf shelf(folder / "takes");
  const Take take = finished(shelf, "cue 1");
  must(shelf.set({take}));
  {
    const tests::NoRoom none(16);
    ASSERT_FALSE(shelf.set({take, take}));
  }
  EXPECT_EQ(shelf.takes().size(), 1u);
  TakeShelf again(folder / "takes");
  must(again.open());
  EXPECT_EQ(again.takes().size(), 1u);
}

TEST(TakeShelf, AListThatIsDamagedIsSaidAndStays) {
  const tests::ScratchFolder folder;
  TakeShelf shelf(folder / "takes");
  must(shelf.set({finished(shelf, "cue 1")}));
  must(writeWhole(FileSystem::real(), folder / "takes" / "takes.json", R"({"takes": [{"file": 7}]})"));
  TakeShelf again(folder / "takes");
  ASSERT_FALSE(again.open());
  EXPECT_TRUE(std::filesystem::exists(shelf.takes().front().file)) << "no sound is lost for it";
}

TEST(MendWav, RefusesWhatIsNoRecording) {
  const tests::ScratchFolder folder;
  must(writeWhole(FileSystem::real(), folder / "a.wav", "RIFF"));
  must(writeWhole(FileSystem::real(), folder / "b.wav", std::string(60, 'x')));
  for (const char* name : {"a.wav", "b.wav", "none.wav"}) EXPECT_FALSE(footage::mendWav(folder / name)) << name;
}

}  // namespace
}  // namespace jib::review
