// SPDX-License-Identifier: GPL-3.0-or-later
// Two films of one set are brought into one time by how what moves in them goes up and down.
#include "core/tracing/sightings/lift_pulse.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/scratch_folder.h"

namespace jib::tracing {
namespace {

// Down and up again: the speed of each rep, reps of unlike lengths so that a shift by one rep fits worse.
LiftPulse setOf(const std::vector<double>& rep_starts_s, double length_s, double size = 0.4) {
  LiftPulse p;
  for (int i = 0; i < static_cast<int>(length_s * kPulse_hz); ++i) {
    double up = 0;
    for (double start : rep_starts_s) {
      const double t = i / kPulse_hz - start;
      if (t > 0 && t < 2.4) up -= size * std::sin(2 * kPi * t / 2.4);
    }
    p.up.push_back(static_cast<float>(up));
  }
  return p;
}

TEST(LiftPulse, TwoFilmsOfOneSetAreBroughtIntoOneTime) {
  // The second phone was started 2.3 s earlier, stands further away and runs on for longer.
  const LiftPulse side = setOf({2, 5.5, 9.8}, 14), front = setOf({4.3, 7.8, 12.1}, 20, 0.25);
  const auto shift = aligned(side, front);
  ASSERT_TRUE(shift);
  EXPECT_NEAR(shift->offset_s, 2.3, 0.02);
  EXPECT_GT(shift->likeness, 0.98);
  const auto back = aligned(front, side);
  EXPECT_NEAR(back->offset_s, -2.3, 0.02);
}

TEST(LiftPulse, OneThatMissesARepIsStillPlacedRight) {
  const LiftPulse whole = setOf({2, 5.5, 9.8}, 14), cut = setOf({0.5, 4.8}, 9);
  const auto shift = aligned(whole, cut);
  ASSERT_TRUE(shift);
  EXPECT_NEAR(shift->offset_s, -5.0, 0.02);
  EXPECT_GT(shift->likeness, kSameSet);
}

TEST(LiftPulse, AnotherSetIsLessAlike) {
  const auto other = aligned(setOf({2, 5.5, 9.8}, 14), setOf({1, 8}, 14));
  ASSERT_TRUE(other);
  EXPECT_LT(other->likeness, 0.9);
  const auto slow = aligned(setOf({2, 5.5, 9.8, 13, 16.5}, 20), setOf({3}, 8));
  ASSERT_TRUE(slow);
  EXPECT_LT(slow->likeness, kSameSet) << "one rep against five";
}

TEST(LiftPulse, StillFilmsTellNothing) {
  EXPECT_FALSE(aligned(setOf({}, 10), setOf({2}, 10)));
  EXPECT_FALSE(aligned({}, {}));
}

// A bright block that goes down for a second and up for a second, from `start_s` on.
Result<bool> filmBlock(const std::filesystem::path& file, int rate_hz, double start_s, int length_s) {
  return tests::writeClip(file, {.width = 160, .height = 240, .rate_hz = rate_hz, .quality = 18}, length_s * rate_hz,
                          [&](cv::Mat& m, int i) {
                            const double t = i / static_cast<double>(rate_hz) - start_s;
                            const double down = t > 0 && t < 2 ? 0.5 - 0.5 * std::cos(kPi * t) : 0;
                            const int y = 40 + static_cast<int>(90 * down);
                            for (int k = 0; k < 6; ++k)
                              cv::rectangle(m, {50 + 8 * k, y + 10 * (k % 3)}, {62 + 8 * k, y + 50 + 4 * k},
                                            cv::Scalar::all(30 + 35 * k), cv::FILLED);
                          });
}

TEST(LiftPulse, ReadsDownAndUpOffPixelsAtAnyFrameRate) {
  tests::ScratchFolder folder;
  Task task;
  std::vector<LiftPulse> pulses;
  for (const auto& [rate, start] : {std::pair(30, 1.0), std::pair(24, 2.5)}) {
    const auto file = folder / (std::to_string(rate) + ".mp4");
    ASSERT_TRUE(filmBlock(file, rate, start, 6));
    auto reader = footage::FrameReader::open(file);
    ASSERT_TRUE(reader);
    auto pulse = liftPulse(*reader, task);
    ASSERT_TRUE(pulse);
    EXPECT_NEAR(static_cast<double>(pulse->up.size()), 6 * kPulse_hz, 2);
    const auto at = [&](double t) { return pulse->up[static_cast<std::size_t>(t * kPulse_hz)]; };
    EXPECT_LT(at(start + 0.5), -0.1) << "on the way down";
    EXPECT_GT(at(start + 1.5), 0.1) << "on the way up";
    EXPECT_EQ(at(start + 3), 0) << "at rest";
    pulses.push_back(std::move(*pulse));
  }
  const auto shift = aligned(pulses[0], pulses[1]);
  ASSERT_TRUE(shift);
  EXPECT_NEAR(shift->offset_s, 1.5, 0.06);
}

TEST(LiftPulse, IsCancelledAtOnce) {
  tests::ScratchFolder folder;
  ASSERT_TRUE(filmBlock(folder / "a.mp4", 30, 1, 2));
  auto reader = footage::FrameReader::open(folder / "a.mp4");
  Task task;
  task.cancel();
  const auto pulse = liftPulse(*reader, task);
  ASSERT_FALSE(pulse);
  EXPECT_EQ(pulse.error().code, ErrorCode::Cancelled);
}

}  // namespace
}  // namespace jib::tracing
