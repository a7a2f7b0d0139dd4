// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/plan.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>

#include "core/base/files.h"
#include "core/base/quantity.h"

namespace jib::coaching {
namespace {

constexpr double kSame_kg = 0.01;  // loads closer than this are one
constexpr double kMost_kg = 600;   // nobody lifts more; a rack may hold it
constexpr double kMeetStep_kg = 2.5;
constexpr int kManyPairs = 8;

std::string said(double kg, MassUnit unit) {
  return unit == MassUnit::Pounds ? fmt::format("{:g} lb", std::round(kg * kPoundsPerKilogram * 10) / 10)
                                  : fmt::format("{:g} kg", std::round(kg * 100) / 100);
}

// What plates are counted in, so that sums are whole numbers: quarters of a pound, or ten grams.
double stepOf(const Rack& rack) {
  return rack.unit == MassUnit::Pounds ? kKilogramsPerPound / 4 : 0.01;
}

// Every weight that a side can bear, in steps, with the fewest plates that make it; of as many, the heaviest first.
using Sides = std::map<long, std::vector<std::size_t>>;
Sides sidesOf(const Rack& rack, double most_kg) {
  const double step = stepOf(rack);
  Sides reached{{0, {}}};
  for (std::size_t kind = 0; kind < rack.plates.size(); ++kind)
    for (int pair = 0; pair < rack.plates[kind].pairs; ++pair) {
      Sides more = reached;
      for (const auto& [weight, plates] : reached) {
        const long sum = weight + std::lround(rack.plates[kind].kg / step);
        if (static_cast<double>(sum) * step > most_kg + kSame_kg) continue;
        auto with = plates;
        with.push_back(kind);
        const auto there = more.find(sum);
        const bool fewer = there == more.end() || with.size() < there->second.size() ||
                           (with.size() == there->second.size() && with < there->second);
        if (fewer) more[sum] = std::move(with);
      }
      if (more == reached) break;
      reached = std::move(more);
    }
  return reached;
}

Result<PlannedSet> loaded(double wanted_kg, const Rack& rack, std::vector<std::string>& notes) {
  if (!(wanted_kg > 0) || wanted_kg > kMost_kg)
    return fail(ErrorCode::WrongUse, said(wanted_kg, rack.unit) + " is no load.", "Type it as 140kg or 308lb.");
  if (wanted_kg < rack.bar_kg - kSame_kg)
    return fail(ErrorCode::WrongUse,
                fmt::format("{} is less than the bar ({}).", said(wanted_kg, rack.unit), said(rack.bar_kg, rack.unit)),
                "Take a lighter bar with --bar.");
  const double side_kg = (wanted_kg - rack.bar_kg) / 2;
  const Sides sides = sidesOf(rack, side_kg);
  auto best = sides.upper_bound(static_cast<long>(std::floor((side_kg + kSame_kg / 2) / stepOf(rack))));
  --best;
  PlannedSet set;
  set.load_kg = rack.bar_kg;
  for (const std::size_t kind : best->second) {
    set.load_kg += 2 * rack.plates[kind].kg;
    set.plates_per_side.push_back(rack.plates[kind].name);
  }
  // Two plates' rounding to a step apart is the load itself.
  if (std::abs(set.load_kg - wanted_kg) < 0.05) {
    set.load_kg = wanted_kg;
  } else {
    notes.push_back(fmt::format("{} can't be loaded: {} is the nearest below.", said(wanted_kg, rack.unit),
                                said(set.load_kg, rack.unit)));
  }
  return set;
}

int repsAt(double share_pct) {
  return share_pct <= 50 ? 5 : share_pct <= 65 ? 4 : share_pct <= 77 ? 3 : share_pct <= 87 ? 2 : 1;
}

// Sets at shares of a top load, never twice the same, never lighter than the bar.
Result<Plan> shares(double top_kg, const std::vector<double>& all, const Rack& rack) {
  Plan plan;
  if (auto top = loaded(top_kg, rack, plan.notes); !top) return fail(top.error());
  plan.notes.clear();
  for (const double share : all) {
    const bool top = share == all.back();
    const double wanted = std::max(rack.bar_kg, top_kg * share / 100);
    std::vector<std::string> quiet;  // what a warm-up weighs is not asked for to the gram
    auto set = loaded(wanted, rack, top ? plan.notes : quiet);
    if (!set) return fail(set.error());
    if (!plan.sets.empty() && set->load_kg <= plan.sets.back().load_kg + kSame_kg) continue;
    set->share_pct = std::round(10 * 100 * set->load_kg / top_kg) / 10;
    if (!top) set->reps = repsAt(share);
    plan.sets.push_back(std::move(*set));
  }
  return plan;
}

std::optional<double> massOf(const std::string& text) {
  return kilogramsFrom(text);
}

}  // namespace

Rack Rack::usual(MassUnit unit) {
  Rack rack;
  rack.unit = unit;
  const bool pounds = unit == MassUnit::Pounds;
  rack.bar_kg = pounds ? 45 * kKilogramsPerPound : 20;
  if (pounds)
    for (const double lb : {45.0, 35.0, 25.0, 10.0, 5.0, 2.5})
      rack.plates.push_back({fmt::format("{:g} lb", lb), lb * kKilogramsPerPound,
                             lb == 45 ? kManyPairs
                             : lb > 5 ? 2
                                      : 1});
  else
    for (const double kg : {25.0, 20.0, 15.0, 10.0, 5.0, 2.5, 1.25})
      rack.plates.push_back({fmt::format("{:g} kg", kg), kg, kg == 25 ? kManyPairs : kg > 10 ? 2 : 1});
  return rack;
}

Result<Rack> Rack::load(const std::filesystem::path& file) {
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  const auto j = nlohmann::json::parse(*bytes, nullptr, false);
  const auto wrong = [&](const std::string& what) {
    return fail(ErrorCode::BadData, file.string() + ": " + what,
                "Write it as {\"bar\": \"20kg\", \"plates\": {\"25kg\": 8, \"2.5kg\": 2}}.");
  };
  if (!j.is_object() || !j.contains("plates") || !j["plates"].is_object()) return wrong("this is no rack.");
  Rack rack;
  const std::string bar = j.value("bar", "20kg");
  const auto bar_kg = massOf(bar);
  if (!bar_kg) return wrong("\"" + bar + "\" is no weight for a bar.");
  rack.bar_kg = *bar_kg;
  rack.unit = bar.find("lb") != std::string::npos ? MassUnit::Pounds : MassUnit::Kilograms;
  for (const auto& [name, count] : j["plates"].items()) {
    const auto kg = massOf(name);
    if (!kg || !count.is_number_integer() || count.get<int>() < 0)
      return wrong("\"" + name + "\" is no plate and number.");
    rack.plates.push_back({name, *kg, std::min(count.get<int>() / 2, 20)});
  }
  std::sort(rack.plates.begin(), rack.plates.end(), [](const auto& a, const auto& b) { return a.kg > b.kg; });
  return rack;
}

Result<Plan> platesFor(double load_kg, const Rack& rack) {
  Plan plan;
  auto set = loaded(load_kg, rack, plan.notes);
  if (!set) return fail(set.error());
  plan.sets.push_back(std::move(*set));
  return plan;
}

Result<Plan> percentOf(double share_pct, double max_kg, const Rack& rack) {
  if (!(share_pct >= 1 && share_pct <= 120))
    return fail(ErrorCode::WrongUse, fmt::format("{:g} % is no share of a max.", share_pct), "Take 1 to 120.");
  auto plan = platesFor(max_kg * share_pct / 100, rack);
  if (plan) plan->sets.front().share_pct = share_pct;
  return plan;
}

Result<Plan> rampTo(double top_kg, int sets, const Rack& rack) {
  constexpr int kMost = 12;
  if (sets < 1 || sets > kMost)
    return fail(ErrorCode::WrongUse, fmt::format("{} sets are no ramp.", sets), "Take 1 to 12.");
  const double first = sets > 4 ? 40 : 55;
  std::vector<double> all;
  for (int i = 0; i < sets; ++i) all.push_back(sets == 1 ? 100 : first + (100 - first) * i / (sets - 1));
  return shares(top_kg, all, rack);
}

Result<Plan> warmUpTo(double top_kg, const Rack& rack) {
  auto plan = shares(top_kg, {0, 40, 55, 70, 80, 90, 100}, rack);
  if (!plan) return plan;
  if (plan->sets.size() > 1) plan->sets.front().reps = 8;  // the bar alone
  return plan;
}

Result<Plan> ladderOf(const std::vector<double>& shares_pct, int reps, double max_kg, const Rack& rack) {
  Plan plan;
  for (const double share : shares_pct) {
    auto one = percentOf(share, max_kg, rack);
    if (!one) return one;
    one->sets[0].reps = reps;
    plan.sets.push_back(std::move(one->sets[0]));
  }
  plan.notes.push_back("Stop where the fault shows: that load is the one to work below.");
  return plan;
}

Result<Plan> backOff(double top_kg, double off_pct, int sets, int reps, const Rack& rack) {
  if (!(off_pct >= 1 && off_pct <= 50) || sets < 1 || sets > 10)
    return fail(ErrorCode::WrongUse, fmt::format("{} sets at {:g} % off can't be planned.", sets, off_pct),
                "Take 1 to 10 sets, 1 to 50 % off.");
  Plan plan;
  for (int i = 0; i < sets; ++i) {
    std::vector<std::string> quiet;
    auto one = loaded(top_kg * (1 - off_pct / 100), rack, i == 0 ? plan.notes : quiet);
    if (!one) return fail(one.error());
    one->reps = reps;
    one->share_pct = std::round(1000 * one->load_kg / top_kg) / 10;
    plan.sets.push_back(std::move(*one));
  }
  return plan;
}

Result<Plan> attemptsFrom(double max_kg, const Rack& rack) {
  Plan plan;
  for (const double share : {91.0, 96.0, 100.0}) {
    const double kg = std::floor(max_kg * share / 100 / kMeetStep_kg + 1e-6) * kMeetStep_kg;
    std::vector<std::string> quiet;
    auto set = loaded(kg, rack, quiet);
    if (!set) return fail(set.error());
    set->load_kg = kg;  // a meet's plates, not the gym's
    if (!quiet.empty()) set->plates_per_side.clear();
    set->share_pct = std::round(1000 * kg / max_kg) / 10;
    set->reps = 1;
    plan.sets.push_back(std::move(*set));
  }
  const double third = plan.sets.back().load_kg;
  plan.notes.push_back(
      "A suggestion: an opener you could triple, a second that matches a good day, a third near the max.");
  plan.notes.push_back(
      fmt::format("If the second moves fast, the third can be {}.", said(third + kMeetStep_kg, rack.unit)));
  plan.notes.push_back("Not for anyone under 18 or in pain.");
  return plan;
}

std::string planToJson(const Plan& plan) {
  using Json = nlohmann::ordered_json;
  Json j{{"sets", Json::array()}, {"notes", plan.notes}};
  for (const PlannedSet& s : plan.sets) {
    Json one;
    one["load_kg"] = s.load_kg > 0 ? Json(std::round(s.load_kg * 1000) / 1000) : Json(nullptr);
    one["load_lb"] = s.load_kg > 0 ? Json(std::round(s.load_kg * kPoundsPerKilogram * 100) / 100) : Json(nullptr);
    one["share"] = s.share_pct ? Json(*s.share_pct) : Json(nullptr);
    one["reps"] = s.reps ? Json(*s.reps) : Json(nullptr);
    if (s.rpe) one["rpe"] = *s.rpe;
    one["plates_per_side"] = s.plates_per_side;
    j["sets"].push_back(std::move(one));
  }
  return j.dump(2) + "\n";
}

namespace {

// Loads that are all one, or each: "125 kg (276 lb)", "100, 110 and 120 kg".
std::string loadsInWords(const std::vector<PlannedSet>& sets) {
  const bool one = std::all_of(sets.begin(), sets.end(), [&](const PlannedSet& s) {
    return std::abs(s.load_kg - sets[0].load_kg) < kSame_kg && s.share_pct == sets[0].share_pct;
  });
  const auto weight = [](const PlannedSet& s) {
    return s.load_kg > 0 ? massText(s.load_kg) : s.share_pct ? fmt::format("{:g} % of max", *s.share_pct) : "";
  };
  if (one) return weight(sets[0]);
  std::string all;
  for (std::size_t i = 0; i < sets.size(); ++i)
    all += (i == 0 ? "" : i + 1 == sets.size() ? " and " : ", ") + weight(sets[i]);
  return all;
}

}  // namespace

std::string setsInWords(const Plan& plan) {
  if (plan.sets.empty()) return {};
  const auto& sets = plan.sets;
  const bool same_reps = std::all_of(sets.begin(), sets.end(), [&](const auto& s) { return s.reps == sets[0].reps; });
  std::string count;
  if (sets[0].reps && same_reps)
    count = fmt::format("{} x {}", sets.size(), *sets[0].reps);
  else if (!same_reps)
    for (const PlannedSet& s : sets) count += (count.empty() ? "" : "/") + (s.reps ? std::to_string(*s.reps) : "–");
  const std::string loads = loadsInWords(sets);
  std::string text = count.empty() ? loads : loads.empty() ? count : count + " at " + loads;
  if (sets[0].rpe) text += fmt::format(", RPE {:g}", *sets[0].rpe);
  return text;
}

std::string planText(const Plan& plan, MassUnit unit) {
  std::string text;
  for (const PlannedSet& s : plan.sets) {
    text += s.load_kg > 0 ? said(s.load_kg, unit) : "load not known";
    if (s.reps) text += fmt::format(" x {}", *s.reps);
    if (s.share_pct) text += fmt::format("  ({:g} %)", *s.share_pct);
    std::string plates;
    for (const std::string& p : s.plates_per_side) plates += (plates.empty() ? "" : ", ") + p;
    if (s.rpe) text += fmt::format("  @{:g}", *s.rpe);
    text += s.load_kg <= 0 ? "\n" : plates.empty() ? "  empty bar\n" : "  each side: " + plates + "\n";
  }
  for (const std::string& note : plan.notes) text += note + "\n";
  return text;
}

}  // namespace jib::coaching
