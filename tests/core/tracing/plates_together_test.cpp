// SPDX-License-Identifier: GPL-3.0-or-later
// A pressed bar seen from the feet's end, told by its plates alone, and followed by them.
#include "core/tracing/front/plates_together.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/simulate/truth_file.h"
#include "core/tracing/front/plate_pair.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::tracing {
namespace {

constexpr const char *kFromFeet = JIB_MADE_CLIPS "/small-feet.mp4", *kFromSide = JIB_MADE_CLIPS "/small-bench.mp4";

simulate::Truth truthOfFeet() {
  return simulate::truthOf(*simulate::parseSpec(tests::bytesOf(JIB_TEST_DATA "/small-feet.json")));
}

PixelPoint plateIn(const simulate::Truth& truth, std::size_t frame) {
  return truth.frames[frame].pixels[at(Landmark::Plate)]->place;  // of the athlete's left, the picture's right here
}

std::vector<PlatesTogether> platesOf(footage::FrameReader& reader) {
  Task task;
  return tests::must(platesTogether(reader, task));
}

TEST(PlatesTogether, AreFoundWithoutSeeingAnybody) {
  auto reader = tests::must(footage::FrameReader::open(kFromFeet));
  const auto plates = platesOf(reader);
  ASSERT_TRUE(convince(plates));
  const PlatesTogether& best = plates.front();
  const auto truth = truthOfFeet();
  const PixelPoint off = best.hub[1] - plateIn(truth, best.high);
  EXPECT_LT(length(off), 0.12 * best.metre_px);
  constexpr double kMetre_px = 144;  // of the small clip from the feet's end
  EXPECT_NEAR(best.metre_px, kMetre_px, 0.12 * kMetre_px);
  EXPECT_NEAR(best.went.y, plateIn(truth, best.low).y - plateIn(truth, best.high).y, 0.1 * best.metre_px);
  for (std::size_t k = 1; k < plates.size(); ++k) EXPECT_GE(plates[k - 1].sure, plates[k].sure);
}

TEST(PlatesTogether, AreNotSeenFromTheSide) {
  auto reader = tests::must(footage::FrameReader::open(kFromSide));
  EXPECT_FALSE(convince(platesOf(reader))) << "one plate hides the other";
}

TEST(PlatePair, IsFollowedThroughTheClip) {
  auto reader = tests::must(footage::FrameReader::open(kFromFeet));
  Task task;
  const PlatesTogether best = platesOf(reader).at(0);
  const auto pictureAt = [&](std::size_t frame) {
    EXPECT_TRUE(reader.seekBefore(frame));
    return tests::must(reader.next(footage::Pixels::Gray, frame))->picture.clone();
  };
  const cv::Mat high = pictureAt(best.high), low = pictureAt(best.low);
  constexpr double kWide_m = 0.08;
  const std::array<PlateSeen, 2> seen{PlateSeen{best.hub[0], best.metre_px, kWide_m},
                                      PlateSeen{best.hub[1], best.metre_px, kWide_m}};
  const auto hubs = tests::must(followPlates(reader, high, low, seen, 0.45, task));
  ASSERT_EQ(hubs.size(), reader.info().frames());
  const auto truth = truthOfFeet();
  const double begun_off = best.hub[1].y - plateIn(truth, best.high).y;
  std::vector<double> off_m;
  for (std::size_t i = 0; i < hubs.size(); ++i)
    if (hubs[i]) off_m.push_back(std::abs((*hubs[i])[1].y - begun_off - plateIn(truth, i).y) / best.metre_px);
  ASSERT_GT(off_m.size(), 6 * hubs.size() / 10) << "at the hooks the posts hide them";
  std::sort(off_m.begin(), off_m.end());
  EXPECT_LT(off_m[off_m.size() * 9 / 10], 0.03);
  EXPECT_LT(off_m.back(), 0.1) << "never lost for something that stays where it is";
}

TEST(PlatePair, StopsWhenAsked) {
  auto reader = tests::must(footage::FrameReader::open(kFromFeet));
  Task task;
  task.cancel();
  const auto plates = platesTogether(reader, task);
  ASSERT_FALSE(plates);
  EXPECT_EQ(plates.error().code, ErrorCode::Cancelled);
}

}  // namespace
}  // namespace jib::tracing
