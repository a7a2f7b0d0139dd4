// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/lifts/lift.h"

namespace jib::lifts {

// Everything measured of a set filmed from the side. One list a rep, one for the set; in the order of the lift's
// tables.
struct SetMeasures {
  std::vector<MeasureList> reps;
  MeasureList set;
};

// Definitions are those of docs/formats.md; each is a function of its own. Signs: forward, where the toes point, and up
// are positive.
SetMeasures measureSet(const LiftDefinition& lift, const motion::Motion& motion, const std::vector<motion::Rep>& reps);

// A measure over the reps of a set, their mean: they err alike, so the mean is no surer than one of them. nullopt where
// no rep has it.
std::optional<Measured> meanOf(std::string_view measure, const SetMeasures& measures);

// How many usual faults a value is worth in a ranking.
double usualFaults(const RankTerm& term, double value);
// What ranks a rep behind the others of its set, in usual faults: 0 has none.
double rankCost(const MeasureList& rep, std::span<const RankTerm> ranking);

// Measures of the set that several lifts share.
Measure spread(const SetLook& look, std::string_view id);
Measure speedLoss(const SetLook& look);
Measure descentChange(const SetLook& look);
Measure bestRep(const SetLook& look, std::span<const RankTerm> ranking);
Measure worstRep(const SetLook& look, std::span<const RankTerm> ranking);

}  // namespace jib::lifts
