// SPDX-License-Identifier: GPL-3.0-or-later
// Films cut together of several shots: where the cuts are, and what a reader hands out of one shot.
#include "core/footage/shots.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "tests/core/footage/made_clips.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

using tests::must;

constexpr double kRate_hz = 30;
const cv::Size kSize{640, 360};

// A room with things along its wall, seen from some way along it, at some size.
cv::Mat room(unsigned seed, double along_px = 0, double size = 1) {
  cv::Mat picture(kSize, CV_8UC1, cv::Scalar(150));
  cv::RNG things(seed);
  for (int k = 0; k < 24; ++k) {
    const double x = things.uniform(-200.0, 900.0), y = things.uniform(0.0, 330.0);
    const cv::Size2d extent(things.uniform(30.0, 160.0), things.uniform(30.0, 160.0));
    const int tone = things.uniform(30, 240);
    cv::rectangle(
        picture,
        cv::Rect(cv::Point2d((x - along_px) * size, y * size), cv::Size2d(extent.width * size, extent.height * size)),
        tone, cv::FILLED);
  }
  return picture;
}

// Somebody who goes down and up again in it.
cv::Mat lifting(cv::Mat picture, int frame) {
  const int down = static_cast<int>(45 * (1 - std::cos(frame / 12.0)));
  cv::ellipse(picture, {320, 170 + down}, {50, 130 - down / 2}, 0, 0, 360, 20, cv::FILLED);
  return picture;
}

cv::Mat card(int tone = 40) {
  cv::Mat picture(kSize, CV_8UC1, cv::Scalar(tone));
  cv::rectangle(picture, {160, 140, 320, 40}, 230, cv::FILLED);
  return picture;
}

struct Film {
  std::vector<cv::Mat> pictures;

  Film& with(int frames, const std::function<cv::Mat(int)>& picture) {
    for (int i = 0; i < frames; ++i) pictures.push_back(picture(i));
    return *this;
  }
  std::vector<double> times() const {
    std::vector<double> t;
    for (std::size_t i = 0; i < pictures.size(); ++i) t.push_back(2 + static_cast<double>(i) / kRate_hz);
    return t;
  }
  std::vector<cv::Mat> small() const {
    std::vector<cv::Mat> all;
    for (const cv::Mat& p : pictures) all.push_back(smallPicture(p));
    return all;
  }
  std::vector<Shot> shots() const { return shotsOf(small(), times()); }
};

double timeOf(int frame) {
  return 2 + frame / kRate_hz;
}

TEST(Shots, AnotherRoomAnotherAngleAndACloserLookAreCuts) {
  for (const auto& [what, after] : {std::pair("another room", room(9)), std::pair("further along", room(1, 260)),
                                    std::pair("closer", room(1, 60, 1.25))}) {
    Film film;
    film.with(70, [](int i) { return lifting(room(1), i); }).with(50, [&, now = after](int i) {
      return lifting(now.clone(), i);
    });
    const auto shots = film.shots();
    ASSERT_EQ(shots.size(), 2u) << what;
    EXPECT_NEAR(shots[0].from_s, timeOf(0), 1e-9);
    EXPECT_NEAR(shots[0].to_s, timeOf(69), 1e-9) << what;
    EXPECT_NEAR(shots[1].from_s, timeOf(70), 1e-9) << what;
    EXPECT_NEAR(shots[1].to_s, timeOf(119), 1e-9);
    EXPECT_EQ(mainShot(shots, film.small(), film.times()), 0) << "the longer one";
  }
}

TEST(Shots, ASetFilmedInOneGoIsOne) {
  Film still, carried, dim, flashed, passed;
  still.with(120, [](int i) { return lifting(room(3), i); });
  EXPECT_TRUE(still.shots().empty());
  carried.with(120, [](int i) { return lifting(room(3, 9.0 * i + 25 * std::sin(i / 3.0)), i); });
  EXPECT_TRUE(carried.shots().empty()) << "somebody walks along with the phone";
  dim.with(120, [](int i) { return cv::Mat(lifting(room(3), i) * (0.06 + 0.03 * std::sin(i / 5.0))); });
  EXPECT_TRUE(dim.shots().empty()) << "hardly any light, and it swims";
  flashed.with(60, [](int i) { return lifting(room(3), i); })
      .with(2, [](int) { return card(250); })
      .with(60, [](int i) { return lifting(room(3), 62 + i); });
  EXPECT_TRUE(flashed.shots().empty()) << "two damaged pictures";
  passed.with(120, [](int i) {
    cv::Mat picture = lifting(room(3), i);
    cv::rectangle(picture, {(i - 40) * 14, 0, 200, 360}, 50, cv::FILLED);
    return picture;
  });
  EXPECT_TRUE(passed.shots().empty()) << "somebody walks past";
}

TEST(Shots, CardsAreLeftOutWhetherTheyAreCutOrFade) {
  Film cut, fades;
  cut.with(100, [](int) { return card(); }).with(60, [](int i) { return lifting(room(5), i); }).with(40, [](int) {
    return card(200);
  });
  auto shots = cut.shots();
  ASSERT_EQ(shots.size(), 3u);
  EXPECT_EQ(mainShot(shots, cut.small(), cut.times()), 1) << "the longer card stands still";

  const auto faded = [](double share, int i) {
    cv::Mat both;
    cv::addWeighted(card(), 1 - share, lifting(room(5), i), share, 0, both);
    return both;
  };
  fades.with(30, [](int) { return card(); })
      .with(15, [&](int i) { return faded((i + 1) / 16.0, i); })
      .with(90, [](int i) { return lifting(room(5), 15 + i); })
      .with(15, [&](int i) { return faded(1 - (i + 1) / 16.0, 105 + i); })
      .with(30, [](int) { return card(); });
  shots = fades.shots();
  ASSERT_EQ(shots.size(), 3u);
  const int main = mainShot(shots, fades.small(), fades.times());
  ASSERT_EQ(main, 1);
  EXPECT_NEAR(shots[1].from_s, timeOf(45), 12 / kRate_hz) << "not much of the fade is in it, nor of the film left out";
  EXPECT_NEAR(shots[1].to_s, timeOf(134), 12 / kRate_hz);
}

