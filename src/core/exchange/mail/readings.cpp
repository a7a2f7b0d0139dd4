// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/readings.h"

#include <algorithm>
#include <cmath>

namespace jib::exchange {
namespace {

// In which unit a message counts that does not say so. Pounds are plates of 45 on a bar of 45, and half a thousand for
// a squat; kilograms go in steps of 2.5. Feet and inches, and some words, tell where somebody lives.
int poundsRatherThanKilos(const Talk& t) {
  static const Words kPoundish{"ft",     "tng",   "y'all",     "yall",     "gonna",      "wanna",
                               "rn",     "mom",   "sophomore", "freshman", "usapl",      "uspa",
                               "states", "texas", "ohio",      "florida",  "california", "jersey"};
  static const Words kKiloish{"mum", "uni", "metres", "cm", "whilst", "cheers", "gbpf", "physio", "colour"};
  static const std::set<int> kPlatesOf45{95,  115, 135, 155, 185, 205, 225, 245, 275, 295, 315, 335,
                                         365, 385, 405, 425, 455, 495, 500, 505, 545, 585, 635};
  int score = 0;
  for (std::size_t i = 0; i < t.size(); ++i) {
    if (t.in(i, kPoundish)) ++score;
    if (t.in(i, kKiloish)) score -= 2;
    if (!t.digits(i)) continue;
    const double v = t.number(i);
    const bool quarter = std::abs(std::remainder(v, 2.5)) < 1e-9 && v != std::floor(v);
    if (v > 25 && v < 400 && quarter) score -= 3;
    if (v == std::floor(v) && kPlatesOf45.count(static_cast<int>(v)) > 0) score += 2;
    if (v > 350 && v < 1200 && !t.is(i + 1, "/")) score += 2;
    if (v >= 4 && v <= 7 && (t.is(i + 1, "'") || t.is(i + 1, "foot"))) score += 3;
  }
  return score;
}

std::optional<MassUnit> unitInWords(const Talk& t) {
  bool kilos = false, pounds = false;
  for (std::size_t i = 0; i < t.size(); ++i) {
    const auto unit = massUnitAt(t, i);
    if (!unit) continue;
    (*unit == MassUnit::Pounds ? pounds : kilos) = true;
  }
  if (kilos == pounds) return std::nullopt;
  return pounds ? MassUnit::Pounds : MassUnit::Kilograms;
}

}  // namespace

std::optional<MassUnit> massUnitAt(const Talk& t, std::size_t i) {
  static const Words kKilos{"kg", "kgs", "kilo", "kilos", "kilogram", "kilograms"};
  static const Words kPounds{"lb", "lbs", "pound", "pounds", "pounder"};
  if (t.in(i, kKilos)) return MassUnit::Kilograms;
  // "lb squat" is a low bar squat unless a number stands before it.
  if (t.is(i, "lb") && (i == 0 || !t.numeric(i - 1))) return std::nullopt;
  if (t.in(i, kPounds)) return MassUnit::Pounds;
  return std::nullopt;
}
bool isMassUnit(const Talk& t, std::size_t i) {
  return massUnitAt(t, i).has_value();
}

Readings::Readings(const Talk& talk, std::optional<MassUnit> known) : talk_(talk) {
  const auto in_words = unitInWords(talk);
  const int score = poundsRatherThanKilos(talk);
  unit_known_ = known.has_value() || in_words.has_value();
  unit_ = known       ? *known
          : in_words  ? *in_words
          : score > 0 ? MassUnit::Pounds
          : score < 0 ? MassUnit::Kilograms
                      : displayUnits().mass;
}

bool Readings::has(Field field) const {
  return std::any_of(all_.begin(), all_.end(), [&](const ReadField& f) { return f.field == field; });
}

void Readings::take(Field field, std::string value, std::size_t first, std::size_t last, bool sure) {
  if (has(field) && field != Field::Question) return;
  all_.push_back({field, std::move(value), talk_.said(first, last), {}, {}, sure});
}

void Readings::takeWords(Field field, std::string sentence) {
  if (has(field) && field != Field::Question) return;
  std::string words = sentence;
  all_.push_back({field, std::move(sentence), std::move(words)});
}

void Readings::takeMass(Field field, std::string said, std::optional<MassUnit> unit, std::size_t first,
                        std::size_t last) {
  if (has(field)) return;
  const auto kg = kilogramsOf(said, unit.value_or(unit_));
  if (!kg || *kg < 15 || *kg > 700) return;
  all_.push_back({field, fieldNumber(*kg), talk_.said(first, last), std::move(said), unit, unit || unit_known_});
}

}  // namespace jib::exchange
