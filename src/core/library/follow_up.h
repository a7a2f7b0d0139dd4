// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/coaching/analysis.h"
#include "core/library/records.h"

namespace jib::library {

// The threads a reply starts: one a cue, with the number behind it and the day to look again.
std::vector<CueThread> threadsFor(const Submission& submission, const std::vector<coaching::Cue>& cues,
                                  const std::string& today_iso);

// Earlier threads as this submission shows them: value now, and the state that follows. Threads that were asked in this
// submission, or later, or whose measure the view does not carry, are left as they are.
std::vector<CueThread> measuredNow(std::vector<CueThread> threads, const Submission& submission,
                                   const coaching::Analysis& analysis, const coaching::Style& style);

}  // namespace jib::library
