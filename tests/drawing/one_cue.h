// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/review/reply_content.h"
#include "tests/core/analysed_clip.h"

namespace jib::tests {

// A reply to the small squat that says one thing, shown at the bottom of the first rep.
inline review::ReplyContent oneCue() {
  coaching::Cue cue;
  cue.finding = "squat.knees_slide_back";
  cue.title = "Knees slide back";
  cue.wording = "Knees stay where they are.";
  cue.measure = "knee_slide_back_m";
  cue.t_s = smallAnalysis().reps[0].bottom_t();
  review::ReplyContent content;
  content.athlete = "Ola Marsh";
  content.filmed_on = "2026-02-03";
  content.coach = "Mara Quill";
  content.cues = {cue};
  return content;
}

}  // namespace jib::tests
