// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/read_field.h"

#include <fmt/format.h>

#include <array>

#include "core/base/quantity.h"

namespace jib::exchange {
namespace {

struct FieldName {
  std::string_view id, title;
};
constexpr std::array<FieldName, kFields> kNames{{{"name", "Name"},
                                                 {"lift", "Lift"},
                                                 {"variant", "Variation"},
                                                 {"load_kg", "Load"},
                                                 {"sets", "Sets"},
                                                 {"reps", "Reps"},
                                                 {"share_pct", "% of max"},
                                                 {"rpe", "RPE"},
                                                 {"best_kg", "Max"},
                                                 {"body_mass_kg", "Body weight"},
                                                 {"height_cm", "Height"},
                                                 {"age", "Age"},
                                                 {"years_training", "Years training"},
                                                 {"meet_on", "Meet"},
                                                 {"equipment", "Gear"},
                                                 {"pain", "Pain mentioned"},
                                                 {"tried", "Already tried"},
                                                 {"own_diagnosis", "Athlete's own read"},
                                                 {"question", "Question"}}};

// The plates lifters mean when they count them, and the bar under them.
struct GymSet {
  double bar_kg, plate_kg, unit_kg;
};
constexpr GymSet setOf(MassUnit unit) {
  constexpr double kPound = kKilogramsPerPound;
  return unit == MassUnit::Pounds ? GymSet{45 * kPound, 45 * kPound, kPound} : GymSet{20, 20, 1};
}

}  // namespace

std::string_view nameOf(Field field) {
  return kNames[static_cast<std::size_t>(field)].id;
}
std::string_view titleOf(Field field) {
  return kNames[static_cast<std::size_t>(field)].title;
}
bool isMass(Field field) {
  return field == Field::Load_kg || field == Field::Best_kg || field == Field::BodyMass_kg;
}

std::string fieldNumber(double v) {
  std::string s = fmt::format("{:.1f}", v);
  if (s.ends_with(".0")) s.resize(s.size() - 2);
  return s;
}

std::optional<double> kilogramsOf(std::string_view said, MassUnit unit) {
  const GymSet gym = setOf(unit);
  if (said == "bar") return gym.bar_kg;
  const auto plates = said.find(" plate");
  const auto side = said.find(" a side");
  const auto number = numberFrom(said.substr(0, std::min(plates, side)));
  if (!number) return std::nullopt;
  if (side != std::string_view::npos) return gym.bar_kg + 2 * *number * gym.unit_kg;
  if (plates == std::string_view::npos) return *number * gym.unit_kg;
  double each = *number * gym.plate_kg;
  if (const auto more = said.find(" and "); more != std::string_view::npos) {
    const auto small = numberFrom(said.substr(more + 5));
    if (!small) return std::nullopt;
    each += *small * gym.unit_kg;
  }
  return gym.bar_kg + 2 * each;
}

}  // namespace jib::exchange
