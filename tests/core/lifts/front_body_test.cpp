// SPDX-License-Identifier: GPL-3.0-or-later
// What the measures of a front view say of motion that is exactly known.
#include "core/lifts/front_body.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace jib::lifts::front {
namespace {

using tracing::BodySide;
using tracing::Landmark;

// A rep of two seconds at 30 frames a second, seen from the front: knees 40 cm apart over feet 40 cm apart, that go out
// with depth; what is done to it is added by `fault` (of a side, at a share of the ascent's height; 0 on the way down).
struct Fault {
  double knee_in_m = 0, hip_left_m = 0, bar_up_left_m = 0;
  double turned_rad = 0;  // the camera, from square in front: what goes back and forward is seen to go sideways
  double foot_strays_m = 0, knees_inside_m = 0, hands_wide_m = 0;
};

motion::Motion moved(const Fault& fault) {
  constexpr int kFrames = 90;
  motion::Motion m;
  m.front.emplace();
  for (auto& side : m.front->side)
    for (motion::Path& path : side) {
      path.at.resize(kFrames);
      path.sigma_m.assign(kFrames, 0.01);
      path.wander_m.assign(kFrames, 0.003);
    }
  for (motion::Path& path : m.paths) {
    path.at.resize(kFrames);
    path.sigma_m.assign(kFrames, 0.01);
    path.wander_m.assign(kFrames, 0.003);
  }
  m.bar_vz_mps.resize(kFrames);
  for (int i = 0; i < kFrames; ++i) {
    m.times_s.push_back(i / 30.0);
    // Stands to 0.5 s, is down at 1.5 s, up again at 2.5 s.
    const double t = m.times_s.back(), s = std::clamp((t - 0.5) / 2, 0.0, 1.0);
    const double depth = 0.5 - 0.5 * std::cos(2 * M_PI * s), rising = s > 0.5 ? std::sin(2 * M_PI * (s - 0.5)) : 0;
    const auto k = static_cast<std::size_t>(i);
    m.paths[tracing::at(Landmark::Bar)].at[k] = MetrePoint{0, 1.4 - 0.5 * depth};
    for (const BodySide side : {BodySide::Left, BodySide::Right}) {
      const double left = side == BodySide::Left ? 1 : -1;
      const auto put = [&](Landmark l, double out, double z) {
        m.front->side[static_cast<std::size_t>(side)][tracing::at(l)].at[k] = MetrePoint{left * out, z};
      };
      put(Landmark::Ankle, 0.2, 0.09);
      put(Landmark::Toe, 0.26, 0.02);
      put(Landmark::Knee, 0.2 + 0.1 * depth - (side == BodySide::Left ? fault.knee_in_m * rising : 0), 0.5);
      put(Landmark::Hip, 0.1, 0.9 - 0.4 * depth);
      put(Landmark::Shoulder, 0.2, 1.4 - 0.5 * depth);
      put(Landmark::Wrist, 0.4, 1.4 - 0.5 * depth);
      put(Landmark::Elbow, 0.35, 1.2 - 0.5 * depth);
      put(Landmark::Bar, 1.1, 1.4 - 0.5 * depth + (left > 0 ? fault.bar_up_left_m * depth : 0));
      const auto aside = [&](Landmark l, double by) {
        m.front->side[static_cast<std::size_t>(side)][tracing::at(l)].at[k]->x += by;
      };
      constexpr double kKneesFollow = 0.4, kBack_m = 0.24, kAhead_m = 0.24;
      aside(Landmark::Hip, (fault.hip_left_m - kBack_m * std::sin(fault.turned_rad)) * depth);
      aside(Landmark::Knee, (kKneesFollow * fault.hip_left_m + kAhead_m * std::sin(fault.turned_rad)) * depth);
      aside(Landmark::Knee, -left * fault.knees_inside_m * depth);
      aside(Landmark::Wrist, left * fault.hands_wide_m);
      if (left > 0) aside(Landmark::Ankle, fault.foot_strays_m * rising);
    }
  }
  return m;
}

Measured measured(Measure (*measure)(const RepLook&), const Fault& fault) {
  const motion::Motion m = moved(fault);
  const motion::Rep r = motion::loweredAndRaised(0.5, 1.5, 1.5, 2.5, 0.5);
  const Measure got = measure({m, r});
  const auto* value = std::get_if<Measured>(&got);
  EXPECT_TRUE(value);
  return value ? *value : Measured{1e9, 0, 0};
}
double valueOf(Measure (*measure)(const RepLook&), const Fault& fault) {
  return measured(measure, fault).value;
}

TEST(FrontBody, KneesThatGoUpAsTheyCameDownDoNotCave) {
  EXPECT_NEAR(valueOf(kneeCaveLeft, {}), 0, 0.006);
  EXPECT_NEAR(valueOf(kneeGapFall, {}), 0, 2);
}

TEST(FrontBody, AKneeThatComesInIsSaidOfItsOwnSide) {
  Fault fault;
  fault.knee_in_m = 0.06;
  EXPECT_NEAR(valueOf(kneeCaveLeft, fault), 0.06, 0.008);
  EXPECT_NEAR(valueOf(kneeCaveRight, fault), 0, 0.006);
  EXPECT_GT(valueOf(kneeGapFall, fault), 7);
  EXPECT_LT(valueOf(kneeGapRatio, fault), valueOf(kneeGapRatio, {}));
}

TEST(FrontBody, HipsThatShiftCarryTheSideInTheirSign) {
  Fault left, right;
  left.hip_left_m = 0.05;
  right.hip_left_m = -0.04;
  EXPECT_NEAR(valueOf(hipShift, left), 0.05, 0.003);
  EXPECT_NEAR(valueOf(hipShift, right), -0.04, 0.003);
}

TEST(FrontBody, ACameraThatIsNotSquareInFrontShiftsNoHips) {
  Fault turned;
  turned.turned_rad = 0.1;
  EXPECT_NEAR(valueOf(hipShift, turned), 0, 0.003) << "the hips alone seem to go 2.4 cm to the side";
  turned.hip_left_m = 0.05;
  EXPECT_NEAR(valueOf(hipShift, turned), 0.05, 0.004);
}

TEST(FrontBody, FeetThatSeemToWanderMakeEverythingLessSure) {
  Fault restless;
  restless.foot_strays_m = 0.05;
  for (Measure (*measure)(const RepLook&) : {kneeCaveRight, kneeGapFall, hipShift, hipTilt, shoulderTilt, stanceWidth})
    EXPECT_GT(measured(measure, restless).sigma, 1.5 * measured(measure, {}).sigma);
  restless.foot_strays_m = 0.01;
  EXPECT_NEAR(measured(hipTilt, restless).sigma, measured(hipTilt, {}).sigma, 1e-9) << "as feet do on a good film";
}

TEST(FrontBody, KneesAreHeldAgainstTheMiddleOfTheirOwnFeet) {
  EXPECT_NEAR(valueOf(kneeOverFootLeft, {}), 0.07, 0.004);
  Fault inside;
  inside.knees_inside_m = 0.12;
  inside.knee_in_m = 0.0;
  EXPECT_NEAR(valueOf(kneeOverFootRight, inside), -0.05, 0.004);
  EXPECT_NEAR(valueOf(kneeOverFootLeast, inside), -0.05, 0.004);
}

TEST(FrontBody, ArmsThatHangOutwardsAreOffVertical) {
  Fault wide;
  wide.hands_wide_m = -0.2;  // under the shoulders
  const motion::Rep r = motion::loweredAndRaised(0.5, 1.5, 1.5, 2.5, 0.5);
  motion::Motion m = moved(wide);
  for (auto& side : m.front->side)
    for (auto& wrist : side[tracing::at(Landmark::Wrist)].at) wrist->z -= 0.6;
  EXPECT_NEAR(std::get<Measured>(armLean({m, r})).value, 0, 0.1);
  for (BodySide side : {BodySide::Left, BodySide::Right})
    for (auto& wrist : m.front->side[static_cast<std::size_t>(side)][tracing::at(Landmark::Wrist)].at)
      wrist->x += side == BodySide::Left ? 0.12 : -0.12;
  EXPECT_NEAR(std::get<Measured>(armLean({m, r})).value, std::atan2(0.12, 0.6) * 180 / M_PI, 0.1);
}

TEST(FrontBody, ToesFurtherOutThanAnybodyStandsAreNotMadeOut) {
  const motion::Rep r = motion::loweredAndRaised(0.5, 1.5, 1.5, 2.5, 0.5);
  const auto rows = standingMeasures();
  const auto row =
      std::find_if(rows.begin(), rows.end(), [](const RepMeasure& m) { return m.kind.id == "toe_out_left_deg"; });
  ASSERT_NE(row, rows.end());
  motion::Motion m = moved({});
  for (auto& side : m.front->side) {
    auto& heel = side[tracing::at(Landmark::Heel)].at;
    heel = side[tracing::at(Landmark::Ankle)].at;
  }
  const Measure usual = row->answer({m, r});
  ASSERT_TRUE(std::holds_alternative<Measured>(usual));
  EXPECT_NEAR(std::get<Measured>(usual).value, 13.4, 1);
  for (auto& toe : m.front->side[static_cast<std::size_t>(BodySide::Left)][tracing::at(Landmark::Toe)].at)
    toe->x += 0.18;
  EXPECT_TRUE(std::holds_alternative<Absent>(row->answer({m, r})));
}

TEST(FrontBody, ABarTiltsByTheHeightOfItsEnds) {
  Fault fault;
  fault.bar_up_left_m = 0.08;
  EXPECT_NEAR(valueOf(barTilt, fault), std::atan2(0.08, 2.2) * 180 / M_PI, 0.1);
  fault.bar_up_left_m = -0.08;
  EXPECT_LT(valueOf(barTilt, fault), -1.9);
}

TEST(FrontBody, StanceAndHandsAreMeasuredStanding) {
  EXPECT_NEAR(valueOf(stanceWidth, {}), 0.4, 0.001);
  EXPECT_NEAR(valueOf(stanceOverShoulders, {}), 1.0, 0.01);
  EXPECT_NEAR(valueOf(handGap, {}), 2.0, 0.01);
}

}  // namespace
}  // namespace jib::lifts::front
