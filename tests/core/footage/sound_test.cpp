// SPDX-License-Identifier: GPL-3.0-or-later
// Sound in and out of files: its length, its loudness, where a click stands, and a film that has to be lighter.
#include "core/footage/sound.h"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>

#include "core/footage/clip_writer.h"
#include "core/footage/fit.h"
#include "core/footage/frame_reader.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

using tests::must;

constexpr double kPi = 3.14159265358979;

// A 16-bit WAV with `channels` alike, of what `at` gives for a second.
std::filesystem::path wav(const tests::ScratchFolder& folder, const char* name, double length_s, int rate, int channels,
                          const std::function<double(double)>& at) {
  const auto file = folder / name;
  const auto samples = static_cast<uint32_t>(length_s * rate);
  std::ofstream out(file, std::ios::binary);
  const auto put = [&](auto v) { out.write(reinterpret_cast<const char*>(&v), sizeof v); };
  const uint32_t bytes = samples * 2 * static_cast<uint32_t>(channels);
  out << "RIFF";
  put(uint32_t(36 + bytes));
  out << "WAVEfmt ";
  put(uint32_t(16));
  put(uint16_t(1));
  put(uint16_t(channels));
  put(uint32_t(rate));
  put(uint32_t(rate * 2 * channels));
  put(uint16_t(2 * channels));
  put(uint16_t(16));
  out << "data";
  put(bytes);
  for (uint32_t i = 0; i < samples; ++i)
    for (int c = 0; c < channels; ++c)
      put(static_cast<int16_t>(std::lround(32000 * at(static_cast<double>(i) / rate))));
  return file;
}

double hum(double t) {
  return 0.1 * std::sin(2 * kPi * 300 * t);
}

TEST(Sound, IsReadAtOneRateWhateverItsFileHas) {
  const tests::ScratchFolder folder;
  for (const auto& [rate, channels] : {std::pair(48000, 1), std::pair(44100, 2), std::pair(8000, 1)}) {
    const Sound sound = must(readSound(wav(folder, "a.wav", 2.5, rate, channels, hum)));
    EXPECT_NEAR(sound.length_s(), 2.5, 0.01) << rate;
    double sum = 0;
    for (const float v : sound.samples) sum += static_cast<double>(v) * v;
    EXPECT_NEAR(std::sqrt(sum / static_cast<double>(sound.samples.size())), 0.0977 / std::sqrt(2.0), 0.004) << rate;
  }
}

TEST(Sound, WhatHoldsNoneIsSaid) {
  const tests::ScratchFolder folder;
  for (const auto& file : {folder.write("a.wav", "RIFF"), folder.write("b.txt", "no sound"), folder / "gone.wav",
                           std::filesystem::path(JIB_MADE_CLIP)}) {
    const auto sound = readSound(file);
    ASSERT_FALSE(sound) << file;
    EXPECT_EQ(sound.error().code, ErrorCode::ClipUnreadable);
  }
}

TEST(Sound, QuietAndLoudSpeechComeOutAlike) {
  const tests::ScratchFolder folder;
  for (const double gain : {0.02, 0.2, 2.0}) {
    const Sound sound = must(readSound(wav(folder, "a.wav", 4, 48000, 1, [&](double t) { return gain * hum(t); })));
    EXPECT_NEAR(loudness(evened(sound)), kSpeech_lufs, 0.2) << gain;
  }
  Sound silent;
  silent.lengthenTo(2);
  EXPECT_EQ(evened(silent).samples, silent.samples);
  // A knock on the desk is no reason to clip it.
  const Sound knock = evened(must(readSound(wav(folder, "b.wav", 4, 48000, 1, [](double t) {
    return t > 2 && t < 2.002 ? 1.0 : 0.01 * std::sin(2 * kPi * 300 * t);
  }))));
  EXPECT_LE(*std::max_element(knock.samples.begin(), knock.samples.end()), kPeak + 1e-4);
}

