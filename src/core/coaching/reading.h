// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/coaching/cue.h"
#include "core/coaching/finding.h"
#include "core/coaching/style.h"

namespace jib::coaching {

// One rep's value of what a finding is about, held against the finding's limit: a row of the small scale beside it.
struct Reading {
  int rep = 0;  // counted from 1; 0: of the set
  lifts::Measured value;
  Verdict verdict = Verdict::No;
};

// Every rep's, in their order, then the set's own; reps in which it could not be measured are left out. Of a finding by
// eye none.
std::vector<Reading> readingsOf(const lifts::SetMeasures& measures, const Finding& finding);

// The order in which findings deserve a look: those already chosen to be said as they stand in `chosen`, then what is
// sure, the strongest first, then what is too close to call, then what is as it should be. Where the coach has an order
// of looking, what is sure comes in that, and so on.
std::vector<const Finding*> byWorth(const std::vector<Finding>& findings, const std::vector<std::string>& chosen,
                                    const Style& style = {});

// What is looked for by eye, in the coach's order.
std::vector<const CueEntry*> asLookedAt(std::vector<const CueEntry*> entries, const Style& style);

}  // namespace jib::coaching
