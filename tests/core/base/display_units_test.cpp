// SPDX-License-Identifier: GPL-3.0-or-later
// Words follow the units people read; numbers in files do not.
#include "core/base/display_units.h"
#include "core/base/quantity.h"

#include <gtest/gtest.h>

#include "core/coaching/loading.h"
#include "core/lifts/lift.h"

namespace jib {
namespace {

struct InUnits {
  explicit InUnits(DisplayUnits units) { setDisplayUnits(units); }
  ~InUnits() { setDisplayUnits({}); }
};

TEST(DisplayUnits, AreKilogramsAndCentimetresUntilTheyAreSet) {
  EXPECT_EQ(displayUnits(), DisplayUnits{});
  EXPECT_EQ(massText(100), "100 kg (220 lb)");
  const auto& depth = *lifts::measureDefinition("hip_crease_above_knee_m");
  EXPECT_EQ(lifts::textWithSigma(depth, {-0.0254, 0.0127, 1}), "−2.5 ± 2.1 cm");
}

TEST(DisplayUnits, LoadsAreSaidInBothTheOneThatIsReadFirst) {
  const InUnits pounds({MassUnit::Pounds, LengthUnit::Centimetres});
  EXPECT_EQ(massText(102.5), "226 lb (102.5 kg)");
}

TEST(DisplayUnits, LengthsAreInchesWithTheirUncertaintyAndNothingElseChanges) {
  const InUnits inches({MassUnit::Kilograms, LengthUnit::Inches});
  const auto& depth = *lifts::measureDefinition("hip_crease_above_knee_m");
  EXPECT_EQ(lifts::textWithSigma(depth, {-0.0254, 0.0127, 1}), "−1.0 ± 0.8 in");
  const auto& lean = *lifts::measureDefinition("trunk_lean_bottom_deg");
  EXPECT_EQ(lifts::text(lean, {41.2, 1, 1}), "41°");
  const auto& speed = *lifts::measureDefinition("bar_mean_ascent_mps");
  EXPECT_EQ(lifts::text(speed, {0.42, 0, 1}), "0.42 m/s");
}

}  // namespace
}  // namespace jib
