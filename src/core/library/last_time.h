// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/library.h"

namespace jib::library {

// The set a new one is held against: the athlete's latest earlier one of the same lift whose numbers are kept.
struct LastTime {
  Submission submission;
  std::map<std::string, lifts::Measured> mean;  // over its reps, or of the set, by measure
};

// nullopt when there is none.
Result<std::optional<LastTime>> lastTime(Library& library, const Submission& now);

// The mean of some reps' values. What they share is not averaged out: σ is that of the least certain.
// values  at least one
lifts::Measured meanOf(const std::vector<lifts::Measured>& values);

// Whether two values differ by more than what they are uncertain by, nine times in ten.
bool changed(const lifts::Measured& now, const lifts::Measured& then);

}  // namespace jib::library
