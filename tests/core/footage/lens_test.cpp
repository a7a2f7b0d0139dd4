// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/lens.h"

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/footage/frame_reader.h"
#include "core/tracing/trace_store.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/footage/made_clips.h"

namespace jib::footage {
namespace {

TEST(Lens, IsReadFromWhateverKeySaysSo) {
  EXPECT_EQ(focal35From("maker.camera.focal_length.35mm_equivalent", "26"), 26.0);
  EXPECT_EQ(focal35From("FocalLengthIn35mmFilm", " 13.5 mm"), 13.5);
  EXPECT_FALSE(focal35From("focal_length", "4.2")) << "of the sensor's own size, which nobody knows";
  EXPECT_FALSE(focal35From("maker.focal.35mm", "wide"));
  EXPECT_FALSE(focal35From("maker.focal.35mm", "0"));
  EXPECT_FALSE(focal35From("maker.focal.35mm", "99999999999"));
  EXPECT_FALSE(focal35From("maker.focal.35mm", "nan"));
}

TEST(Lens, TurnsIntoPixels) {
  // 36 mm film is 36 mm wide: 36 mm of focal length see it 2 atan(1/2) = 53.1 degrees wide.
  EXPECT_NEAR(focalShare(36, 3600, 2400), 1.0, 1e-3);
  EXPECT_NEAR(focalShare(26, 1280, 720), 0.69, 0.005);
  EXPECT_EQ(focalShare(26, 720, 1280), focalShare(26, 1280, 720));
}

TEST(Lens, OfTheFileGoesBeforeTheAssumedOne) {
  const tests::ScratchFolder folder;
  const auto told = folder / "told.mp4";
  std::string command = "ffmpeg -y -i ";
  command += JIB_MADE_CLIP;
  command += " -c copy -movflags use_metadata_tags -metadata maker.focal_length.35mm_equivalent=40 ";
  command += told.string();
  ASSERT_TRUE(tests::run(command));
  auto reader = FrameReader::open(told);
  ASSERT_TRUE(reader);
  EXPECT_EQ(reader->info().focal_35mm, 40.0);
  EXPECT_FALSE(FrameReader::open(JIB_MADE_CLIP)->info().focal_35mm);
  // The rest of the tracing knows it, and keeps it.
  tracing::ClipTrace clip = tests::smallAnalysis().trace;
  const double assumed_m = clip.camera.distance_m();
  clip.focal_35mm = reader->info().focal_35mm;
  tracing::solveAgain(clip, tests::smallAnalysis().request.trace, 640, 360);
  EXPECT_NEAR(clip.camera.focal_px, focalShare(40, 640, 360) * 640, 0.1);
  EXPECT_LT(clip.camera.focal_sigma_rel, 0.1);
  EXPECT_GT(clip.camera.distance_m(), 1.1 * assumed_m) << "a longer lens stands further away";
  const auto again = tracing::traceFromJson(tracing::traceToJson(clip));
  ASSERT_TRUE(again);
  EXPECT_EQ(again->focal_35mm, 40.0);
}

}  // namespace
}  // namespace jib::footage
