// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/coaching/analysis.h"
#include "core/library/records.h"

namespace jib::library {

// The threads a reply starts: one a cue, with the number behind it and the day to look again. What a change may bring
// is watched for where `shown`, the findings of the film it is asked on, do not have it already.
std::vector<CueThread> threadsFor(const Submission& submission, const std::vector<coaching::Cue>& cues,
                                  const std::string& today_iso, const std::vector<coaching::Finding>& shown = {});
// The one that asks how training around something that hurts has gone.
CueThread painThread(const Submission& submission, const coaching::PainPlan& plan, const std::string& today_iso);

// Earlier threads as this submission shows them: value now, and the state that follows. Threads that were asked in this
// submission, in another film of its set (`same_set`) or of its day, or later, are left as they are: nothing can have
// happened since. So are those whose measure the view does not carry.
std::vector<CueThread> measuredNow(std::vector<CueThread> threads, const Submission& submission,
                                   const coaching::Analysis& analysis, const coaching::Style& style,
                                   const std::vector<SubmissionId>& same_set = {});

// The number behind a thread when it was asked, and now, for coach and athlete alike: "7.7 ± 2.6 cm", "seen by eye".
std::string thenText(const CueThread& thread);
std::string nowText(const CueThread& thread);
// What became of the change that was asked for, for the coach: "Stance width: from 45 to 50 cm. Now 49 ± 2 cm."
// Empty where nothing was to be changed.
std::string changeText(const CueThread& thread);

}  // namespace jib::library
