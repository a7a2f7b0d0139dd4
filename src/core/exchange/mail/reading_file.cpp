// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/reading_file.h"

#include <map>
#include <nlohmann/json.hpp>

#include "core/base/quantity.h"

namespace jib::exchange {
namespace {

using Json = nlohmann::ordered_json;

struct FileName {
  std::string_view name, unit;
};
// The names of the file say no unit: each value carries its own.
FileName fileName(Field field) {
  switch (field) {
    case Field::Load_kg:
      return {"load", "kg"};
    case Field::Best_kg:
      return {"best", "kg"};
    case Field::BodyMass_kg:
      return {"body_mass", "kg"};
    case Field::Height_cm:
      return {"height", "cm"};
    case Field::Share_pct:
      return {"share", "%"};
    case Field::Effort:
      return {"effort", "rpe"};
    case Field::Age:
      return {"age", "years"};
    case Field::YearsTraining:
      return {"years_training", "years"};
    case Field::MeetOn:
      return {"meet", "date"};
    case Field::Sets:
      return {"sets", "count"};
    case Field::Reps:
      return {"reps", "count"};
    default:
      return {nameOf(field), "text"};
  }
}

bool isNumber(std::string_view unit) {
  return unit != "text" && unit != "date";
}

}  // namespace

std::string readingToJson(const Reading& reading) {
  Json j{{"schema", "jagged-jib/reading"}, {"version", 1}, {"fields", Json::array()}};
  for (const ReadField& f : reading.fields) {
    if (f.field == Field::Question || f.field == Field::Pain) continue;
    const FileName name = fileName(f.field);
    Json one{{"name", name.name}};
    const auto number = isNumber(name.unit) ? numberFrom(f.value) : std::nullopt;
    one["value"] = number ? Json(*number) : Json(f.value);
    one["unit"] = name.unit;
    one["said_in"] = f.said_in ? Json(*f.said_in == MassUnit::Pounds ? "lb" : "kg") : Json(nullptr);
    one["sure"] = f.sure;
    one["words"] = f.words;
    if (!f.said.empty()) one["said"] = f.said;
    j["fields"].push_back(std::move(one));
  }
  j["pain"] = reading.pain;
  j["pain_words"] = reading.pain_words;
  j["questions"] = reading.questions;
  j["film_expected"] = reading.film_expected;
  return j.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace jib::exchange
