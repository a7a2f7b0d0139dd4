// SPDX-License-Identifier: GPL-3.0-or-later
// A reply that is talked through: picture and sound together, a chapter a take, a second view in the corner, and as
// light as was asked for.
#include <gtest/gtest.h>

#include <fstream>
#include <opencv2/core.hpp>

#include "core/footage/clip_writer.h"
#include "core/footage/frame_reader.h"
#include "core/footage/sound.h"
#include "core/footage/wav_writer.h"
#include "drawing/film_parts.h"
#include "drawing/reply_writer.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"
#include "tests/drawing/one_cue.h"

namespace jib::drawing {
namespace {

using tests::must;
using tests::smallAnalysis;

// A voice that hums, and claps once.
std::filesystem::path spoken(const tests::ScratchFolder& folder, const char* name, double length_s, double clap_s) {
  const auto file = folder / name;
  constexpr uint32_t kRate = 16000;
  const auto samples = static_cast<uint32_t>(length_s * kRate);
  std::ofstream out(file, std::ios::binary);
  const auto put = [&](auto v) { out.write(reinterpret_cast<const char*>(&v), sizeof v); };
  out << "RIFF";
  put(uint32_t(36 + samples * 2));
  out << "WAVEfmt ";
  put(uint32_t(16));
  put(uint16_t(1));
  put(uint16_t(1));
  put(kRate);
  put(uint32_t(kRate * 2));
  put(uint16_t(2));
  put(uint16_t(16));
  out << "data";
  put(uint32_t(samples * 2));
  for (uint32_t i = 0; i < samples; ++i) {
    const double t = static_cast<double>(i) / kRate, since = t - clap_s;
    put(static_cast<int16_t>(since >= 0 && since < 0.01 ? 30000 : 600 * std::sin(2000 * t)));
  }
  return file;
}

// The same pictures, and a hum as long as they are.
std::filesystem::path withHum(const std::filesystem::path& clip, const tests::ScratchFolder& folder) {
  auto reader = must(footage::FrameReader::open(clip));
  footage::ClipFormat format;
  format.sound = [] {
    auto hum = std::make_shared<footage::Sound>();
    for (int i = 0; i < 10 * footage::Sound::kRate_hz; ++i)
      hum->samples.push_back(0.3F * std::sin(static_cast<float>(i) * 0.03F));
    return hum;
  }();
  std::optional<footage::ClipWriter> writer;
  for (;;) {
    auto next = reader.next(footage::Pixels::Colour);
    if (!next || !*next) break;
    const cv::Mat& picture = (*next)->picture;
    if (!writer) {
      format.width = picture.cols;
      format.height = picture.rows;
      writer = must(footage::ClipWriter::create(folder / "hum.mp4", format));
    }
    must(writer->add(picture));
  }
  must(writer->finish());
  return folder / "hum.mp4";
}

ReplyContent talked(const tests::ScratchFolder& folder) {
  const auto& a = smallAnalysis();
  ReplyContent content = tests::oneCue();
  // The picture jumps from standing to the bottom when the clap is heard.
  const double standing = a.reps[0].start_t(), bottom = a.reps[0].bottom_t();
  content.takes = {{spoken(folder, "good.wav", 1.51, 0.2), "what is good", 0, {{0, standing, 0.25}}},
                   {spoken(folder, "cue.wav", 3, 1.2), "cue 1", 0, {{0, standing, 0}, {1.2, bottom, 0}}}};
  return content;
}

std::vector<cv::Mat> framesOf(const std::filesystem::path& film) {
  auto reader = must(footage::FrameReader::open(film));
  std::vector<cv::Mat> all;
  for (;;) {
    auto next = reader.next(footage::Pixels::Gray);
    if (!next || !*next) return all;
    all.push_back((*next)->picture.clone());
  }
}

TEST(VoicedFilm, PictureAndSoundOfEachTakeAreWithinFortyMilliseconds) {
  const tests::ScratchFolder folder;
  Task task;
  const auto files = must(writeReply(smallAnalysis(), talked(folder), folder / "out", task));
  const auto frames = framesOf(files.clip);
  // 1.51 s are 46 frames: the second take begins with the 47th.
  constexpr int kSecond = 46;
  ASSERT_EQ(frames.size(), kSecond + 90u);
  std::size_t jump = 0;
  double largest = 0;
  const QRect picture = layoutOf(review::FilmShape::Landscape).picture;
  for (std::size_t i = kSecond + 1; i < frames.size(); ++i) {
    const cv::Rect area(picture.x(), picture.y(), picture.width(), picture.height());
    const double d = cv::norm(frames[i](area), frames[i - 1](area), cv::NORM_L1);
    if (d > largest) {
      largest = d;
      jump = i;
    }
  }
  const double seen_s = static_cast<double>(jump) / kRate_hz;
  EXPECT_NEAR(seen_s, kSecond / 30.0 + 1.2, 0.001);
  const footage::Sound sound = must(footage::readSound(files.clip));
  double heard_s = -1;
  const auto from = static_cast<std::size_t>((kSecond / 30.0 + 0.5) * footage::Sound::kRate_hz);
  for (std::size_t i = from; i < sound.samples.size() && heard_s < 0; ++i)
    if (sound.samples[i] > 0.4F) heard_s = static_cast<double>(i) / footage::Sound::kRate_hz;
  EXPECT_NEAR(heard_s, seen_s, 0.04);
  EXPECT_EQ(files.stills.size(), 1u) << "the still of the cue";
  const std::string page = tests::bytesOf(files.html);
  EXPECT_NE(page.find("at 0:01"), std::string::npos) << "the page leads to the place in the film";
}

TEST(VoicedFilm, WhatIsCutOffIsNeitherHeardNorSeenAndCaptionsLieBeside) {
  const tests::ScratchFolder folder;
  ReplyContent content = talked(folder);
  content.takes[0].cut_end_s = 0.51;
  content.takes[1].cut_start_s = 0.5;
  content.takes[1].caption = "Watch the knee. Now.";
  Task task;
  const auto files = must(writeReply(smallAnalysis(), content, folder / "out", task));
  EXPECT_EQ(framesOf(files.clip).size(), 30u + 75u) << "1 s of the first, 2.5 s of the second";
  const std::string vtt = tests::bytesOf(files.captions);
  EXPECT_EQ(vtt.rfind("WEBVTT\n\n00:00:01.000 --> ", 0), 0u) << vtt;
  EXPECT_NE(vtt.find("00:00:03.500\nNow."), std::string::npos) << vtt;
  content.takes[1].caption.clear();
  const auto again = must(writeReply(smallAnalysis(), content, folder / "out", task));
  EXPECT_TRUE(again.captions.empty());
  EXPECT_FALSE(std::filesystem::exists(files.captions)) << "captions of the earlier film are no longer true";
}

TEST(VoicedFilm, TheClipIsHeardUnderTheVoiceWhereItRunsAtItsOwnSpeedAndOnlyThere) {
  const tests::ScratchFolder folder;
  // A clip that hums, and a voice that says nothing: stands for a second, then plays for one.
  const auto voice = folder / "still.wav";
  {
    auto wav = must(footage::WavWriter::create(voice));
    must(wav.add(std::vector<std::int16_t>(2 * footage::WavWriter::kRate_hz, 0)));
  }
  must(footage::mendWav(voice));
  coaching::Analysis a = smallAnalysis();
  a.clip.file = withHum(a.clip.file, folder);
  ReplyContent content = tests::oneCue();
  content.takes = {{voice, "what's good", 0, {{0, 0.5, 0}, {1, 0.5, 1}}}};
  const auto loudest = [&](review::OwnSound own, double from_s, double to_s) {
    content.own_sound = own;
    Task task;
    const auto files = must(writeReply(a, content, folder / "out", task));
    const footage::Sound sound = must(footage::readSound(files.clip));
    float most = 0;
    for (double s = from_s; s < to_s; s += 1.0 / footage::Sound::kRate_hz)
      if (const auto at = static_cast<std::size_t>(s * footage::Sound::kRate_hz); at < sound.samples.size())
        most = std::max(most, std::abs(sound.samples[at]));
    return most;
  };
  EXPECT_LT(loudest(review::OwnSound::Full, 0.1, 0.9), 0.01F) << "a picture that stands has no sound";
  const float full = loudest(review::OwnSound::Full, 1.1, 1.9), low = loudest(review::OwnSound::Low, 1.1, 1.9);
  EXPECT_GT(full, 0.05F);
  EXPECT_GT(low, 0.01F);
  EXPECT_LT(low, full / 2);
  EXPECT_LT(loudest(review::OwnSound::Off, 1.1, 1.9), 0.01F);
}

TEST(VoicedFilm, ASoundThatIsGoneLeavesNothingHalfWritten) {
  const tests::ScratchFolder folder;
  ReplyContent content = talked(folder);
  content.takes[1].file = folder / "gone.wav";
  Task task;
  const auto files = writeReply(smallAnalysis(), content, folder / "out", task);
  ASSERT_FALSE(files);
  EXPECT_NE(files.error().sentence().find("gone.wav"), std::string::npos);
  EXPECT_TRUE(std::filesystem::is_empty(folder / "out"));
}

TEST(ReplyFilm, ASecondViewStandsInTheCornerAtTheSameMoment) {
  const tests::ScratchFolder folder;
  ReplyContent content = talked(folder);
  content.takes.clear();
  Task task;
  const auto alone = framesOf(must(writeReply(smallAnalysis(), content, folder / "alone", task)).clip);
  content.second = std::make_shared<const coaching::Analysis>(smallAnalysis());
  const auto both = framesOf(must(writeReply(smallAnalysis(), content, folder / "both", task)).clip);
  ASSERT_EQ(alone.size(), both.size());
  const QRect picture = layoutOf(review::FilmShape::Landscape).picture;
  const cv::Rect corner(picture.right() - picture.width() / 4, picture.top() + 20, picture.width() / 5, 120);
  const cv::Rect feet(picture.x() + 20, picture.bottom() - 150, picture.width() - 40, 120);
  const std::size_t mid = alone.size() / 2;
  EXPECT_GT(cv::norm(alone[mid](corner), both[mid](corner), cv::NORM_L1) / corner.area(), 5);
  EXPECT_LT(cv::norm(alone[mid](feet), both[mid](feet), cv::NORM_L1) / feet.area(), 1) << "feet and floor stay free";
}

TEST(ReplyFilm, IsMadeAsLightAsWasAskedForOrSaysSo) {
  const tests::ScratchFolder folder;
  ReplyContent content = talked(folder);
  content.takes.clear();
  Task task;
  const auto weight = [](const std::filesystem::path& of) {
    double sum = 0;
    for (const auto& entry : std::filesystem::directory_iterator(of)) sum += static_cast<double>(entry.file_size());
    return sum;
  };
  must(writeReply(smallAnalysis(), content, folder / "out", task));
  const double heavy = weight(folder / "out");
  content.most_mb = 0.75 * heavy / 1e6;
  auto files = must(writeReply(smallAnalysis(), content, folder / "light", task));
  EXPECT_FALSE(files.too_heavy);
  EXPECT_LE(weight(folder / "light"), *content.most_mb * 1e6);
  content.most_mb = 0.01;
  EXPECT_TRUE(must(writeReply(smallAnalysis(), content, folder / "never", task)).too_heavy);
}

}  // namespace
}  // namespace jib::drawing
