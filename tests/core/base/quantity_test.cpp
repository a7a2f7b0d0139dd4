// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/quantity.h"

#include <gtest/gtest.h>

namespace jib {
namespace {

TEST(Quantity, MassesAreReadInBothUnitsAndWithACommaForThePoint) {
  EXPECT_EQ(kilogramsFrom("100"), 100);
  EXPECT_EQ(kilogramsFrom(" 102,5 kg "), 102.5);
  EXPECT_NEAR(*kilogramsFrom("225 lb"), 102.058, 1e-3);
  EXPECT_NEAR(*kilogramsFrom("225LBS"), 102.058, 1e-3);
  EXPECT_EQ(kilogramsFrom("102.06 kg (225 lb)"), 102.06) << "as the program shows it";
}

TEST(Quantity, HeightsAreReadInCentimetresMetresFeetAndInches) {
  EXPECT_EQ(centimetresFrom("178"), 178);
  EXPECT_EQ(centimetresFrom("1,78 m"), 178);
  EXPECT_NEAR(*centimetresFrom("70 in"), 177.8, 1e-9);
  for (const char* tall : {"5'10\"", "5' 10", "5 ft 10 in", "5 ft 10"})
    EXPECT_NEAR(*centimetresFrom(tall), 177.8, 1e-9) << tall;
  EXPECT_NEAR(*centimetresFrom("6 ft"), 182.88, 1e-9);
  EXPECT_EQ(feetAndInches(177.8), "5 ft 10 in");
  EXPECT_EQ(feetAndInches(182.5), "6 ft 0 in") << "never 5 ft 12 in";
}

TEST(Quantity, WhatLeavesADoubtIsNoNumber) {
  for (const char* none : {"", "heavy", "-20", "0", "100 or 110", "100 stone", "12 m kg", "nan"})
    EXPECT_EQ(kilogramsFrom(none), std::nullopt) << none;
  for (const char* none : {"5'13", "tall", "5 ft x", "178 lb"}) EXPECT_EQ(centimetresFrom(none), std::nullopt) << none;
}

}  // namespace
}  // namespace jib
