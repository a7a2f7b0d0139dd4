// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/coaching/clip_check.h"
#include "core/library/library.h"
#include "core/lifts/which_lift.h"

namespace jib::exchange {

// An analysis from a stored tracing, as tracing::traceToJson() made it: no pixel is looked at.
// Errors  BadData
Result<coaching::Analysis> restored(const footage::ClipInfo& clip, const coaching::AnalysisRequest& request,
                                    std::string_view json, const coaching::Style& style, const coaching::CueBook& book);

// The lift a submission is judged as; while nobody has said, the first of all lifts, and nothing is judged.
lifts::LiftId liftIdOf(const library::Submission& s);

// What is asked of the analysis of a submission: what its record and its review know of how the clip was made, and what
// is known of the athlete's body.
coaching::AnalysisRequest requestFor(const library::Submission& submission, const library::Review& review,
                                     const library::Profile& profile);

// The style an athlete is judged in: the athlete's own, with the sides taken for all athletes and over them those taken
// for this one; the coach's own files in the library's folder count. A style that is no longer there is as "balanced".
// Errors  those of the library
Result<coaching::Style> styleOf(library::Library& library, const library::Athlete& athlete);

// What earlier sets of the athlete's showed of left against right (AnalysisRequest::sides_before), for the findings the
// style looks for. Errors  those of the library
Result<coaching::SidesSeen> sidesBefore(library::Library& library, const library::Submission& submission,
                                        const coaching::Style& style);

// Submissions whose clip nobody has looked at yet, in the order in which they should be: newest first.
Result<std::vector<library::SubmissionId>> unprepared(library::Library& library);

// Which lift a submission shows, from what was said and what the film looks like.
lifts::LiftDecision liftOf(const library::Submission& submission, const coaching::ClipCheck* check);

// Looks at a submission before a coach does: a glance, which lift it looks like, the tracing, the clip's check, what is
// found. All of it is kept, so that the clip opens ready. Where nobody said which lift it is, the film's is taken, and
// said to be the film's; where words and film disagree nothing is judged. A submission that was traced already is only
// checked. A clip that cannot be used, or whose reading ended the program twice, gets the state "needs better video"
// with the reason, and is not tried again. Errors  those of the library; Cancelled, with nothing of this submission
// kept
Result<coaching::ClipCheck> prepare(library::Library& library, library::SubmissionId id, Task& task);

}  // namespace jib::exchange
