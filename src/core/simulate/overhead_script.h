// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/simulate/lift_script.h"

namespace jib::simulate {

// A set of presses from the shoulders to overhead, standing: stepped back from the rack, pressed, stepped in again.
class OverheadScript : public LiftScript {
 public:
  explicit OverheadScript(const ClipSpec& spec);
  Body at(double t_s) const override;

 private:
  struct Hold;
  Body holding(const Hold& hold) const;
  Hold pressing(const ScriptedRep& rep, double t_s) const;
  void pointElbows();

  const RiseCurve rise_;
  double elbow_ahead_ = 0;  // how the elbows point while the bar rests: ahead, against down
  double walked_s_ = 0;     // how long it takes to step back; 0 is not filmed
};

}  // namespace jib::simulate
