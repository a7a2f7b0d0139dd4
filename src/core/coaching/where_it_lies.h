// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/coaching/finding.h"
#include "core/lifts/kit.h"

namespace jib::coaching {

// Before a fault is coached away: where it may lie instead.
enum class LiesIn { Pain, Kit, Build, Load, Technique };

// What is known about a fault beside the film that shows it. Loads in kg.
struct LiesAsked {
  const Finding* finding = nullptr;
  std::size_t reps = 0;  // of the set
  bool pain = false;     // their words say that something hurts
  std::optional<double> load_kg, best_kg;
  std::optional<double> shown_kg, clean_kg;  // the lightest that showed it, the heaviest that was clean
  int asked_before = 0, helped = 0;          // how often this was asked, and how often it then got better
  lifts::Kit kit_now, kit_clean;             // of this clip, and of the latest that was clean; empty: not known
  std::optional<lifts::Measured> thigh_to_trunk = {};  // measure thigh_to_trunk_ratio
};

// One place to look, the question to ask there, and what speaks for it or against it.
struct LiesHint {
  LiesIn in;
  Standing standing = Standing::Open;
  std::string title, question;
  std::vector<std::string> reasons;  // a sentence each; none where nothing is known
};

// All five, what is supported first, in the order in which a coach rules them out: pain, kit, build, load and plan,
// then technique. Technique is supported by a fault that shows light, in every rep. A proposal; the coach decides.
std::vector<LiesHint> whereItLies(const LiesAsked& asked);

}  // namespace jib::coaching
