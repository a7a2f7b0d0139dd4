// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/load_speed.h"

#include <gtest/gtest.h>

namespace jib::coaching {
namespace {

const lifts::LiftDefinition& kSquat = lifts::definition(lifts::LiftId::Squat);

// On the line 1.30 m/s - 0.005 m/s a kilogram: 0.30 m/s at 200 kg.
LoadedSet onLine(double load_kg, double off_mps = 0) {
  return {load_kg, 1.30 - 0.005 * load_kg + off_mps, 0.01, "2026-10-01"};
}

TEST(LoadSpeed, PointsAtTheLoadOfABest) {
  const auto line = loadSpeedLine({onLine(100), onLine(120), onLine(140), onLine(160)}, kSquat);
  ASSERT_TRUE(line);
  EXPECT_NEAR(line->slope, -0.005, 1e-9);
  EXPECT_NEAR(line->speedAt(150), 0.55, 1e-9);
  EXPECT_LT(line->best_kg.low, 200);
  EXPECT_GT(line->best_kg.high, 200);
  EXPECT_GT(line->best_kg.high - line->best_kg.low, 20) << "never one number";
  const Band share = shareOf(*line, 140);
  EXPECT_LT(share.low, 0.70);
  EXPECT_GT(share.high, 0.70);
}

TEST(LoadSpeed, SetsThatAgreeLessSayLess) {
  const auto sure = loadSpeedLine({onLine(100), onLine(120), onLine(140), onLine(160)}, kSquat);
  const auto unsure =
      loadSpeedLine({onLine(100, 0.06), onLine(120, -0.08), onLine(140, 0.07), onLine(160, -0.05)}, kSquat);
  ASSERT_TRUE(sure && unsure);
  EXPECT_GT(unsure->best_kg.high - unsure->best_kg.low, 1.2 * (sure->best_kg.high - sure->best_kg.low));
}

TEST(LoadSpeed, IsNoLineFromTooLittle) {
  EXPECT_FALSE(loadSpeedLine({}, kSquat));
  EXPECT_FALSE(loadSpeedLine({onLine(100), onLine(160)}, kSquat)) << "two loads are always a line";
  EXPECT_FALSE(loadSpeedLine({onLine(100), onLine(100), onLine(160)}, kSquat));
  EXPECT_FALSE(loadSpeedLine({onLine(140), onLine(142.5), onLine(145)}, kSquat)) << "loads too near to each other";
  EXPECT_FALSE(loadSpeedLine({onLine(100, -0.3), onLine(120), onLine(140, 0.3)}, kSquat))
      << "heavier and faster is no line";
}

TEST(LoadSpeed, IsNeverBelowWhatWasLifted) {
  const auto line = loadSpeedLine({onLine(150), onLine(180), onLine(205)}, kSquat);
  ASSERT_TRUE(line);
  EXPECT_GE(line->best_kg.low, 205);
}

TEST(LoadSpeed, AsksWhenTheBestToldIsAnother) {
  const auto line = loadSpeedLine({onLine(100), onLine(120), onLine(140), onLine(160)}, kSquat);
  ASSERT_TRUE(line);
  EXPECT_EQ(textOf(*line, 200).find('?'), std::string::npos);
  EXPECT_NE(textOf(*line, 150).find("an old one?"), std::string::npos);
  EXPECT_NE(textOf(*line, 280).find("in what gear?"), std::string::npos);
  EXPECT_NE(textOf(*line, std::nullopt).find("lb"), std::string::npos) << "both units";
}

}  // namespace
}  // namespace jib::coaching
