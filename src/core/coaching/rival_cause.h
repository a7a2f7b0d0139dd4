// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/lifts/measure_set.h"

namespace jib::coaching {

// A number that would speak for or against a cause: "knee_slide_back_m > 0.03".
struct EvidenceRule {
  std::string measure;  // id
  bool above = true;
  double threshold = 0;
  bool speaks_for = true;
};

// One of several causes that fit the same fault, as the cue book tells it.
struct CauseRule {
  std::string cause;
  std::string test;  // what to try, to find out
  int cost = 1;  // of the test: 1 at once (stance, eyes, tempo, grip), 2 some sessions, 3 weeks of drills and strength
  std::vector<EvidenceRule> evidence;
};

enum class Standing { Supported, Open, Unlikely };

struct Evidence {
  const lifts::MeasureDefinition* kind = nullptr;
  lifts::Measured value;
  EvidenceRule rule;
};

struct RivalCause {
  std::string cause, test;
  int cost = 1;
  Standing standing = Standing::Open;
  std::vector<Evidence> speaking_for, speaking_against;  // only what is sure beyond the usual margin
  std::optional<bool> helped;                            // its test was tried, and whether it did
};

// Weighs the causes of one fault against what was measured over the set (means over the reps; σ does not shrink, as
// reps err alike). A cause is supported when something sure speaks for it and nothing against it, unlikely when it is
// the other way round, and open otherwise; a test that was tried has the last word. Order: what helped first, unlikely
// ones last, else the cheapest test first, the supported before the open at the same cost.
// `tried`: how the test of a cause went, nullopt where it was not tried
using Tried = std::function<std::optional<bool>(std::string_view cause)>;
std::vector<RivalCause> weigh(const std::vector<CauseRule>& rules, const lifts::SetMeasures& measures,
                              const Tried& tried = {});

// For people: "Knee slides back 7.5 ± 1.0 cm, over 3.0 cm".
std::string textOf(const Evidence& evidence);

}  // namespace jib::coaching
