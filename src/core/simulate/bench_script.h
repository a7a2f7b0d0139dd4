// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/simulate/lift_script.h"

namespace jib::simulate {

inline constexpr double kBenchTop_m = 0.43;  // of the pad, off the floor

// A plain set of bench presses: out of the hooks, down to the chest a little towards the feet, paused, up in an arc
// towards the head, and back into the hooks; the last may be missed and taken by a spotter.
class BenchScript : public LiftScript {
 public:
  explicit BenchScript(const ClipSpec& spec);
  Body at(double t_s) const override;
  std::optional<Body> helperAt(double t_s) const override;

  static MetrePoint hooks(const Build& build);  // where the bar rests before and after the set

 private:
  MetrePoint barAt(double t) const;
  MetrePoint takenFromMiss(double t) const;
  void pullElbowsAhead();

  MetrePoint up_, touch_;
  double racked_s_ = 0;  // when the bar is on its way back to the hooks
  RiseCurve rise_;
  double elbow_towards_ = LyingPose{}.elbow_towards;  // of the feet at the touch
};

}  // namespace jib::simulate
