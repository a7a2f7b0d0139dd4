// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "core/coaching/asked.h"
#include "core/coaching/cue.h"
#include "core/coaching/left_right.h"
#include "core/coaching/mark.h"
#include "core/footage/clip_info.h"
#include "core/lifts/alike.h"
#include "core/lifts/measure_set.h"
#include "core/motion/motion.h"
#include "core/motion/rep_edits.h"
#include "core/motion/reps.h"
#include "core/motion/sets.h"
#include "core/tracing/clip_tracer.h"

namespace jib::coaching {

struct Notice {
  std::string id;
  std::string text;
};

// Which set of a clip is judged when it holds several.
struct SetChoice {
  std::optional<int> index;                     // counted from 0; nullopt: the top set
  std::vector<std::optional<double>> loads_kg;  // of each set, as far as known
  friend bool operator==(const SetChoice&, const SetChoice&) = default;
};

struct AnalysisRequest {
  lifts::LiftId lift = lifts::LiftId::Squat;
  std::string variant;  // both dimensions, lifts::variantOf; empty: the lift's usual one
  double slow_factor = 1;
  tracing::TraceRequest trace;
  Marks marks;  // what the coach judged without a measure
  // Findings the coach does not share, each with the reason; they are in nothing that is sent or kept in the ledger.
  std::map<std::string, std::string, std::less<>> rejected;
  std::optional<motion::HeldReps> held;  // the reps as the coach holds them to be; nullopt: as they were found
  std::optional<SetChoice> one_set;      // nullopt: all reps of the clip are one set
  // Claims (clip_check.h) the coach judges although the view does not carry them, and the day of that decision.
  std::map<std::string, std::string, std::less<>> overruled;
  bool lift_guessed = false;            // by the program, from the film: nobody has said which lift it is
  std::string message;                  // the athlete's words: what they ask about is answered first
  std::optional<double> share_of_best;  // load over the athlete's best, where both are known
  SidesSeen sides_before;               // empty where nobody knows of an earlier set
};

struct Analysis;

// The same set in another film: what this one does not carry is taken from there (two_films.h).
struct OtherFilm {
  std::shared_ptr<const Analysis> analysis;
  double offset_s = 0;                             // added to a time of this clip it gives the same moment in the other
  std::set<std::string, std::less<>> joined = {};  // ids of the measures that come from it; filled by joinOthers()
};

// The whole chain for one clip, from trace to proposal. Each stop is kept, so that the window, the reply and the file
// all show the same thing.
struct Analysis {
  AnalysisRequest request;
  footage::ClipInfo clip;
  tracing::ClipTrace trace;
  motion::Motion motion;
  std::vector<motion::SetSpan> sets;  // of the whole clip
  std::optional<std::size_t> set;     // the one that is judged, when there are several and one was asked for
  std::vector<motion::Rep> reps;      // that are judged
  std::vector<motion::Rep> misses;    // begun and not brought to lockout
  std::vector<motion::Rep> found;     // in the whole clip, by the program, whatever the coach made of them
  lifts::SetMeasures measures;
  std::vector<OtherFilm> others;  // none: this film stands alone
  std::vector<Finding> findings;
  std::vector<Finding> rejected;   // by the coach
  std::vector<std::string> asked;  // findings the athlete asked about
  std::vector<NotSeen> not_seen;   // checks this clip does not carry
  Proposal proposal;
  std::string style_id;
  Switches switches;               // the sides it took
  std::vector<std::string> sides;  // the same in words
  std::vector<Notice> notices;
  // Why nothing is traced in this clip, for the coach; empty where something is. Then there are frames and what the
  // coach marks, draws and says, and no numbers.
  std::string untraced;
  bool isTraced() const { return untraced.empty(); }
};

// A clip that is only watched: nothing could be traced in it, or nothing of this lift and view is. `why`, a sentence
// for the coach.
Analysis watched(const footage::ClipInfo& clip, const AnalysisRequest& request, const Style& style, const CueBook& book,
                 std::string why);

// Traces and judges a clip. Of several sets the one that is judged is traced whole.
// Errors  those of traceClip; NoLiftFound when the bar moves but no rep is among its motion; Cancelled
Result<Analysis> analyse(footage::FrameReader& reader, const AnalysisRequest& request, const Style& style,
                         const CueBook& book, Task& task, tracing::KnownTrace known = {});

// The same, and a film without a rep is no error: for a first look, before it is known which lift it shows.
// Errors  as above but NoLiftFound for want of a rep
Result<Analysis> traced(footage::FrameReader& reader, const AnalysisRequest& request, const Style& style,
                        const CueBook& book, Task& task, tracing::KnownTrace known = {});

// Why a clip whose plate was followed holds no rep of a lift, a sentence.
std::string noRepText(lifts::LiftId lift);

// A moment in the set that is judged, when its body was not looked for because the clip holds several sets; nullopt
// when nothing is missing. Tracing again with it as TraceRequest::around_s finds it.
std::optional<double> bodyMissingAt(const Analysis& analysis);

// What an analysed clip's numbers depend on beside the lifter, as the film tells: lift, variation, view, and how the
// camera stood. Load and gear are the submission's to add.
lifts::FilmedAs filmedAs(const Analysis& analysis);
// "left", "front", "oblique", "unknown": as files have it.
std::string_view viewName(const Analysis& analysis);

// What a claim about a clip is about, for people; the id itself when it is none of this lift's.
std::string titleOfClaim(lifts::LiftId lift, std::string_view id);

// Everything after tracing, again: after pins moved or another style was chosen. Milliseconds.
void judgeAgain(Analysis& analysis, const Style& style, const CueBook& book);
// The same with another request. What a job brings is a trace, made with what was told when it began: it is judged with
// what is told now.
void judgeAnew(Analysis& analysis, AnalysisRequest request, const Style& style, const CueBook& book);

}  // namespace jib::coaching
