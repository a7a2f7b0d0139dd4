// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/lifts/measure.h"

namespace jib::lifts {

// Everything measured of a squat set filmed from the side. One list a rep, one for the set.
struct SetMeasures {
  std::vector<MeasureList> reps;
  MeasureList set;
};

// Definitions are those of docs/formats.md; each is a function of its own in squat.cpp. Signs: forward and up are
// positive, a hip crease below the top of the knee is negative.
SetMeasures measureSquat(const motion::Motion& motion, const std::vector<motion::Rep>& reps);

// The rows of the measures table, in order; reps first, then the set's.
const std::vector<MeasureKind>& squatKinds();
const MeasureKind* squatKind(std::string_view id);

}  // namespace jib::lifts
