// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/lifts/lift.h"

namespace jib::lifts {

// What a traced film shows and no lifter does: a bar that falls faster than things fall, hands that are not at the bar
// they press, a bar nobody stands at, an athlete no door would let through. Something was taken for something else
// then, and however sure the numbers look, those that rest on it are widened or withheld. All such checks are made
// here, once; measures, notices and the clip card ask what they found.
struct Impossible {
  std::string id;                      // of a notice: "falls_too_fast"
  std::string text;                    // a sentence or two for the coach
  bool no_bar = false;                 // measures of the bar are withheld
  bool no_body = false;                // and those of the body
  std::vector<std::size_t> reps = {};  // counted from 0; empty: of the whole film
  double scale_sigma_rel = 0;          // widens every length and speed

  bool concerns(std::size_t rep) const;
};
std::vector<Impossible> impossibleIn(const LiftDefinition& lift, const motion::Motion& motion,
                                     const std::vector<motion::Rep>& reps);

// A measure with what was found taken into account. `rep`: counted from 0.
Measure heldAgainst(const std::vector<Impossible>& found, const RepMeasure& row, std::size_t rep, Measure measure);

}  // namespace jib::lifts
