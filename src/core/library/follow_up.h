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
// submission, in another film of its set (`same_set`) or of its day, or later, are left as they are: nothing can have
// happened since. So are those whose measure the view does not carry.
std::vector<CueThread> measuredNow(std::vector<CueThread> threads, const Submission& submission,
                                   const coaching::Analysis& analysis, const coaching::Style& style,
                                   const std::vector<SubmissionId>& same_set = {});

// The number behind a thread when it was asked, and now, for coach and athlete alike: "7.7 ± 2.6 cm", "seen by eye".
std::string thenText(const CueThread& thread);
std::string nowText(const CueThread& thread);

}  // namespace jib::library
