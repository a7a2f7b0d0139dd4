// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/display_units.h"
#include "core/base/result.h"
#include "core/coaching/plan.h"

namespace jib::coaching {

// One set as it was typed, before it is known what a share of a max weighs.
struct TypedSet {
  std::optional<double> load_kg, share_pct;  // at most one of them
  std::optional<int> reps;
  std::optional<double> rpe;
  friend bool operator==(const TypedSet&, const TypedSet&) = default;
};

// Sets as coaches type them, in order, several apart by commas, semicolons or lines:
//   4x5    5x3 @ 80%    80 % x 6    3@90%    140kg x 2 @8    3x3 125    5/3/1 @ 100/110/120    70/80/90 % x 2
//   100, 110 and 120    60-70-80% x3    single @ 8
// A number of a pair is sets before reps, unless it has a unit, or is too large for a number of sets: then it is a
// load. `bare`: what a load without a unit counts in. Errors  WrongUse, with the words that could not be read
Result<std::vector<TypedSet>> setsTyped(std::string_view text, MassUnit bare = MassUnit::Kilograms);

// The same with loads and plates. `max_kg`: what shares are of; without it a share stays one, and a note says so.
// A share is a load at or below it, never above. Errors  WrongUse also for loads that no rack holds
Result<Plan> planTyped(std::string_view text, std::optional<double> max_kg, const Rack& rack);

// A plan as it would be typed; reading it gives the same sets. Loads in `unit`.
std::string typedText(const Plan& plan, MassUnit unit);

}  // namespace jib::coaching
