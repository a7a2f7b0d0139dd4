// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/simulate/lift_script.h"

namespace jib::simulate {

// A set of deadlifts: bent down to the bar on the floor, the slack taken out, pulled, held, lowered, set down and still
// before the next, unless it is touch and go; the last may be missed.
class DeadliftScript : public LiftScript {
 public:
  explicit DeadliftScript(const ClipSpec& spec);
  Body at(double t_s) const override;

 private:
  // Where a lifter holds the bar.
  struct Hold {
    double share_up = 0;  // 0 on the floor, 1 locked out
    double forward_m = 0;
    double sunk = 0;  // share of the hips' rise before lift-off that is still to come
    double bend_m = 0;
  };
  Body holding(const Hold& hold) const;
  Body standingOver(double share_up, double forward_m) const;
  Body pulling(const ScriptedRep& rep, double t_s) const;
  // Between one rep's setting down, or the beginning, and the next lift-off.
  Body ready(double before_s, double after_s, double from_m, double to_m) const;
  double sunkShin_deg() const;
  double lockoutHeight() const;

  // With the bar on the floor.
  struct Stance {
    double shin_deg = 14, shoulder_ahead_m = 0.05, grip_m = 0.25;
  };
  Stance stance_;
  double floor_z_m_ = 0, top_z_m_ = 0;
  double sunk_shin_deg_ = 0;  // further forward than at lift-off, while the hips are low
  RiseCurve rise_;
};

}  // namespace jib::simulate
