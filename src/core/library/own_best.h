// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/library.h"
#include "core/lifts/lift.h"

namespace jib::library {

// The best rep of an athlete's earlier sets of the same lift and variant, as far as their numbers are kept: the one
// least behind a rep without faults (lifts::rankCost).
struct OwnBest {
  Submission submission;
  int rep = 1;
  std::map<std::string, lifts::Measured, std::less<>> measured;  // what ranks a rep, by measure
};

// nullopt when no earlier set was measured for all that ranks a rep.
Result<std::optional<OwnBest>> ownBest(Library& library, const Submission& now);

// By how much a rep is behind it, in usual faults, and the 1 σ of that; negative when it is better. nullopt when not
// all of what ranks it was measured. Two films share no errors, so those of both count.
std::optional<lifts::Measured> behind(const lifts::MeasureList& rep, const OwnBest& best,
                                      const lifts::LiftDefinition& lift);

}  // namespace jib::library
