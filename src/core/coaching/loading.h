// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/quantity.h"

namespace jib::coaching {

// The plates a coach can tell apart on a film, heaviest first. Pound plates are named by their own number.
struct PlateKind {
  std::string_view name;  // "25 kg", "45 lb"
  double kg;
};
inline constexpr std::array<PlateKind, 13> kPlateKinds{{{"25 kg", 25},
                                                        {"20 kg", 20},
                                                        {"15 kg", 15},
                                                        {"10 kg", 10},
                                                        {"5 kg", 5},
                                                        {"2.5 kg", 2.5},
                                                        {"1.25 kg", 1.25},
                                                        {"45 lb", 45 / kPoundsPerKilogram},
                                                        {"35 lb", 35 / kPoundsPerKilogram},
                                                        {"25 lb", 25 / kPoundsPerKilogram},
                                                        {"10 lb", 10 / kPoundsPerKilogram},
                                                        {"5 lb", 5 / kPoundsPerKilogram},
                                                        {"2.5 lb", 2.5 / kPoundsPerKilogram}}};

// What was counted on a bar. A side holds indices into kPlateKinds, from the inside out. Where only the near side
// shows, the far side is taken to be the same and said to be so.
struct Loading {
  double bar_kg = 20;
  double collars_kg = 0;  // both together
  std::vector<int> near;
  std::optional<std::vector<int>> far;  // nullopt: not seen
  friend bool operator==(const Loading&, const Loading&) = default;

  bool empty() const { return near.empty() && (!far || far->empty()); }
};

double sideKilos(const std::vector<int>& plates);
double totalKilos(const Loading& loading);

std::string loadingToJson(const Loading& loading);
Loading loadingFromJson(std::string_view json);  // what cannot be read is left out

// A best that a set speaks for. Repetition tables disagree, so it is a range and never one number.
// `reps_left`: reps in reserve; 0 when the set went to the limit or nothing is known (then the range is a floor).
// Source  E. Epley, Poundage chart, 1985: w (1 + r / 30); M. Brzycki, Strength testing, JOPERD 64(1), 1993:
//         36 w / (37 - r). Both are meant for ten reps and fewer: nullopt beyond twelve.
struct BestRange {
  double least_kg = 0, most_kg = 0;
};
std::optional<BestRange> bestFrom(double load_kg, int reps, double reps_left = 0);

// What is known of a set's load, from whoever knows it; nullopt is unknown.
struct LoadFacts {
  std::optional<double> stated_kg;  // the message, or the coach
  std::optional<Loading> counted;   // on the picture
  std::optional<double> best_kg;    // recorded
  std::optional<double> share_pct;  // of the best, as stated
  std::optional<int> reps;          // done in the set
  std::optional<double> effort;     // out of ten, as stated
};

// A line about the load: a fact, or a question where two facts do not fit. Never an accusation.
struct LoadLine {
  std::string id;  // "counted", "uneven", "stated", "share", "best"
  std::string text;
  bool question = false;
};
std::vector<LoadLine> aboutLoad(const LoadFacts& facts);

}  // namespace jib::coaching
