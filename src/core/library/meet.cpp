// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/meet.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/quantity.h"

namespace jib::library {
namespace {

std::string_view trimmed(std::string_view s) {
  while (!s.empty() && s.front() == ' ') s.remove_prefix(1);
  while (!s.empty() && s.back() == ' ') s.remove_suffix(1);
  return s;
}

// "190x", "190 x", "x190": the x is a miss.
std::optional<Attempt> attemptFrom(std::string_view s, MassUnit unit) {
  const auto isMiss = [](char c) { return c == 'x' || c == 'X'; };
  bool good = true;
  if (!s.empty() && isMiss(s.back())) {
    good = false;
    s = trimmed(s.substr(0, s.size() - 1));
  } else if (!s.empty() && isMiss(s.front())) {
    good = false;
    s = trimmed(s.substr(1));
  }
  const auto kg = kilogramsFrom(s, unit);
  if (!kg) return std::nullopt;
  return Attempt{*kg, good};
}

}  // namespace

std::optional<double> Meet::best_kg(lifts::LiftId lift) const {
  std::optional<double> best;
  for (const Attempt& a : attempts[lifts::at(lift)])
    if (a.good) best = std::max(best.value_or(0), a.load_kg);
  return best;
}

std::optional<double> Meet::total_kg() const {
  double total = 0;
  for (const auto& lift : lifts::contestedLifts()) {
    const auto best = best_kg(lift.id);
    if (!best) return std::nullopt;
    total += *best;
  }
  return total;
}

Result<std::vector<Attempt>> attemptsFrom(std::string_view typed, MassUnit unit) {
  constexpr std::size_t kMost = 4;  // three, and a fourth for a record
  std::vector<Attempt> all;
  std::string_view rest = trimmed(typed);
  while (!rest.empty()) {
    const std::size_t end = std::min(rest.find_first_of(",;/"), rest.size());
    const std::string_view one = trimmed(rest.substr(0, end));
    rest = trimmed(rest.substr(std::min(end + 1, rest.size())));
    if (one.empty()) continue;
    const auto attempt = attemptFrom(one, unit);
    if (!attempt)
      return fail(ErrorCode::WrongUse, fmt::format("\"{}\" is not an attempt.", one),
                  "Type them like 170, 180, 190x; the x is a miss.");
    all.push_back(*attempt);
  }
  if (all.size() > kMost)
    return fail(ErrorCode::WrongUse, "Those are more than four attempts.", "Type them like 170, 180, 190x.");
  return all;
}

std::string attemptsText(const std::vector<Attempt>& attempts, MassUnit unit) {
  std::string text;
  for (const Attempt& a : attempts) {
    const double shown = unit == MassUnit::Pounds ? a.load_kg * kPoundsPerKilogram : a.load_kg;
    text += fmt::format("{}{:g}{}", text.empty() ? "" : ", ", std::round(10 * shown) / 10, a.good ? "" : "x");
  }
  return text;
}

nlohmann::ordered_json meetsToJson(const std::vector<Meet>& meets) {
  nlohmann::ordered_json all = nlohmann::ordered_json::array();
  for (const Meet& m : meets) {
    nlohmann::ordered_json j{{"on", m.on}, {"name", m.name}};
    for (const auto& [key, value] : {std::pair{"rules", m.rules}, {"kit", m.kit}, {"class", m.weight_class}})
      if (!value.empty()) j[key] = value;
    if (m.body_mass_kg) j["body_mass_kg"] = *m.body_mass_kg;
    for (const auto& lift : lifts::contestedLifts()) {
      auto list = nlohmann::ordered_json::array();
      for (const Attempt& a : m.attempts[lifts::at(lift.id)]) list.push_back({{"kg", a.load_kg}, {"good", a.good}});
      if (!list.empty()) j["attempts"][std::string(lift.name)] = std::move(list);
    }
    all.push_back(std::move(j));
  }
  return all;
}

std::vector<Meet> meetsFromJson(const nlohmann::json& json) {
  std::vector<Meet> all;
  if (!json.is_array()) return all;
  for (const auto& j : json) {
    try {
      Meet m;
      m.on = j.at("on");
      m.name = j.at("name");
      m.rules = j.value("rules", "");
      m.kit = j.value("kit", "");
      m.weight_class = j.value("class", "");
      if (j.contains("body_mass_kg")) m.body_mass_kg = j.at("body_mass_kg").get<double>();
      if (j.contains("attempts"))
        for (const auto& [name, list] : j.at("attempts").items())
          if (const auto* lift = lifts::liftNamed(name))
            for (const auto& a : list) m.attempts[lifts::at(lift->id)].push_back({a.at("kg"), a.at("good")});
      all.push_back(std::move(m));
    } catch (const nlohmann::json::exception&) {
      continue;  // of another program, or by hand
    }
  }
  return all;
}

}  // namespace jib::library
