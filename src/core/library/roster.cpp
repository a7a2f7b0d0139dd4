// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/roster.h"

#include <algorithm>

#include "core/base/ascii.h"
#include "core/base/quantity.h"

namespace jib::library {
namespace {

std::optional<double> bestOrMass(const RosterRow& row, const std::string& of) {
  return of == "bw" ? row.athlete.profile.body_mass_kg : row.athlete.profile.bestOf(of);
}

}  // namespace

RosterSearch::RosterSearch(std::string_view typed, MassUnit unit) {
  const std::string lower = asciiLower(typed);
  std::size_t from = 0;
  while (from < lower.size()) {
    const std::size_t end = std::min(lower.find(' ', from), lower.size());
    const std::string word = lower.substr(from, end - from);
    from = end + 1;
    if (word.empty()) continue;
    const std::size_t sign = word.find_first_of("<>");
    const std::string of = word.substr(0, std::min(sign, word.size()));
    if (sign == std::string::npos || (of != "bw" && !lifts::liftNamed(of))) {
      words_.push_back(word);
      continue;
    }
    Bound bound{.of = of, .above = word[sign] == '>'};
    std::string_view number = std::string_view(word).substr(sign + 1);
    if (!number.empty() && number.front() == '=') {
      bound.or_equal = true;
      number.remove_prefix(1);
    }
    // Half typed, it asks for nothing yet.
    const auto kg = kilogramsFrom(number, unit);
    if (!kg) continue;
    bound.kg = *kg;
    bounds_.push_back(bound);
  }
}

bool RosterSearch::finds(const RosterRow& row) const {
  const auto within = [&](const Bound& b) {
    constexpr double kSame_kg = 0.05;
    const auto is = bestOrMass(row, b.of);
    if (!is) return false;
    const double over = b.above ? *is - b.kg : b.kg - *is;
    return b.or_equal ? over > -kSame_kg : over > kSame_kg;
  };
  return std::all_of(words_.begin(), words_.end(),
                     [&](const std::string& w) { return row.words.find(w) != std::string::npos; }) &&
         std::all_of(bounds_.begin(), bounds_.end(), within);
}

}  // namespace jib::library
