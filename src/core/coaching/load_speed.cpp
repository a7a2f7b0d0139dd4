// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/load_speed.h"
#include "core/base/quantity.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/coaching/finding.h"
#include "core/coaching/loading.h"

namespace jib::coaching {
namespace {

constexpr double kDayToDay_mps = 0.03;  // the same athlete and load on another day
constexpr double kLeastSpread = 0.15;   // of the loads, over the heaviest
constexpr std::size_t kFewest = 3;

}  // namespace

std::optional<LoadSpeedLine> loadSpeedLine(const std::vector<LoadedSet>& sets, const lifts::LiftDefinition& lift) {
  double lightest = 1e9, heaviest = 0;
  std::vector<double> loads;
  for (const LoadedSet& s : sets) {
    lightest = std::min(lightest, s.load_kg);
    heaviest = std::max(heaviest, s.load_kg);
    if (std::find(loads.begin(), loads.end(), s.load_kg) == loads.end()) loads.push_back(s.load_kg);
  }
  if (loads.size() < kFewest || heaviest - lightest < kLeastSpread * heaviest) return std::nullopt;
  double sum = 0, sum_load = 0, sum_speed = 0;
  const auto weight = [](const LoadedSet& s) {
    return 1 / (s.sigma_mps * s.sigma_mps + kDayToDay_mps * kDayToDay_mps);
  };
  for (const LoadedSet& s : sets) {
    sum += weight(s);
    sum_load += weight(s) * s.load_kg;
    sum_speed += weight(s) * s.mps;
  }
  LoadSpeedLine line;
  line.heaviest_kg = heaviest;
  line.middle_kg = sum_load / sum;
  line.middle_mps = sum_speed / sum;
  double across = 0, along = 0;
  for (const LoadedSet& s : sets) {
    const double off = s.load_kg - line.middle_kg;
    along += weight(s) * off * off;
    across += weight(s) * off * (s.mps - line.middle_mps);
  }
  line.slope = across / along;
  // How well the sets agree with a line, when it is worse than their own uncertainty.
  double squares = 0;
  for (const LoadedSet& s : sets) squares += weight(s) * std::pow(s.mps - line.speedAt(s.load_kg), 2);
  const double worse = std::max(1.0, squares / static_cast<double>(sets.size() - 2));
  line.sigma_middle = std::sqrt(worse / sum);
  line.sigma_slope = std::sqrt(worse / along);
  line.scatter = kDayToDay_mps * std::sqrt(worse);
  if (line.slope > -kSureSigmas * line.sigma_slope) return std::nullopt;
  const double best = line.middle_kg + (lift.best_mps - line.middle_mps) / line.slope;
  const double off = best - line.middle_kg;
  const double sigma_mps = std::sqrt(line.sigma_middle * line.sigma_middle + std::pow(line.sigma_slope * off, 2) +
                                     lift.best_sigma_mps * lift.best_sigma_mps);
  const double sigma_kg = sigma_mps / -line.slope;
  line.best_kg = {std::max(best - kSureSigmas * sigma_kg, heaviest), std::max(best + kSureSigmas * sigma_kg, heaviest)};
  return line;
}

Band shareOf(const LoadSpeedLine& line, double load_kg) {
  return {load_kg / line.best_kg.high, load_kg / line.best_kg.low};
}

std::string textOf(const LoadSpeedLine& line, std::optional<double> best_kg) {
  std::string text =
      fmt::format("Every extra {} costs about {:.2f} m/s. Estimated max {} to {}.", massText(10), -10 * line.slope,
                  massText(std::round(line.best_kg.low)), massText(std::round(line.best_kg.high)));
  if (best_kg && *best_kg < 0.97 * line.best_kg.low)
    text += fmt::format(" The stated max is {}: is that an old one?", massText(*best_kg));
  if (best_kg && *best_kg > 1.03 * line.best_kg.high)
    text += fmt::format(" The stated max is {}: when was that, and in what gear?", massText(*best_kg));
  return text;
}

}  // namespace jib::coaching
