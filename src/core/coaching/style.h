// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/result.h"

namespace jib::coaching {

enum class Side { Above, Below, Beyond };  // of the limit is where a value is flagged; Beyond: its size

struct Limit {
  std::string finding;  // "squat.too_high"
  std::string measure;
  std::string unit;
  Side side = Side::Above;
  double limit = 0;
  double strong = 1;
  std::string variant;  // of the lift that it is about; empty: any
  std::string why;
  std::string settle;  // what would turn "too close to call" into a verdict
};

// A coach's taste as data: limits and how much to say. Measures never depend on it.
struct Style {
  std::string id, title, why;
  int cue_limit = 2;
  std::vector<Limit> limits;

  const Limit* limit(std::string_view finding) const;
};

// Reads one TOML style. Unknown keys, unknown measures and wrong units are refused with file and line.
// Errors  CannotRead, BadData
Result<Style> loadStyle(const std::filesystem::path& file);
// A shipped style by id.
Result<Style> shippedStyle(std::string_view id);
// All shipped styles, "balanced" first.
std::vector<Style> shippedStyles();

}  // namespace jib::coaching
