// SPDX-License-Identifier: GPL-3.0-or-later
// What no lifter does is noticed, said, and not judged.
#include "core/lifts/impossible.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/lifts/measure_set.h"
#include "tests/core/analysed_clip.h"

namespace jib::lifts {
namespace {

bool has(const std::vector<Impossible>& found, std::string_view id) {
  return std::any_of(found.begin(), found.end(), [&](const Impossible& f) { return f.id == id; });
}

std::vector<Impossible> foundIn(const coaching::Analysis& a) {
  return impossibleIn(definition(a.request.lift), a.motion, a.reps);
}

const Measured* measured(const coaching::Analysis& a, std::size_t rep, std::string_view id, SetMeasures& measures) {
  measures = measureSet(definition(a.request.lift), a.motion, a.reps);
  return find(measures.reps[rep], id)->measured();
}

TEST(Impossible, FindsNothingInAnOrdinarySet) {
  EXPECT_TRUE(foundIn(tests::smallAnalysis()).empty());
}

TEST(Impossible, ABarThatFallsFasterThanThingsFallHasNoNumbersInThatRep) {
  coaching::Analysis a = tests::smallAnalysis();
  ASSERT_GE(a.reps.size(), 2u);
  // Half-way down the first rep the tracing jumps to something 30 cm lower.
  const std::size_t from = a.motion.frameAt((a.reps[0].start_t() + a.reps[0].bottom_t()) / 2);
  for (std::size_t i = from; i < from + 3; ++i) a.motion.bar_vz_mps[i] = -3.0 - static_cast<double>(i - from);
  const auto found = foundIn(a);
  ASSERT_TRUE(has(found, "falls_too_fast"));
  EXPECT_EQ(found.front().reps, std::vector<std::size_t>{0});
  SetMeasures measures;
  EXPECT_FALSE(measured(a, 0, "descent_s", measures));
  EXPECT_TRUE(find(measures.reps[1], "descent_s")->measured());
}

TEST(Impossible, NobodyPressesABarThatFastAndWhereMostRepsDoNoneIsBelieved) {
  motion::Motion m = tests::smallAnalysis().motion;
  const auto& reps = tests::smallAnalysis().reps;
  const auto quick = [&](const motion::Rep& rep) {
    const std::size_t from = m.frameAt((rep.ascent_t() + rep.lockout_t()) / 2);
    for (std::size_t i = from; i < from + 2; ++i) m.bar_vz_mps[i] = 2.2;
  };
  quick(reps[0]);
  const auto pressed = [&] { return impossibleIn(definition(LiftId::Bench), m, reps); };
  ASSERT_TRUE(has(pressed(), "falls_too_fast"));
  EXPECT_EQ(pressed().front().reps, std::vector<std::size_t>{0});
  EXPECT_FALSE(has(impossibleIn(definition(LiftId::Squat), m, reps), "falls_too_fast"))
      << "an empty bar, stood up with";
  for (const motion::Rep& rep : reps) quick(rep);
  EXPECT_TRUE(pressed().front().reps.empty()) << "then of the whole film";
}

TEST(Impossible, AGiantsLengthsAndSpeedsAreWidenedByWhatIsTooMuch) {
  coaching::Analysis a = tests::smallAnalysis();
  SetMeasures measures;
  const Measured before = *measured(a, 0, "bar_peak_ascent_mps", measures);
  const double lean_before = measured(a, 0, "trunk_lean_bottom_deg", measures)->sigma;
  a.motion.calibration.stature_m = 2.17;
  EXPECT_TRUE(has(foundIn(a), "plate_size"));
  const Measured after = *measured(a, 0, "bar_peak_ascent_mps", measures);
  EXPECT_DOUBLE_EQ(after.value, before.value);
  EXPECT_GT(after.sigma, 0.11 * before.value);
  EXPECT_DOUBLE_EQ(measured(a, 0, "trunk_lean_bottom_deg", measures)->sigma, lean_before);
  // From an angle nobody knows it is one doubt too many.
  a.motion.calibration.yaw_sigma_rad = 0.6;
  EXPECT_FALSE(measured(a, 0, "trunk_lean_bottom_deg", measures));
  a.motion.calibration.yaw_sigma_rad = 0.05;
  // No plate is so far off: what was tracked is another ring.
  a.motion.calibration.stature_m = 2.30;
  EXPECT_FALSE(measured(a, 0, "bar_peak_ascent_mps", measures));
  EXPECT_FALSE(measured(a, 0, "trunk_lean_bottom_deg", measures));
  a.motion.calibration.stature_m = 1.98;
  EXPECT_FALSE(has(foundIn(a), "plate_size"));
}

TEST(Impossible, OfAFarPlateTheBarIsLeftOutAndTheBodyIsNot) {
  coaching::Analysis a = tests::smallAnalysis();
  a.motion.calibration.far_plate = true;
  EXPECT_TRUE(has(foundIn(a), "far_plate"));
  SetMeasures measures;
  EXPECT_FALSE(measured(a, 0, "bar_peak_ascent_mps", measures));
  EXPECT_TRUE(measured(a, 0, "trunk_lean_bottom_deg", measures));
}

TEST(Impossible, NobodyStandsUpWithABarThatIsNotOverTheFeet) {
  coaching::Analysis a = tests::smallAnalysis();
  EXPECT_FALSE(has(foundIn(a), "bar_off_feet"));
  for (auto& bar : a.motion.paths[tracing::at(tracing::Landmark::Bar)].at)
    if (bar) bar->x += 0.45;
  for (auto& shoulder : a.motion.paths[tracing::at(tracing::Landmark::Shoulder)].at)
    if (shoulder) shoulder->x += 0.45;
  EXPECT_TRUE(has(foundIn(a), "bar_off_feet"));
  SetMeasures measures;
  EXPECT_FALSE(measured(a, 0, "bar_to_midfoot_mean_m", measures));
}

TEST(Impossible, ABarThatIsNotOnTheBackIsNotTheirs) {
  coaching::Analysis a = tests::smallAnalysis();
  a.motion.calibration.shoulders_off_bar_m = 0.6;
  const auto found = foundIn(a);
  ASSERT_TRUE(has(found, "bar_not_held"));
  EXPECT_NE(found.front().text.find("60 cm away from the lifter's shoulders"), std::string::npos);
  SetMeasures measures;
  EXPECT_FALSE(measured(a, 0, "hip_crease_above_knee_m", measures));
  EXPECT_FALSE(find(measures.reps[0], "bar_peak_ascent_mps")->measured());
}

TEST(Impossible, ABarNobodyStandsAtIsNotJudged) {
  coaching::Analysis a = tests::smallAnalysis();
  a.motion.calibration.looked_for_body = true;
  a.motion.calibration.looks_at_body = 0;
  EXPECT_TRUE(has(foundIn(a), "nobody_at_bar"));
  a.motion.calibration.looked_for_body = false;  // there is no network here: nobody looked
  EXPECT_FALSE(has(foundIn(a), "nobody_at_bar"));
}

}  // namespace
}  // namespace jib::lifts
