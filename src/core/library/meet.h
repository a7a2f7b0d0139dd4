// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/display_units.h"
#include "core/base/result.h"
#include "core/lifts/lift.h"

namespace jib::library {

// One attempt, in kg, and whether it counted.
struct Attempt {
  double load_kg = 0;
  bool good = false;
  friend bool operator==(const Attempt&, const Attempt&) = default;
};

// A meet an athlete lifted in.
struct Meet {
  std::string on;  // ISO date
  std::string name;
  std::string rules;  // of coaching/rule_book.h; empty: not told
  std::string kit;    // "raw", "knee wraps", in words
  std::string weight_class;
  std::optional<double> body_mass_kg;
  std::array<std::vector<Attempt>, lifts::kLifts> attempts;  // by lifts::at

  std::optional<double> best_kg(lifts::LiftId lift) const;  // the heaviest that counted
  std::optional<double> total_kg() const;                   // nullopt: a lift without one that counted
  friend bool operator==(const Meet&, const Meet&) = default;
};

// Attempts as a coach types them, in order: "170, 180, 190x"; an x is a miss, a bare number counts in `unit`.
// Errors  WrongUse, saying which of them is no attempt
Result<std::vector<Attempt>> attemptsFrom(std::string_view typed, MassUnit unit);
// The same, as it would be typed.
std::string attemptsText(const std::vector<Attempt>& attempts, MassUnit unit);

nlohmann::ordered_json meetsToJson(const std::vector<Meet>& meets);
std::vector<Meet> meetsFromJson(const nlohmann::json& json);  // what cannot be read is left out

}  // namespace jib::library
