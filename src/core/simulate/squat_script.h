// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/simulate/lifter.h"

namespace jib::simulate {

// One rep of the script: times in s from the start of the clip.
struct ScriptedRep {
  double start_s, bottom_s, ascent_s, top_s;
  double bottom_z_m;
  double slide_m;  // how far the knee is taken back early in the ascent
  double drift_m;
  double heel_m;
};

// A made-up athlete's squat set from unrack to the last lockout: where body and bar are at any moment.
// Each rep goes down along a minimum-jerk path (Flash and Hogan 1985) and comes up with a dip in speed a little above
// parallel, the sticking region.
class SquatScript {
 public:
  explicit SquatScript(const ClipSpec& spec);

  double duration_s() const { return duration_s_; }
  Body at(double t_s) const;
  const std::vector<ScriptedRep>& reps() const { return reps_; }
  const Build& build() const { return build_; }

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

  ClipSpec spec_;
  Build build_;
  double standing_z_m_ = 0;
  double settled_s_ = 0;  // walk-out over
  double duration_s_ = 0;
  std::vector<double> rise_;  // share risen against share of ascent time, evenly spaced
  std::vector<ScriptedRep> reps_;
};

}  // namespace jib::simulate
