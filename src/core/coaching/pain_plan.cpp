// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/pain_plan.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/quantity.h"

namespace jib::coaching {
namespace {

constexpr double kClear = 0.95;       // of the load that brings it on
constexpr double kSmallest_kg = 2.5;  // a pair of small plates
constexpr std::array<const char*, 3> kSteps{"add_set", "smallest", "larger"};

std::string weeks(int n) {
  return n == 1 ? "one week" : fmt::format("{} weeks", n);
}

std::string_view stepWords(PainPlan::Step step) {
  switch (step) {
    case PainPlan::Step::AddSet:
      return "add one set a week, at the same weight";
    case PainPlan::Step::Smallest:
      return "add about 2.5 % a week";
    case PainPlan::Step::Larger:
      return "add about 5 % a week";
  }
  return "";
}

}  // namespace

double justUnder(double trigger_kg) {
  return std::floor(trigger_kg * kClear / kSmallest_kg) * kSmallest_kg;
}

std::vector<std::string> sentencesOf(const PainPlan& p) {
  std::vector<std::string> all;
  if (p.trigger_kg)
    all.push_back(fmt::format("Stay at {} or less. It starts at {}.", massText(justUnder(*p.trigger_kg)),
                              massText(*p.trigger_kg)));
  if (p.trigger_sets && *p.trigger_sets > 1)
    all.push_back(fmt::format("{} and no more: it comes in set {}.",
                              *p.trigger_sets == 2 ? "One set" : fmt::format("{} sets", *p.trigger_sets - 1),
                              *p.trigger_sets));
  if (!p.range.empty()) all.push_back("Only as far as it's fine: " + p.range + ".");
  if (!p.part.empty())
    all.push_back("Watch the part that brings it on: " + p.part + ". Slow it down there, or stop short.");
  if (!p.note.empty()) all.push_back(p.note);
  all.push_back(fmt::format("Hold that for {}. If it stays quiet, {}. One thing at a time.", weeks(p.hold_weeks),
                            stepWords(p.step)));
  all.push_back(
      "Stop the lift and see a doctor or physical therapist who knows lifting if it gets worse, hurts at rest or at "
      "night, or is no better by then. I can't tell from a clip what it is.");
  return all;
}

std::string titleOf(const PainPlan& p) {
  std::string how = p.trigger_kg       ? "up to " + massText(justUnder(*p.trigger_kg))
                    : p.trigger_sets   ? fmt::format("fewer than {} sets", *p.trigger_sets)
                    : !p.range.empty() ? p.range
                    : !p.part.empty()  ? "easy " + p.part
                                       : std::string("as it allows");
  return fmt::format("{}: {} for {}", p.where.empty() ? "Training around pain" : p.where, how, weeks(p.hold_weeks));
}

std::string painPlanToJson(const PainPlan& p) {
  nlohmann::json j{{"where", p.where}, {"range", p.range},
                   {"part", p.part},   {"hold_weeks", p.hold_weeks},
                   {"note", p.note},   {"step", kSteps.at(static_cast<std::size_t>(p.step))}};
  if (p.trigger_kg) j["trigger_kg"] = *p.trigger_kg;
  if (p.trigger_sets) j["trigger_sets"] = *p.trigger_sets;
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

std::optional<PainPlan> painPlanFromJson(std::string_view json) {
  const auto j = nlohmann::json::parse(json, nullptr, false);
  if (!j.is_object()) return std::nullopt;
  PainPlan p;
  const auto text = [&](const char* key) {
    const auto it = j.find(key);
    return it != j.end() && it->is_string() ? it->get<std::string>() : std::string();
  };
  const auto number = [&](const char* key) -> std::optional<double> {
    const auto it = j.find(key);
    return it != j.end() && it->is_number() && std::isfinite(it->get<double>()) ? std::optional(it->get<double>())
                                                                                : std::nullopt;
  };
  p.where = text("where");
  p.range = text("range");
  p.part = text("part");
  p.note = text("note");
  p.trigger_kg = number("trigger_kg");
  if (const auto sets = number("trigger_sets")) p.trigger_sets = static_cast<int>(std::clamp(*sets, 1.0, 20.0));
  p.hold_weeks = static_cast<int>(std::clamp(number("hold_weeks").value_or(p.hold_weeks), 1.0, 12.0));
  for (std::size_t i = 0; i < kSteps.size(); ++i)
    if (text("step") == kSteps[i]) p.step = static_cast<PainPlan::Step>(i);
  return p;
}

}  // namespace jib::coaching
