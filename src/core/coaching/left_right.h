// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <map>
#include <string>
#include <vector>

#include "core/coaching/finding.h"

namespace jib::coaching {

// In how many of the athlete's earlier sets a difference between left and right was found, by its sign: below zero,
// above it.
using SidesSeen = std::map<std::string, std::array<int, 2>, std::less<>>;

// Left-right findings (of a measure that isSided()) that are not worth a cue yet, and why. Everybody lifts a little
// unevenly, so one is worth a cue where at least three reps go to the same side, or all of a shorter set, and another
// set did before. None waits where the style says such things at once.
std::map<std::string, std::string, std::less<>> leftRightThatWaits(const std::vector<Finding>& findings,
                                                                   const lifts::SetMeasures& measures,
                                                                   const SidesSeen& before, const Style& style);

}  // namespace jib::coaching
