// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/lifts/lift.h"

namespace jib::coaching {

// One set of an athlete: what was on the bar, and the mean speed of its fastest ascent.
struct LoadedSet {
  double load_kg = 0;
  double mps = 0, sigma_mps = 0;
  std::string on;  // ISO date
};

struct Band {
  double low = 0, high = 0;  // nine times in ten between them
};

// An athlete's own line of speed against load. It is drawn through sets of different days: freshness, shoes and bar
// height go into its scatter.
struct LoadSpeedLine {
  double middle_kg = 0;              // mean load
  double middle_mps = 0, slope = 0;  // speed there; m/s a kilogram, negative
  double sigma_middle = 0, sigma_slope = 0, scatter = 0;
  double heaviest_kg = 0;
  Band best_kg;  // the load a single best would be lifted with

  double speedAt(double load_kg) const { return middle_mps + slope * (load_kg - middle_kg); }
};

// nullopt with fewer than three loads, with loads too near to each other, or when heavier sets are not slower.
// `lift`: tells how fast its bests move.
// Source  weighted least squares; speed and load are related by a line: Gonzalez-Badillo and Sanchez-Medina 2010
std::optional<LoadSpeedLine> loadSpeedLine(const std::vector<LoadedSet>& sets, const lifts::LiftDefinition& lift);

// What share of the best a load is by the line, 0 to 1.
Band shareOf(const LoadSpeedLine& line, double load_kg);

// The line in a sentence, and, where a share was told that it does not carry, a question. Never an accusation.
std::string textOf(const LoadSpeedLine& line, std::optional<double> best_kg);

}  // namespace jib::coaching
