// SPDX-License-Identifier: GPL-3.0-or-later
// Sets as coaches type them become the sets they mean, with loads that can be put on the bar.
#include "core/coaching/set_notation.h"

#include <gtest/gtest.h>

#include "core/base/quantity.h"
#include "tests/core/must.h"

namespace jib::coaching {
namespace {

using tests::must;

const Rack kKilos = Rack::usual(MassUnit::Kilograms);
const Rack kPounds = Rack::usual(MassUnit::Pounds);

TypedSet loaded(double kg, std::optional<int> reps = {}) {
  TypedSet s;
  s.load_kg = kg;
  s.reps = reps;
  return s;
}
TypedSet share(double pct, std::optional<int> reps = {}) {
  TypedSet s;
  s.share_pct = pct;
  s.reps = reps;
  return s;
}
TypedSet reps(int n, std::optional<double> rpe = {}) {
  TypedSet s;
  s.reps = n;
  s.rpe = rpe;
  return s;
}

struct Case {
  const char* typed;
  std::vector<TypedSet> meant;
};

TEST(SetNotation, ReadsWhatCoachesType) {
  TypedSet two_at_eight = loaded(140, 2);
  two_at_eight.rpe = 8;
  const Case kCases[]{
      {"4x5", {reps(5), reps(5), reps(5), reps(5)}},
      {"2 x 5", {reps(5), reps(5)}},
      {"2×5", {reps(5), reps(5)}},
      {"2 sets of 3", {reps(3), reps(3)}},
      {"2x3@80%", {share(80, 3), share(80, 3)}},
      {"2x3 @ 80 %", {share(80, 3), share(80, 3)}},
      {"80 % x 6", {share(80, 6)}},
      {"3@90%", {share(90, 3)}},
      {"140kg x 2 @8", {two_at_eight}},
      {"140 x 2 rpe 8", {two_at_eight}},
      {"102,5 kg x 3", {loaded(102.5, 3)}},
      {"2x3 125", {loaded(125, 3), loaded(125, 3)}},
      {"2x3x125", {loaded(125, 3), loaded(125, 3)}},
      {"5/3/1 @ 100/110/120", {loaded(100, 5), loaded(110, 3), loaded(120, 1)}},
      {"100, 110 and 120", {loaded(100), loaded(110), loaded(120)}},
      {"100,110,120", {loaded(100), loaded(110), loaded(120)}},
      {"100x5, 110x3; 120x1", {loaded(100, 5), loaded(110, 3), loaded(120, 1)}},
      {"70/80/90 % x 2", {share(70, 2), share(80, 2), share(90, 2)}},
      {"60-70-80% x3", {share(60, 3), share(70, 3), share(80, 3)}},
      {"70, 80, 90 % x 3", {share(70, 3), share(80, 3), share(90, 3)}},
      {"3x3 @ 70/75/80%", {share(70, 3), share(75, 3), share(80, 3)}},
      {"top single @ 8, then 2x3 @ 80%", {reps(1, 8), share(80, 3), share(80, 3)}},
      {"20 x 8", {loaded(20, 8)}},
  };
  for (const Case& c : kCases) {
    const auto sets = setsTyped(c.typed);
    ASSERT_TRUE(sets) << c.typed << ": " << sets.error().sentence();
    EXPECT_EQ(*sets, c.meant) << c.typed;
  }
}

TEST(SetNotation, ABareLoadIsInTheCoachsUnitAndOneThatIsSaidInItsOwn) {
  EXPECT_NEAR(*must(setsTyped("315 x 5", MassUnit::Pounds))[0].load_kg, 315 * kKilogramsPerPound, 1e-9);
  EXPECT_NEAR(*must(setsTyped("140 kg x 5", MassUnit::Pounds))[0].load_kg, 140, 1e-9);
  EXPECT_NEAR(*must(setsTyped("225lb x 5"))[0].load_kg, 225 * kKilogramsPerPound, 1e-9);
}

TEST(SetNotation, WhatMeansNothingIsSaidBack) {
  for (const char* typed : {"", "banana", "5", "3x3 @ 70/80%", "5/3/1 @ 100/110", "0x5", "3x0", "99x5x3x2",
                            "100kg x 3 @ 80%", "3x3 @ 12", "140 x 2 rpe", "200x200", "2.5x3", "x", "@"}) {
    const auto sets = setsTyped(typed);
    ASSERT_FALSE(sets) << typed;
    EXPECT_EQ(sets.error().code, ErrorCode::WrongUse);
    EXPECT_NE(sets.error().sentence().find(typed), std::string::npos) << sets.error().sentence();
  }
}

TEST(SetNotation, SharesBecomeLoadsThatHangThereAndNeverMore) {
  const Plan plan = must(planTyped("60-70-80% x3", 150.0, kKilos));
  ASSERT_EQ(plan.sets.size(), 3u);
  EXPECT_EQ(plan.sets[0].load_kg, 90);
  EXPECT_EQ(plan.sets[2].load_kg, 120);
  EXPECT_TRUE(plan.notes.empty());
  for (int pct = 30; pct <= 100; ++pct)
    for (const double max : {87.5, 141.0, 222.5}) {
      const Plan one = must(planTyped(std::to_string(pct) + "% x 3", max, kKilos));
      EXPECT_LE(one.sets[0].load_kg, max * pct / 100 + 0.051) << pct << " of " << max;
      EXPECT_GT(one.sets[0].load_kg, max * pct / 100 - 2.5);
    }
  const Plan unknown = must(planTyped("3@90%", std::nullopt, kKilos));
  EXPECT_EQ(unknown.sets[0].load_kg, 0) << "of what is not known";
  EXPECT_EQ(unknown.sets[0].share_pct, 90);
  ASSERT_EQ(unknown.notes.size(), 1u);
  EXPECT_FALSE(planTyped("3@130%", 150.0, kKilos));
  EXPECT_FALSE(planTyped("900 x 1", std::nullopt, kKilos)) << "nobody lifts that";
}

TEST(SetNotation, AWrittenPlanIsReadAsItself) {
  for (const auto& [rack, top] : {std::pair(kKilos, 170.0), std::pair(kPounds, 405 * kKilogramsPerPound)})
    for (const Plan& plan :
         {must(warmUpTo(top, rack)), must(rampTo(top, 5, rack)), must(backOff(top, 10, 3, 3, rack))}) {
      const std::string typed = typedText(plan, rack.unit);
      const Plan again = must(planTyped(typed, std::nullopt, rack));
      ASSERT_EQ(again.sets.size(), plan.sets.size()) << typed;
      for (std::size_t i = 0; i < plan.sets.size(); ++i) {
        EXPECT_NEAR(again.sets[i].load_kg, plan.sets[i].load_kg, 0.06) << typed;
        EXPECT_EQ(again.sets[i].reps, plan.sets[i].reps) << typed;
      }
    }
}

TEST(SetNotation, SaysSetsInALineForALetter) {
  EXPECT_EQ(setsInWords(must(planTyped("3x3 @ 125", std::nullopt, kKilos))), "3 x 3 at 125 kg (276 lb)");
  EXPECT_EQ(setsInWords(must(planTyped("5/3/1 @ 100/110/120", std::nullopt, kKilos))),
            "5/3/1 at 100 kg (220 lb), 110 kg (243 lb) and 120 kg (265 lb)");
  EXPECT_EQ(setsInWords(must(planTyped("140 x 2 @8", std::nullopt, kKilos))), "1 x 2 at 140 kg (309 lb), RPE 8");
  EXPECT_EQ(setsInWords(must(planTyped("4x5", std::nullopt, kKilos))), "4 x 5");
}

}  // namespace
}  // namespace jib::coaching
