// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/display_units.h"
#include "core/base/result.h"

namespace jib::coaching {

// A plate as it hangs on the rack, and how many pairs of it there are.
struct PlatePair {
  std::string name;  // "25 kg", "45 lb"
  double kg = 0;
  int pairs = 0;
};

// What can be put on a bar in one gym. Masses in kilograms whatever they are stamped in.
struct Rack {
  double bar_kg = 20;
  std::vector<PlatePair> plates;        // heaviest first
  MassUnit unit = MassUnit::Kilograms;  // loads are said in

  // Errors  CannotRead, BadData. JSON: {"bar": "20kg", "plates": {"25kg": 8, "2.5kg": 2}}, plates counted one by one
  static Result<Rack> load(const std::filesystem::path& file);
  static Rack usual(MassUnit unit);  // a gym's full set, with a bar of 20 kg or 45 lb
};

struct PlannedSet {
  double load_kg = 0;               // 0: not known, as of a share of a max that nobody knows
  std::optional<double> share_pct;  // of what the plan was made from
  std::optional<int> reps;
  std::optional<double> rpe;
  std::vector<std::string> plates_per_side;  // heaviest, and innermost, first
};
struct Plan {
  std::vector<PlannedSet> sets;
  std::vector<std::string> notes;  // sentences: what could not be loaded, what to mind
};

// The plates for a load; where the rack has not got it, the nearest below, and a note that says so.
// Errors  WrongUse for a load below the bar, or above what the rack holds
Result<Plan> platesFor(double load_kg, const Rack& rack);
// A share of a max, 1 to 120 %.
Result<Plan> percentOf(double share_pct, double max_kg, const Rack& rack);
// Even steps to a top set. `sets` counts the top set, 1 to 12.
Result<Plan> rampTo(double top_kg, int sets, const Rack& rack);
// From the empty bar to the top set, fewer reps as it gets heavier.
Result<Plan> warmUpTo(double top_kg, const Rack& rack);
// The same sets at several shares of a max, to find the load at which a fault begins to show.
Result<Plan> ladderOf(const std::vector<double>& shares_pct, int reps, double max_kg, const Rack& rack);
// Sets after a top set, at what is left of it when `off_pct` is taken away, 1 to 50 %.
Result<Plan> backOff(double top_kg, double off_pct, int sets, int reps, const Rack& rack);
// Opener, second and third of a meet from a max: a suggestion. Steps are those of a meet, 2.5 kg.
Result<Plan> attemptsFrom(double max_kg, const Rack& rack);

// The sets in a line, as they stand in a cue: "3 x 3 at 125 kg (276 lb)"; ladders with every load.
std::string setsInWords(const Plan& plan);
std::string planToJson(const Plan& plan);
std::string planText(const Plan& plan, MassUnit unit);  // one line a set, then the notes

}  // namespace jib::coaching
