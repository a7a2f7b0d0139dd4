// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/simulate/lifter.h"

namespace jib::simulate {

// One rep of a script: times in s from the start of the clip. Of a pull, start, bottom and ascent are lift-off.
struct ScriptedRep {
  double start_s = 0, bottom_s = 0, ascent_s = 0, top_s = 0;
  double bottom_z_m = 0;
  double slide_m = 0;  // how far the knee is taken back early in the ascent
  double drift_m = 0;
  double heel_m = 0;
  double floor_m = 0;   // of a pull: how far forward the bar lies
  double share_up = 1;  // less of a rep that is missed
};

// A made-up athlete's set from the first touch of the bar to the last: where body and bar are at any moment.
class LiftScript {
 public:
  virtual ~LiftScript() = default;
  virtual Body at(double t_s) const = 0;

  // Somebody else in the picture.
  virtual std::optional<Body> helperAt(double) const { return std::nullopt; }

  double duration_s() const { return duration_s_; }
  const std::vector<ScriptedRep>& reps() const { return reps_; }
  const Build& build() const { return build_; }

 protected:
  explicit LiftScript(const ClipSpec& spec) : spec_(spec), build_(spec.lifter, spec.set.variant) {}

  const ClipSpec spec_;
  const Build build_;
  double duration_s_ = 0;
  std::vector<ScriptedRep> reps_;
};

// The script of the lift the clip shows.
std::unique_ptr<LiftScript> scriptFor(const ClipSpec& spec);

// Share risen against share of the ascent's time: a bell of speed with a dip of `sticking`, 0 to 0.8, where lifters
// slow down.
class RiseCurve {
 public:
  explicit RiseCurve(double sticking);
  double at(double share_of_time) const;

 private:
  std::vector<double> risen_;
};

double minimumJerk(double s);  // 0 to 1 with no jerk at the ends. Source  Flash and Hogan 1985
double smooth(double s);       // 0 to 1 with no slope at the ends

}  // namespace jib::simulate
