// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/coaching/cue.h"

namespace jib::coaching {

// Whether a change is worth its price now. A proposal from a few plain rules; the coach decides.
enum class Worth { Now, SecondDay, AfterMeet, WaitAndSee, LightTouch };

struct WorthAsked {
  const Cue* cue = nullptr;
  const CueEntry* entry = nullptr;      // of the book; null for the coach's own cue
  int severity = 0;                     // of the finding: 1 slight, 2 clear, 3 strong; 0 when it is not found
  std::size_t reps_with = 0, reps = 0;  // that show it, of all
  std::optional<int> days_to_meet;
  std::optional<double> years_training;
  bool careful = false;  // sore, or under 18
};

struct WorthAnswer {
  Worth worth = Worth::Now;
  std::string answer;                // "On the second day first."
  std::vector<std::string> reasons;  // what it costs, what it may bring, the way round; a sentence each
};

// Order of the rules: safety; a meet before the weeks are over; whether reps count; once or again; size against price;
// a long habit. The months and kilos are the cue's own dose, no forecast.
WorthAnswer worthChanging(const WorthAsked& asked);

}  // namespace jib::coaching