TEST(Shots, APhoneThatIsPickedUpEndsTheShotAndIsNone) {
  Film film;
  film.with(90, [](int i) { return lifting(room(3), i); }).with(8, [](int i) { return room(3, 120.0 * (i + 1)); });
  const auto shots = film.shots();
  ASSERT_EQ(shots.size(), 1u);
  EXPECT_NEAR(shots[0].to_s, timeOf(89), 1.5 / kRate_hz);
  EXPECT_EQ(mainShot(shots, film.small(), film.times()), 0);
}

TEST(Shots, AFilmThatJumpsAllTheTimeIsLeftWhole) {
  Film film;
  for (unsigned k = 0; k < 20; ++k) film.with(9, [k](int i) { return lifting(room(100 + k), i); });
  EXPECT_TRUE(film.shots().empty());
}

// A frame's level as video stores it, between 16 and 235.
double storedLevel(int frame) {
  return 16 + tests::levelOf(frame) * 219 / 255.0;
}

// A clip whose frames can be told apart, of which the middle is a shot.
TEST(Shots, OfOneTheReaderHandsOutItsFramesAlone) {
  const tests::ScratchFolder folder;
  const auto file = folder / "counting.mp4";
  ASSERT_TRUE(tests::writeCountingClip(file, 60));
  const auto all = must(FrameReader::open(file)).info().times_s;
  ASSERT_EQ(all.size(), 60u);
  Upright upright;
  upright.shots = {{all[0], all[19]}, {all[20], all[44]}, {all[45], all[59]}};
  upright.shot = 1;
  FrameReader reader = must(FrameReader::open(file, upright));
  ASSERT_EQ(reader.info().frames(), 25u);
  EXPECT_EQ(reader.info().times_s.front(), all[20]) << "times stay those of the file";
  for (int round = 0; round < 2; ++round) {
    for (std::size_t i = 0; i < 25; ++i) {
      const auto frame = must(reader.next(Pixels::Gray));
      ASSERT_TRUE(frame) << i;
      EXPECT_EQ(frame->index, i);
      EXPECT_NEAR(tests::meanLevel(frame->picture), storedLevel(static_cast<int>(i) + 20), 2);
    }
    EXPECT_FALSE(must(reader.next(Pixels::Gray))) << "the next shot is not in it";
    ASSERT_TRUE(reader.seekBefore(0));
  }
  ASSERT_TRUE(reader.seekBefore(17));
  EXPECT_NEAR(tests::meanLevel(must(reader.next(Pixels::Gray, 17))->picture), storedLevel(37), 2);
  std::vector<std::size_t> back;
  ASSERT_TRUE(readBackward(reader, 24, Pixels::Gray, [&](const Frame& f) { return back.push_back(f.index), true; }));
  EXPECT_EQ(back.size(), 25u);

  upright.shots = {{900, 901}, {902, 903}};
  EXPECT_EQ(must(FrameReader::open(file, upright)).info().frames(), 60u) << "shots of another film";
}

TEST(Shots, AreKeptBesideTheClip) {
  const tests::ScratchFolder folder;
  const auto file = folder / "a.mp4";
  Upright upright;
  upright.shots = {{0, 1.5}, {1.533, 9}};
  upright.shot = 1;
  ASSERT_TRUE(keepUpright(file, upright));
  EXPECT_EQ(uprightOf(file), upright);
  upright.shot = Upright::kWholeFilm;
  ASSERT_TRUE(keepUpright(file, upright));
  EXPECT_EQ(uprightOf(file), upright);
  EXPECT_EQ(uprightOf(file).shownShot(), nullptr);
  upright.shot = 7;
  ASSERT_TRUE(keepUpright(file, upright));
  EXPECT_EQ(uprightOf(file).shownShot(), nullptr) << "there is no such shot";
}

TEST(Shots, OfAFilmWithACardAndBordersTheFilmIsLeft) {
  const tests::ScratchFolder folder;
  const auto file = folder / "edited.mp4";
  ASSERT_TRUE(
      tests::writeClip(file, {.width = 640, .height = 640, .rate_hz = 30, .quality = 20}, 120, [](cv::Mat& m, int i) {
        cv::Mat colour;
        cv::cvtColor(i < 40 ? card(90) : lifting(room(5), i), colour, cv::COLOR_GRAY2BGR);
        if (i < 40)
          cv::resize(colour, m, m.size());
        else
          m.setTo(0), colour.copyTo(m(cv::Rect({0, 140}, kSize)));
      }));
  Task task;
  const FrameReader reader = must(openFilmed(file, task));
  EXPECT_NEAR(reader.info().times_s.front(), 40 / 30.0, 0.05);
  EXPECT_NEAR(reader.info().height, 360, 4) << "the card filled the whole picture";
  Task stopped;
  stopped.cancel();
  const auto none = openFilmed(file, stopped);
  ASSERT_FALSE(none);
  EXPECT_EQ(none.error().code, ErrorCode::Cancelled);
}

}  // namespace
}  // namespace jib::footage
