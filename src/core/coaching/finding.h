// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/coaching/rival_cause.h"
#include "core/coaching/style.h"
#include "core/lifts/measure_set.h"

namespace jib::coaching {

enum class Verdict { No, TooClose, Yes };
std::string_view nameOf(Verdict verdict);  // "no", "too_close", "yes"

// 1.64 σ to the safe side on both sides: nine times in ten the verdict is the one an exact measure would give.
using lifts::kSureSigmas;

// A measure held against a style's limit.
struct Finding {
  std::string id;  // "squat.hips_lead"
  Verdict verdict = Verdict::No;
  std::vector<int> reps;  // 1-based: those with verdict yes; of "too close", those too close; empty for the set
  int severity = 0;       // 0 none, 1 slight, 2 clear, 3 strong
  bool by_eye = false;    // the coach's own call: no measure, no limit, kind is null
  const lifts::MeasureDefinition* kind = nullptr;
  lifts::Measured worst;  // the rep that shows it most; by eye: only the moment counts
  double limit = 0;
  Side side = Side::Above;
  std::string settle;
  std::vector<std::string> causes;  // all that the cue book knows of
  std::vector<RivalCause> rivals;   // those that measurements can tell apart, best to test first
};

// A single value against a limit.
Verdict verdictOf(const lifts::Measured& measured, const Limit& limit);

// All findings of the lift the style has a limit for and the view carries, in the style's order. `variant`: limits of
// other variants are left out; empty is the usual one.
std::vector<Finding> judge(const lifts::SetMeasures& measures, const Style& style, const lifts::LiftDefinition& lift,
                           std::string_view variant = {});

}  // namespace jib::coaching
