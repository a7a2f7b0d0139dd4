// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/set_up.h"

#include <gtest/gtest.h>

#include <functional>

#include "core/motion/pulled_reps.h"

namespace jib::motion {
namespace {

constexpr double kFrame_s = 1 / 30.0, kOff_s = 3.0;

// A bar that leaves the floor at kOff_s, a hip of this height over where it is then, and a shoulder.
Motion pull(
    const std::function<std::optional<double>(double)>& hip,
    const std::function<double(double)>& shoulder = [](double) { return 0.55; }) {
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  std::vector<std::optional<double>> hips;
  for (double t = 0; t < 6; t += kFrame_s) {
    times.push_back(t);
    const double share = std::clamp((t - kOff_s) / 1.2, 0.0, 1.0), up = 0.55 * share * share * (3 - 2 * share);
    auto& frame = metres.emplace_back();
    frame[tracing::at(tracing::Landmark::Bar)] = {0, 0.225 + up};
    frame[tracing::at(tracing::Landmark::Shoulder)] = {0, 0.225 + up + shoulder(t)};
    hips.push_back(t > kOff_s + kFrame_s ? std::nullopt : hip(t));
  }
  Motion m = exactMotion(times, metres);
  m.hip_before_off_m = hips;
  return m;
}

double risesBy(double t, double rise_m) {  // over the last 0.4 s
  return rise_m * (std::clamp((t - kOff_s + 0.4) / 0.4, 0.0, 1.0) - 1);
}

TEST(HipsBeforeOff, SayHowFarAndFromWhen) {
  const auto hips = hipsBeforeOff(pull([](double t) { return risesBy(t, 0.05); }), kOff_s);
  ASSERT_TRUE(hips);
  EXPECT_NEAR(hips->rise_m, 0.05, 0.004);
  EXPECT_LT(hips->lowest_s, kOff_s - 0.35);
  ASSERT_TRUE(hips->begins_s);
  EXPECT_NEAR(*hips->begins_s, kOff_s - 0.4, 0.08);
}

TEST(HipsBeforeOff, ThatStayAreZeroAndBeginNothing) {
  const auto hips = hipsBeforeOff(pull([](double) { return 0.0; }), kOff_s);
  ASSERT_TRUE(hips);
  EXPECT_EQ(hips->rise_m, 0);
  EXPECT_FALSE(hips->begins_s);
}

TEST(HipsBeforeOff, OneFrameThatWentElsewhereIsNoRise) {
  const auto hips =
      hipsBeforeOff(pull([](double t) { return t > kOff_s - 0.50 && t < kOff_s - 0.47 ? -0.06 : 0.0; }), kOff_s);
  ASSERT_TRUE(hips);
  EXPECT_LT(hips->rise_m, 0.001);
}

TEST(HipsBeforeOff, AreNotToldWhereTheyWereLostOnTheirWayDown) {
  const auto rising = [](double from_s) {
    return pull([from_s](double t) -> std::optional<double> {
      if (t < from_s) return std::nullopt;
      return 0.1 * (t - kOff_s);  // lower and lower, the further back
    });
  };
  EXPECT_FALSE(hipsBeforeOff(rising(kOff_s - 0.2), kOff_s)) << "too short";
  EXPECT_FALSE(hipsBeforeOff(rising(kOff_s - 0.8), kOff_s)) << "how low it was is not seen";
  EXPECT_TRUE(hipsBeforeOff(rising(kOff_s - 1.6), kOff_s));
  EXPECT_FALSE(hipsBeforeOff(exactMotion({0, 1}, {{}, {}}), 1)) << "not watched";
}

TEST(PulledReps, BeginWithTheBodyWhereItMovesFirst) {
  const auto reps = pulledReps(pull([](double t) { return risesBy(t, 0.05); }));
  ASSERT_EQ(reps.size(), 1u);
  ASSERT_TRUE(reps[0].when(EventKind::Start));
  EXPECT_NEAR(*reps[0].when(EventKind::Start), kOff_s - 0.4, 0.08);
  EXPECT_EQ(reps[0].bottom_t(), *reps[0].when(EventKind::LiftOff)) << "the contract: the same moment";
  EXPECT_FALSE(pulledReps(pull([](double) { return 0.0; }))[0].when(EventKind::Start));
}

TEST(PulledReps, SayWhenTheHandsCameToTheBarWhereThatIsFilmed) {
  // Comes down to the bar until 1.2 s and stays.
  const auto reps = pulledReps(
      pull([](double) { return 0.0; }, [](double t) { return 0.55 + 0.5 * std::clamp((1.2 - t) / 0.8, 0.0, 1.0); }));
  ASSERT_TRUE(reps.at(0).when(EventKind::HandsOn));
  EXPECT_NEAR(*reps[0].when(EventKind::HandsOn), 1.2, 0.15);
  EXPECT_FALSE(pulledReps(pull([](double) { return 0.0; })).at(0).when(EventKind::HandsOn)) << "held from the start";
}

}  // namespace
}  // namespace jib::motion
