// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/display_units.h"

namespace jib::exchange {

// What can be said of a set and its lifter in a message.
enum class Field {
  Name,
  Lift,     // "squat", "bench", "deadlift"
  Variant,  // of the contract: "low-bar", "sumo", "paused" ...
  Load_kg,
  Sets,
  Reps,
  Share_pct,  // of the best
  Effort,     // RPE, out of ten; two in reserve is 8
  Best_kg,
  BodyMass_kg,
  Height_cm,
  Age,
  YearsTraining,
  MeetOn,        // ISO date
  Equipment,     // "belt, sleeves"
  Pain,          // "yes" or "no": whether it is mentioned, never what it is
  Tried,         // the athlete's own sentence
  OwnDiagnosis,  // the athlete's own sentence
  Question,      // the athlete's own sentence; the only field of which there may be several
};
inline constexpr std::size_t kFields = 19;
std::string_view nameOf(Field field);   // in files: "load_kg"
std::string_view titleOf(Field field);  // for people: "Load"
bool isMass(Field field);

// One reading, with the words it came from, so that a person can see why.
struct ReadField {
  Field field;
  std::string value;  // numbers with at most one decimal, kilograms and centimetres
  std::string words;
  // Of a mass: the number as it was typed ("365", "3 plates"), and the unit that was said behind it.
  std::string said = {};
  std::optional<MassUnit> said_in = {};
  bool sure = true;  // false: a number whose unit nobody said, or one the writer is unsure of
};

// A mass as it was typed, in kilograms: "365", "3 plates" (a bar and so many plates a side), "4 plates and 25".
// `unit` tells what the number counts, and of which set the plates are. nullopt where it is no mass.
std::optional<double> kilogramsOf(std::string_view said, MassUnit unit);

// "142.5", "100": as fields keep numbers.
std::string fieldNumber(double v);

}  // namespace jib::exchange
