// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/lifts/measure_set.h"
#include "core/motion/reps.h"
#include "core/simulate/film.h"

namespace jib::simulate {

// The truth under the names of the analysis file: points, angles, bar, reps with their events and measures.
// The events are the contract's, found on the exact motion at 600 samples a second; so are the measures.
struct TrueSet {
  motion::Motion motion;  // at the clip's own frame times
  std::vector<motion::Rep> reps;
  lifts::SetMeasures measures;
};
TrueSet trueSet(const Truth& truth);

std::string truthToJson(const Truth& truth);

}  // namespace jib::simulate
