// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

#include "core/lifts/lift.h"
#include "core/tracing/sightings/lift_look.h"

namespace jib::lifts {

// The lift whose body and bar look so; empty where the film does not tell.
std::string looksLike(tracing::LiftSeen seen);

std::string usualVariant(std::string_view lift);  // empty for a lift that is not known

// What is known of which lift a clip shows.
struct LiftTold {
  std::string told;        // by the words or the coach; empty: nobody said
  bool confirmed = false;  // the coach holds to it whatever the film looks like
  std::string seen;        // what the film looks like; empty: it does not tell
};

// What is to be done with it: the lift to judge, or why nothing is judged, in words for the coach.
struct LiftDecision {
  std::string lift;      // as far as it is known; empty: ask
  bool judge = false;    // it may be measured
  std::string question;  // what to ask the coach; empty: nothing
  std::string reason;    // one sentence why nothing is judged; empty when it is
};
LiftDecision decide(const LiftTold& told);

}  // namespace jib::lifts
