// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/simulate/lift_script.h"

namespace jib::simulate {

// A made-up athlete's squat set from unrack to the last lockout: where body and bar are at any moment.
// Each rep goes down along a minimum-jerk path (Flash and Hogan 1985) and comes up with a dip in speed a little above
// parallel, the sticking region.
class SquatScript : public LiftScript {
 public:
  explicit SquatScript(const ClipSpec& spec);

  Body at(double t_s) const override;

 private:
  struct Pose {
    MetrePoint bar;
    double shin_deg;
    double heel_m;
  };
  Pose poseInRep(const ScriptedRep& rep, double t_s) const;
  Body bottomBody(double bottom_z_m, const ScriptedRep& rep) const;
  double standingBarHeight() const;
  double bottomFor(double depth_m, const ScriptedRep& rep) const;
  double shinAt(double share_down) const;
  double extraSlideForPitch(ScriptedRep rep, double pitch_deg) const;
  void scheduleReps(double from_s);

  double standing_z_m_ = 0;
  double settled_s_ = 0;  // walk-out over
  RiseCurve rise_;
};

}  // namespace jib::simulate
