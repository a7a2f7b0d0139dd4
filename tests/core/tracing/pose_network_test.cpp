// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <fstream>
#include <iterator>
#include <opencv2/core.hpp>
#include <random>

#include "core/base/resources.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/pose/person_finder.h"
#include "core/tracing/pose/pose_reader.h"
#include "tests/core/analysed_clip.h"

namespace jib::tests {
namespace {

using namespace tracing;

constexpr const char* kDetector = "pose/pose_solution_packed_assets.data";
constexpr const char* kDetectorHash = "a63c614bef30d35947f13be361820b1e4e3bec9cfeebf4d11216a18373108e85";
constexpr const char* kThorough = "pose/pose_landmark_heavy.tflite";
constexpr const char* kThoroughHash = "59e42d71bcd44cbdbabc419f0ff76686595fd265419566bd4009ef703ea8e1fe";

const std::string& detectorBytes() {
  static const std::string kBytes = bytesOf(resource(kDetector));
  return kBytes;
}

PersonFinder& finder() {
  static PersonFinder kFinder = std::move(*PersonFinder::make(*loadNetwork(resource(kDetector), kDetectorHash)));
  return kFinder;
}

PoseReader& poseReader() {
  static PoseReader kReader = std::move(*PoseReader::make(*loadNetwork(resource(kThorough), kThoroughHash)));
  return kReader;
}

cv::Mat frameOf(const std::filesystem::path& clip, std::size_t index) {
  auto reader = footage::FrameReader::open(clip);
  EXPECT_TRUE(reader->seekBefore(index));
  return (*reader->next(footage::Pixels::Colour, index))->picture;
}

TEST(NetworkFile, RefusesAFileThatIsNotTheShippedOne) {
  const ScratchFolder folder;
  const auto cut = folder.write("cut.tflite", detectorBytes().substr(0, 100000));
  EXPECT_EQ(loadNetwork(cut, kDetectorHash).error().code, ErrorCode::BadData);
  EXPECT_EQ(loadNetwork(folder / "missing.tflite", kDetectorHash).error().code, ErrorCode::CannotRead);
}

TEST(NetworkFile, IsHeldAgainstItsHashAgainOnceItWasWritten) {
  const ScratchFolder folder;
  const auto file = folder.write("detector.data", detectorBytes());
  ASSERT_TRUE(loadNetwork(file, kDetectorHash));
  ASSERT_TRUE(loadNetwork(file, kDetectorHash)) << "known by now";
  EXPECT_EQ(loadNetwork(file, kThoroughHash).error().code, ErrorCode::BadData) << "as another file";
  std::string changed = detectorBytes();
  changed[changed.size() / 2] ^= 1;
  folder.write("detector.data", changed);
  EXPECT_EQ(loadNetwork(file, kDetectorHash).error().code, ErrorCode::BadData);
}

TEST(NetworkFile, RefusesWhatIsCutOffWherever) {
  const std::string& whole = detectorBytes();
  for (std::size_t keep : {std::size_t{0}, std::size_t{3}, std::size_t{8}, std::size_t{40}, whole.size() / 3}) {
    const auto file = parseNetwork(whole.substr(0, keep));
    EXPECT_FALSE(file) << keep << " bytes";
  }
}

TEST(NetworkFile, FollowsNoDamagedOffsetOutOfTheFile) {
  // The tables lie at both ends of the file; wherever a byte is wrong it is refused or read as another valid network.
  std::mt19937 random(7);
  int refused = 0;
  for (int round = 0; round < 200; ++round) {
    std::string bytes = detectorBytes();
    const std::size_t span = round % 2 ? 4096 : bytes.size();
    for (int k = 0; k < 6; ++k) bytes[bytes.size() - 1 - random() % span] = static_cast<char>(random());
    const auto file = parseNetwork(std::move(bytes));
    if (!file) {
      ++refused;
      continue;
    }
    if (auto made = PersonFinder::make(*file)) {
      auto found = made->find(cv::Mat(120, 160, CV_8UC3, cv::Scalar::all(90)));
      EXPECT_TRUE(found || found.error().code == ErrorCode::BadData);
    } else {
      ++refused;
    }
  }
  EXPECT_GT(refused, 20);
}

TEST(NetworkFile, IsNotTakenForAnother) {
  const auto detector = loadNetwork(resource(kDetector), kDetectorHash);
  ASSERT_TRUE(detector);
  EXPECT_EQ(PoseReader::make(*detector).error().code, ErrorCode::BadData);
}

TEST(PersonFinder, FindsTheLifterAndNobodyInAnEmptyPicture) {
  const auto people = finder().find(frameOf(JIB_MADE_CLIP, 20));
  ASSERT_TRUE(people);
  ASSERT_FALSE(people->empty());
  const PixelPoint hip = smallTruth().frames[20].pixels[at(Landmark::Hip)]->place;
  EXPECT_LT(length(people->front().region.centre - hip), 0.15 * people->front().region.size_px);
  EXPECT_TRUE(finder().find(cv::Mat(360, 640, CV_8UC3, cv::Scalar::all(128)))->empty());
}

TEST(PersonFinder, TakesPicturesOfAnySize) {
  for (cv::Size size : {cv::Size(1, 1), cv::Size(3, 900), cv::Size(901, 2)})
    EXPECT_TRUE(finder().find(cv::Mat(size, CV_8UC3, cv::Scalar::all(30)))) << size.width << " x " << size.height;
}

TEST(PoseReader, SeesKneeHipAndAnkleWhereTheyAre) {
  const auto& truth = smallTruth();
  for (std::size_t frame : {std::size_t{15}, std::size_t{25}}) {
    const cv::Mat picture = frameOf(JIB_MADE_CLIP, frame);
    PoseRegion region = finder().find(picture)->front().region;
    region = poseReader().read(picture, region)->next;
    const auto reading = poseReader().read(picture, region);
    ASSERT_TRUE(reading);
    const auto place = [&](Landmark l) { return truth.frames[frame].pixels[at(l)]->place; };
    const double shin = length(place(Landmark::Knee) - place(Landmark::Ankle));
    const bool right = place(Landmark::Toe).x > place(Landmark::Heel).x;
    const BodySide near = right ? BodySide::Right : BodySide::Left;
    // A sixth of a shin is seven centimetres.
    EXPECT_LT(length(reading->place(PoseMark::Knee, near) - place(Landmark::Knee)), shin / 6);
    EXPECT_LT(length(reading->place(PoseMark::Ankle, near) - place(Landmark::Ankle)), shin / 6);
    EXPECT_LT(length(reading->place(PoseMark::Hip, near) - place(Landmark::Hip)), shin / 5);
    EXPECT_GT(reading->sure(PoseMark::Knee, near), 0.5);
  }
}

TEST(PoseReader, TurnsWithItsRegion) {
  // The same picture on its side, looked at through a region on its side, is read the same.
  const cv::Mat upright = frameOf(JIB_MADE_CLIP, 20);
  cv::Mat turned;
  cv::flip(upright.t(), turned, 1);  // a quarter turn clockwise
  const PoseRegion region = finder().find(upright)->front().region;
  const auto onSide = [&](PixelPoint p) { return PixelPoint{upright.rows - p.y, p.x}; };
  const PoseRegion lying{onSide(region.centre), region.size_px, region.turn_rad + kPi / 2};
  const auto a = poseReader().read(upright, region), b = poseReader().read(turned, lying);
  ASSERT_TRUE(a && b);
  for (BodySide side : {BodySide::Left, BodySide::Right})
    EXPECT_LT(length(onSide(a->place(PoseMark::Hip, side)) - b->place(PoseMark::Hip, side)), 1.5);
}

// A real film, of people walking across a yard, that comes with Debian's opencv-doc. Where their feet are was looked up
// in the picture by eye.
TEST(PoseReader, ReadsPeopleInARealFilm) {
  const cv::Mat picture = frameOf("/usr/share/doc/opencv-doc/examples/data/vtest.avi", 200);
  const auto people = finder().find(picture);
  ASSERT_TRUE(people);
  ASSERT_GE(people->size(), 2u);
  int checked = 0;
  for (const Person& p : *people) {
    const auto first = poseReader().read(picture, p.region);
    const auto reading = poseReader().read(picture, first->next);
    ASSERT_TRUE(reading);
    const bool left_one = length(p.region.centre - PixelPoint{642, 320}) < 30;
    const bool right_one = length(p.region.centre - PixelPoint{718, 313}) < 30;
    if (!left_one && !right_one) continue;
    ++checked;
    EXPECT_GT(reading->person, 0.9);
    for (BodySide side : {BodySide::Left, BodySide::Right}) {
      EXPECT_GT(reading->sure(PoseMark::Knee, side), 0.5);
      EXPECT_GT(reading->sure(PoseMark::Ankle, side), 0.5);
      EXPECT_LT(reading->place(PoseMark::Shoulder, side).y, reading->place(PoseMark::Hip, side).y);
      EXPECT_LT(reading->place(PoseMark::Hip, side).y, reading->place(PoseMark::Knee, side).y);
      EXPECT_LT(reading->place(PoseMark::Knee, side).y, reading->place(PoseMark::Ankle, side).y);
      if (left_one) {
        EXPECT_LT(length(reading->place(PoseMark::Ankle, side) - PixelPoint{636, 362}), 16);
      }
    }
  }
  EXPECT_EQ(checked, 2);
}

}  // namespace
}  // namespace jib::tests
