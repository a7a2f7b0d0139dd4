// SPDX-License-Identifier: GPL-3.0-or-later
// The arithmetic of loads: what is planned can be put on the bar, and adds up.
#include "core/coaching/plan.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/quantity.h"
#include "tests/core/scratch_folder.h"

namespace jib::coaching {
namespace {

const Rack kKilos = Rack::usual(MassUnit::Kilograms);
const Rack kPounds = Rack::usual(MassUnit::Pounds);
double lb(double pounds) {
  return pounds * kKilogramsPerPound;
}

// What the plates named make, from their names alone.
double weighed(const PlannedSet& set, double bar_kg) {
  double kg = bar_kg;
  for (const std::string& plate : set.plates_per_side) kg += 2 * *kilogramsFrom(plate);
  return kg;
}

TEST(Plan, PlatesAddUpInEitherUnit) {
  using Names = std::vector<std::string>;
  EXPECT_EQ(platesFor(142.5, kKilos)->sets[0].plates_per_side, (Names{"25 kg", "25 kg", "10 kg", "1.25 kg"}));
  EXPECT_EQ(platesFor(lb(315), kPounds)->sets[0].plates_per_side, (Names{"45 lb", "45 lb", "45 lb"}));
  EXPECT_EQ(platesFor(20, kKilos)->sets[0].plates_per_side, Names{});
  for (double kg = 20; kg <= 300; kg += 2.5) {
    const auto plan = platesFor(kg, kKilos);
    ASSERT_TRUE(plan);
    EXPECT_TRUE(plan->notes.empty()) << kg;
    EXPECT_NEAR(weighed(plan->sets[0], 20), kg, 1e-9);
  }
  for (double pounds = 45; pounds <= 700; pounds += 5) {
    const auto plan = platesFor(lb(pounds), kPounds);
    EXPECT_NEAR(weighed(plan->sets[0], lb(45)), lb(pounds), 1e-6) << pounds;
  }
}

TEST(Plan, WhatTheRackHasNotGotIsTheNearestBelowAndSaidSo) {
  const auto plan = platesFor(141, kKilos);
  EXPECT_EQ(plan->sets[0].load_kg, 140);
  ASSERT_EQ(plan->notes.size(), 1u);
  EXPECT_NE(plan->notes[0].find("141 kg can't be loaded: 140 kg"), std::string::npos) << plan->notes[0];

  tests::ScratchFolder folder;
  // Few plates: a heaviest-first choice would miss that 2 x 15 beats 20 + nothing.
  const auto rack =
      Rack::load(folder.write("rack.json", R"({"bar": "20kg", "plates": {"20kg": 2, "15kg": 4, "2.5kg": 2}})"));
  ASSERT_TRUE(rack);
  const auto odd = platesFor(80, *rack);
  EXPECT_EQ(odd->sets[0].load_kg, 80);
  EXPECT_NEAR(weighed(odd->sets[0], 20), 80, 1e-9);
  EXPECT_EQ(platesFor(300, *rack)->sets[0].load_kg, 125) << "all that hangs there";
}

TEST(Plan, RampsAndWarmUpsRiseToTheTopSet) {
  for (const auto& plan : {*rampTo(170, 6, kKilos), *warmUpTo(170, kKilos), *warmUpTo(60, kKilos),
                           *rampTo(170, 1, kKilos), *warmUpTo(22.5, kKilos)}) {
    ASSERT_FALSE(plan.sets.empty());
    for (std::size_t i = 1; i < plan.sets.size(); ++i) EXPECT_GT(plan.sets[i].load_kg, plan.sets[i - 1].load_kg);
    for (const PlannedSet& s : plan.sets) EXPECT_NEAR(weighed(s, 20), s.load_kg, 1e-9);
  }
  EXPECT_EQ(rampTo(170, 6, kKilos)->sets.size(), 6u);
  EXPECT_EQ(rampTo(170, 6, kKilos)->sets.back().load_kg, 170);
  EXPECT_EQ(warmUpTo(170, kKilos)->sets.front().load_kg, 20) << "the bar first";
  EXPECT_EQ(warmUpTo(170, kKilos)->sets.back().load_kg, 170);
}

TEST(Plan, AShareOfAMaxAndAttempts) {
  EXPECT_EQ(percentOf(85, 180, kKilos)->sets[0].load_kg, 152.5) << "153 cannot be loaded";
  EXPECT_EQ(percentOf(50, 200, kKilos)->sets[0].load_kg, 100);
  const auto attempts = *attemptsFrom(180, kKilos);
  ASSERT_EQ(attempts.sets.size(), 3u);
  EXPECT_LT(attempts.sets[0].load_kg, attempts.sets[1].load_kg);
  EXPECT_LE(attempts.sets[2].load_kg, 180);
  for (const auto& s : attempts.sets) EXPECT_EQ(std::fmod(s.load_kg, 2.5), 0) << "a meet's steps";
}

TEST(Plan, NonsenseIsRefusedWithWhatToTypeInstead) {
  for (const auto& plan : {platesFor(10, kKilos), platesFor(-5, kKilos), platesFor(NAN, kKilos),
                           platesFor(5000, kKilos), percentOf(0, 180, kKilos), percentOf(300, 180, kKilos),
                           rampTo(170, 0, kKilos), rampTo(170, 99, kKilos), warmUpTo(5, kKilos)}) {
    ASSERT_FALSE(plan);
    EXPECT_EQ(plan.error().code, ErrorCode::WrongUse);
    EXPECT_FALSE(plan.error().next.empty());
  }
  tests::ScratchFolder folder;
  EXPECT_FALSE(Rack::load(folder.write("r.json", "{}")));
  EXPECT_FALSE(Rack::load(folder.write("r2.json", R"({"plates": {"many": 2}})")));
}

}  // namespace
}  // namespace jib::coaching
