// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/records.h"

#include <array>
#include <cstdlib>
#include <nlohmann/json.hpp>

namespace jib::library {

namespace {

struct StateName {
  std::string_view name, title;
};
constexpr std::array<StateName, 7> kStates{{{"new", "New"},
                                            {"needs_video", "Needs better video"},
                                            {"in_review", "In review"},
                                            {"carried_over", "Carried over"},
                                            {"returned", "Returned"},
                                            {"awaiting_film", "Awaiting film"},
                                            {"skipped", "Skipped"}}};

}  // namespace

std::string_view nameOf(SubmissionState state) {
  return kStates[static_cast<std::size_t>(state)].name;
}

std::string_view titleOf(SubmissionState state) {
  return kStates[static_cast<std::size_t>(state)].title;
}

std::string profileToJson(const Profile& p) {
  nlohmann::ordered_json j;
  const auto keep = [&](const char* key, const auto& value) {
    if (value) j[key] = *value;
  };
  const auto words = [&](const char* key, const std::string& value) {
    if (!value.empty()) j[key] = value;
  };
  words("say_name", p.say_name);
  keep("birth_year", p.birth_year);
  keep("height_cm", p.height_cm);
  keep("body_mass_kg", p.body_mass_kg);
  keep("years_training", p.years_training);
  keep("best_squat_kg", p.best_squat_kg);
  keep("best_bench_kg", p.best_bench_kg);
  keep("best_deadlift_kg", p.best_deadlift_kg);
  words("bests_on", p.bests_on);
  words("goal", p.goal);
  words("meet_on", p.meet_on);
  words("federation", p.federation);
  words("usual", p.usual);
  words("pain", p.pain);
  words("screens", p.screens);
  return j.is_null() ? "{}" : j.dump();
}

Profile profileFromJson(std::string_view text) {
  Profile p;
  const auto j = nlohmann::json::parse(text, nullptr, false);
  if (!j.is_object()) return p;
  const auto number = [&]<class T>(const char* key, std::optional<T>& to) {
    if (const auto it = j.find(key); it != j.end() && it->is_number()) to = it->template get<T>();
  };
  const auto words = [&](const char* key, std::string& to) {
    if (const auto it = j.find(key); it != j.end() && it->is_string()) to = it->get<std::string>();
  };
  words("say_name", p.say_name);
  number("birth_year", p.birth_year);
  number("height_cm", p.height_cm);
  number("body_mass_kg", p.body_mass_kg);
  number("years_training", p.years_training);
  number("best_squat_kg", p.best_squat_kg);
  number("best_bench_kg", p.best_bench_kg);
  number("best_deadlift_kg", p.best_deadlift_kg);
  words("bests_on", p.bests_on);
  words("goal", p.goal);
  words("meet_on", p.meet_on);
  words("federation", p.federation);
  words("usual", p.usual);
  words("pain", p.pain);
  words("screens", p.screens);
  return p;
}

std::optional<bool> isMinor(const Profile& profile, std::string_view on_iso) {
  if (!profile.birth_year || on_iso.size() < 4) return std::nullopt;
  // Who turns 18 in the course of the year counts as under 18: the day is not known.
  return std::atoi(std::string(on_iso.substr(0, 4)).c_str()) - *profile.birth_year <= 18;
}

std::string_view nameOf(ThreadState state) {
  switch (state) {
    case ThreadState::Asked:
      return "asked";
    case ThreadState::Better:
      return "better";
    case ThreadState::Met:
      return "met";
    case ThreadState::NotYet:
      return "not_yet";
    case ThreadState::Dropped:
      return "dropped";
  }
  return "asked";
}

std::string_view titleOf(ThreadState state) {
  switch (state) {
    case ThreadState::Asked:
      return "Asked, not filmed since";
    case ThreadState::Better:
      return "Better, not there yet";
    case ThreadState::Met:
      return "Met";
    case ThreadState::NotYet:
      return "No change";
    case ThreadState::Dropped:
      return "Dropped";
  }
  return "Asked";
}

}  // namespace jib::library
