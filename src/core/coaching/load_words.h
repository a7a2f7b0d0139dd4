// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/coaching/plan.h"

namespace jib::coaching {

// What shares in a cue's words are shares of.
struct LoadBasis {
  std::optional<double> max_kg;  // for "60 to 70 % of max"
  bool max_estimated = false;    // nobody said it: from a set
  std::optional<double> top_kg;  // for "5 to 10 % off": the set that was filmed
};

// Words that ask for shares, in kilos and pounds: "60 to 70 % of max" of 180 kg is "107.5 to 125 kg (237 to 276 lb)".
// Each end is what the rack can load at or below it. Empty where the words name no share, or nobody knows of what.
std::string inKilos(std::string_view words, const LoadBasis& basis, const Rack& rack);
// The words with it behind them, once: "60 to 70 % of max: 107.5 to 125 kg (237 to 276 lb)".
std::string withKilos(std::string words, const LoadBasis& basis, const Rack& rack);

}  // namespace jib::coaching
