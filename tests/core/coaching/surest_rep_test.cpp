// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include "core/coaching/finding.h"
#include "core/lifts/lift.h"

namespace jib::coaching {
namespace {

// Rep 1 is 10 ± 1, past a limit of 7 for sure; rep 2 is 16 ± 8, and may be nothing.
TEST(Judge, TellsTheNumberOfARepItIsSureOf) {
  const auto& squat = lifts::definition(lifts::LiftId::Squat);
  const auto* kind = lifts::measureDefinition("trunk_lean_gain_deg");
  Style style;
  Limit limit;
  limit.finding = "squat.chest_drops";
  limit.measure = "trunk_lean_gain_deg";
  limit.limit = 7;
  limit.strong = 15;
  limit.side = Side::Above;
  style.limits = {limit};
  lifts::SetMeasures m;
  m.reps.push_back({{kind, lifts::Measured{10, 1, 1.0}}});
  m.reps.push_back({{kind, lifts::Measured{16, 8, 5.0}}});
  const auto findings = judge(m, style, squat);
  ASSERT_EQ(findings.size(), 1u);
  EXPECT_EQ(findings[0].verdict, Verdict::Yes);
  EXPECT_EQ(findings[0].reps, std::vector<int>{1});
  EXPECT_EQ(findings[0].worst.value, 10);
  EXPECT_EQ(findings[0].worst.t_s, 1.0);
  EXPECT_EQ(findings[0].severity, 1) << "3 of the 8 degrees from the limit to what is strong";
}

}  // namespace
}  // namespace jib::coaching
