// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/angle.h"

#include <gtest/gtest.h>

namespace jib {
namespace {

constexpr double kExact = 1e-9;  // rounding only

TEST(Lean, IsPositiveWhenTheUpperEndIsFurtherForward) {
  EXPECT_NEAR(lean_deg({0, 0}, {0, 1}), 0, kExact);
  EXPECT_NEAR(lean_deg({0, 0}, {1, 1}), 45, kExact);
  EXPECT_NEAR(lean_deg({0, 0}, {-1, 1}), -45, kExact);
  EXPECT_NEAR(lean_deg({2, 5}, {3, 5}), 90, kExact);
}

TEST(IncludedAngle, IsStraightAt180AndRightAt90) {
  EXPECT_NEAR(included_deg({0, 0}, {0, 1}, {0, 2}), 180, 1e-5);
  EXPECT_NEAR(included_deg({0, 0}, {0, 1}, {1, 1}), 90, kExact);
}

TEST(IncludedAngle, OfPointsThatCoincideIsStraightNotNan) {
  EXPECT_EQ(included_deg({1, 1}, {1, 1}, {2, 2}), 180);
}

}  // namespace
}  // namespace jib
