// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/simulate/lift_script.h"

namespace jib::simulate {

// A plain set of deadlifts: bent to the bar on the floor, pulled, held, lowered, set down and still before the next.
class DeadliftScript : public LiftScript {
 public:
  explicit DeadliftScript(const ClipSpec& spec);
  Body at(double t_s) const override;

 private:
  // share_up: 0 on the floor, 1 locked out. `sunk`: share of the hips' rise before lift-off that is still to come.
  Body holding(double share_up, double drift_m, double sunk = 0) const;
  double sunkShin_deg() const;
  double lockoutHeight() const;

  double floor_z_m_ = 0, top_z_m_ = 0;
  double sunk_shin_deg_ = 0;  // further forward than at lift-off, while the hips are low
  RiseCurve rise_;
};

}  // namespace jib::simulate
