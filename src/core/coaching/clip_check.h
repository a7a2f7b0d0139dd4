// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/coaching/analysis.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::coaching {

using lifts::Can;
std::string_view nameOf(Can can);  // "no", "weakly", "yes"

// One thing a coach may be asked about, and whether this clip carries it.
struct Claim {
  std::string id;     // "depth"
  std::string title;  // "Depth"
  Can can = Can::Yes;
  std::string why;  // a sentence; empty when it can be judged
};

// What is wrong with a clip, and what to ask for instead.
struct ClipTrouble {
  std::string id;               // of a FilmLack: "camera_high"
  std::string what;             // for the coach
  std::string ask;              // for the athlete, to go on from "Please"
  std::string to_athlete = {};  // what it is, in words for them; of a check kept by an older program empty
};

// The card on a submission before anyone has looked: what can be judged from it, and what to ask for.
struct SetSeen {
  int reps = 0;
  double from_s = 0, to_s = 0;  // file time
};

struct ClipCheck {
  std::string view;       // of tracing::Seen
  std::string lift_seen;  // what the film looks like: "squat", "bench", "deadlift"; empty: it does not tell
  std::string failed;     // why nobody could look at the clip, a sentence; empty when it was looked at
  int reps = 0, misses = 0;
  std::vector<SetSeen> sets;
  double frame_rate = 0;
  std::optional<double> slow_factor;  // the clip looks slowed by so much; a question, never applied by itself
  std::vector<Claim> claims;
  std::vector<ClipTrouble> troubles;

  const Claim* claim(std::string_view id) const&;
  const Claim* claim(std::string_view) const&& = delete;  // it would point into what is gone
};

// The tracing looks more often and more closely than the glance, and a plate seen round is not seen from the front.
void lookAgain(tracing::FirstLook& look, const Analysis* analysis);

// `look`: the glance at the clip. `lift`: whose claims are asked for. `analysis`: its tracing; null when no lift was
// found in it, with `trouble` saying why.
ClipCheck checkClip(const footage::ClipInfo& clip, const tracing::FirstLook& look, lifts::LiftId lift,
                    const Analysis* analysis, const std::string& trouble);

// The check of a clip that cannot be looked at: nothing is claimed of it, and the reason is kept.
ClipCheck failedCheck(const std::string& why);

// The same as JSON text for keeping, and back. Errors  BadData
std::string checkToJson(const ClipCheck& check);
Result<ClipCheck> checkFromJson(std::string_view json);

}  // namespace jib::coaching