// A film of a grey room that flashes once, with a sound that clicks once.
std::filesystem::path flashed(const tests::ScratchFolder& folder, double flash_s, double click_s, double length_s) {
  auto sound = std::make_shared<Sound>();
  sound->lengthenTo(length_s);
  for (int i = 0; i < 240; ++i) sound->samples[static_cast<std::size_t>(click_s * Sound::kRate_hz) + i] = 0.8F;
  ClipFormat format{.width = 320, .height = 240, .rate_hz = 30};
  format.sound = sound;
  const auto file = folder / "flash.mp4";
  auto writer = must(ClipWriter::create(file, format));
  const auto frames = static_cast<int>(std::lround(length_s * 30));
  for (int i = 0; i < frames; ++i) {
    if (i == 0) writer.beginChapter("What is good");
    if (i == frames / 2) writer.beginChapter("Cue 1");
    const bool flash = i == static_cast<int>(std::lround(flash_s * 30));
    cv::Mat picture(240, 320, CV_8UC3, cv::Scalar::all(flash ? 250 : 60));
    EXPECT_TRUE(writer.add(picture));
  }
  EXPECT_TRUE(writer.finish());
  return file;
}

struct Seen {
  double flash_s = -1, click_s = -1;
};
Seen lookAndListen(const std::filesystem::path& file) {
  Seen seen;
  auto reader = must(FrameReader::open(file));
  for (;;) {
    auto next = must(reader.next(Pixels::Colour));
    if (!next) break;
    if (seen.flash_s < 0 && cv::mean(next->picture)[0] > 150) seen.flash_s = next->t_s;
  }
  const Sound sound = must(readSound(file));
  for (std::size_t i = 0; i < sound.samples.size() && seen.click_s < 0; ++i)
    if (sound.samples[i] > 0.3F) seen.click_s = static_cast<double>(i) / Sound::kRate_hz;
  return seen;
}

TEST(ClipWriter, PictureAndSoundAreTogetherFromFirstToLastMinute) {
  const tests::ScratchFolder folder;
  for (const double at : {0.5, 70.0}) {
    const Seen seen = lookAndListen(flashed(folder, at, at, 72));
    EXPECT_NEAR(seen.flash_s, at, 0.02);
    EXPECT_NEAR(seen.click_s, at, 0.03);
  }
}

TEST(FitFilm, AFilmIsMadeLighterAndKeepsSoundAndChapters) {
  const tests::ScratchFolder folder;
  const auto file = folder / "heavy.mp4";
  auto sound = std::make_shared<Sound>();
  sound->lengthenTo(6);
  for (std::size_t i = 0; i < sound->samples.size(); ++i)
    sound->samples[i] = static_cast<float>(hum(static_cast<double>(i) / Sound::kRate_hz));
  ClipFormat format{.width = 640, .height = 480, .rate_hz = 30, .quality = 18};
  format.sound = sound;
  auto writer = must(ClipWriter::create(file, format));
  cv::RNG random(7);
  cv::Mat picture(480, 640, CV_8UC3);
  for (int i = 0; i < 180; ++i) {
    if (i == 90) writer.beginChapter("Cue 1");
    random.fill(picture, cv::RNG::UNIFORM, 0, 255);  // nothing is harder to squeeze
    ASSERT_TRUE(writer.add(picture));
  }
  ASSERT_TRUE(writer.finish());
  ASSERT_GT(std::filesystem::file_size(file), 3'000'000u);
  Task task;
  EXPECT_TRUE(must(fitFilm(file, 800'000, task)));
  EXPECT_LE(std::filesystem::file_size(file), 800'000u);
  auto reader = must(FrameReader::open(file));
  EXPECT_NEAR(reader.info().duration_s(), 6, 0.1);
  EXPECT_NEAR(must(readSound(file)).length_s(), 6, 0.1);
  EXPECT_FALSE(must(fitFilm(file, 5'000, task))) << "nobody could watch that";
  EXPECT_LT(std::filesystem::file_size(file), 400'000u) << "the lightest there is, all the same";
  std::vector<std::string> left;
  for (const auto& entry : std::filesystem::directory_iterator(folder.path())) left.push_back(entry.path().filename());
  EXPECT_EQ(left, std::vector<std::string>{"heavy.mp4"});
}

}  // namespace
}  // namespace jib::footage
