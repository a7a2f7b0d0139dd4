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
  Body holding(double share_up, double drift_m) const;  // 0 on the floor, 1 locked out
  double lockoutHeight() const;

  double floor_z_m_ = 0, top_z_m_ = 0;
  RiseCurve rise_;
};

}  // namespace jib::simulate
