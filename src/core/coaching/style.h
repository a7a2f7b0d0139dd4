// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/lifts/lift.h"

namespace jib::coaching {

enum class Side { Above, Below, Beyond };  // of the limit is where a value is flagged; Beyond: its size

struct Limit {
  std::string finding;  // "squat.too_high"
  std::string measure;
  std::string unit;
  Side side = Side::Above;
  double limit = 0;
  std::optional<double> moved_from;  // where the style has it, once the coach has moved it (StyleBook::moveLimit)
  double strong = 1;
  std::string variant;  // of the lift that it is about; empty: any
  std::string why;
  std::string settle;  // what would turn "too close to call" into a verdict
};

// Sides taken on topics that coaches disagree about (topic.h): topic and choice.
using Switches = std::map<std::string, std::string, std::less<>>;

// A side taken, in words ("How deep: as deep as is controlled"), and the lifts it concerns; none: all.
struct TakenSide {
  std::string words;
  std::vector<lifts::LiftId> lifts;

  bool concerns(lifts::LiftId lift) const;
};

// A coach's taste as data: limits and how much to say. Measures never depend on it.
struct Style {
  std::string id, title, why;
  int cue_limit = 2;
  Switches switches;  // the sides it takes
  std::vector<Limit> limits;

  // What the sides taken add; filled by Topics::applied.
  std::map<std::string, std::string, std::less<>> say;  // finding: the wording proposed first
  std::string miss;                                     // how a missed rep is read
  bool left_right_at_once = false;                      // not only when it comes back (left_right.h)
  // In which order this coach goes over a lift, as parts of findings' names ("heels", "knees"); empty: what is worth
  // most first.
  std::vector<std::string> looking_order;
  std::vector<TakenSide> sides;

  // The place of a finding in that order: the first part of it that its name holds; behind them all where there is
  // none.
  std::size_t lookedAt(std::string_view finding) const;

  const Limit* limit(std::string_view finding) const&;
  const Limit* limit(std::string_view) const&& = delete;  // it would point into what is gone
};

// Everything the program looks at, of all lifts: resources/findings/*.toml. Styles start from it.
// Errors  CannotRead, BadData
Result<std::vector<Limit>> shippedLimits();

// Reads one TOML style: what it changes of the shipped limits, adds to them or leaves out. Unknown keys, unknown
// measures and wrong units are refused with file and line.
// Errors  CannotRead, BadData
Result<Style> loadStyle(const std::filesystem::path& file);
// A shipped style by id.
Result<Style> shippedStyle(std::string_view id);

}  // namespace jib::coaching
