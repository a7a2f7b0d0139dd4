// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/coaching/cue.h"
#include "core/footage/clip_info.h"
#include "core/lifts/squat.h"
#include "core/motion/motion.h"
#include "core/motion/reps.h"
#include "core/tracing/clip_tracer.h"

namespace jib::coaching {

struct Notice {
  std::string id;
  std::string text;
};

struct AnalysisRequest {
  std::string lift = "squat";
  std::string variant = "low-bar";
  double slow_factor = 1;
  tracing::TraceRequest trace;
  ByEye by_eye;  // what the coach judged without a measure
};

// The whole chain for one clip, from trace to proposal. Each stop is kept, so that the window, the reply and the file
// all show the same thing.
struct Analysis {
  AnalysisRequest request;
  footage::ClipInfo clip;
  tracing::ClipTrace trace;
  motion::Motion motion;
  std::vector<motion::Rep> reps;
  std::vector<motion::Miss> misses;  // descents that were not brought back up
  lifts::SetMeasures measures;
  std::vector<Finding> findings;
  Proposal proposal;
  std::string style_id;
  std::vector<Notice> notices;
};

// Traces and judges a clip.
// Errors  those of traceClip; NoLiftFound when the bar moves but no rep is among its motion; WrongUse for a lift that
//         cannot be judged yet; Cancelled
Result<Analysis> analyse(footage::FrameReader& reader, const AnalysisRequest& request, const Style& style,
                         const CueBook& book, Task& task, tracing::KnownTrace known = {});

// Everything after tracing, again: after pins moved or another style was chosen. Milliseconds.
void judgeAgain(Analysis& analysis, const Style& style, const CueBook& book);

}  // namespace jib::coaching
