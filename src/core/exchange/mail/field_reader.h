// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

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
  Effort,     // out of ten; two in reserve is 8
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
  Question,      // the athlete's own sentence
};
inline constexpr std::size_t kFields = 19;
std::string_view nameOf(Field field);   // in files: "load_kg"
std::string_view titleOf(Field field);  // for people: "Load"

// One reading, with the words it came from, so that a person can see why.
struct ReadField {
  Field field;
  std::string value;  // numbers with at most one decimal, kilograms and centimetres
  std::string words;
};

// Reads what a message says of itself. A number is taken only where its words leave no other meaning: what is doubtful
// is left unread, as a wrong reading costs more than a missing one. At most one reading a field.
// `text`: UTF-8, without quoted older messages. `received_on`: ISO date, for days named without a year.
std::vector<ReadField> readFields(std::string_view text, std::string_view received_on);

const ReadField* find(const std::vector<ReadField>& fields, Field field);
const ReadField* find(std::vector<ReadField>&&, Field) = delete;  // it would point into what is gone

}  // namespace jib::exchange
