// SPDX-License-Identifier: GPL-3.0-or-later
// The arithmetic of loads: percent of a max, ramps, warm-ups, plates, attempts, an estimated max. No library.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <cstdio>
#include <memory>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "core/base/files.h"
#include "core/base/quantity.h"
#include "core/coaching/loading.h"
#include "core/coaching/plan.h"
#include "core/coaching/set_notation.h"

namespace jib::cli {
namespace {

using coaching::Plan;
using coaching::Rack;

struct PlanOptions {
  std::string load, of, to, bar, rack, json, text;
  double percent = 0, rpe = 10;
  int sets = 0, reps = 0;
  bool rpe_said = false;
};

// "140kg", "308lb"; a number alone is in kilograms.
Result<double> massOf(const std::string& text) {
  const auto kg = kilogramsFrom(text);
  if (!kg) return fail(ErrorCode::WrongUse, "\"" + text + "\" is no load.", "Type it as 140kg or 308lb.");
  return *kg;
}
MassUnit unitOf(const std::string& text) {
  return text.find("lb") == std::string::npos ? MassUnit::Kilograms : MassUnit::Pounds;
}

// The gym's own, else a usual one in the unit of the load that was typed.
Result<Rack> rackFor(const PlanOptions& o, const std::string& typed) {
  Rack rack = Rack::usual(unitOf(typed));
  if (!o.rack.empty()) {
    auto own = Rack::load(o.rack);
    if (!own) return own;
    rack = std::move(*own);
  }
  if (!o.bar.empty()) {
    auto bar = massOf(o.bar);
    if (!bar) return fail(bar.error());
    rack.bar_kg = *bar;
  }
  return rack;
}

Result<int> write(const PlanOptions& o, const std::string& json, const std::string& text) {
  if (o.json.empty()) {
    std::fputs(text.c_str(), stdout);
    return kDone;
  }
  if (o.json == "-") {
    std::fputs(json.c_str(), stdout);
    return kDone;
  }
  if (auto kept = writeWhole(FileSystem::real(), o.json, json); !kept) return fail(kept.error());
  return kDone;
}

using Maker = std::function<Result<Plan>(double kg, const Rack& rack)>;
Result<int> plan(const PlanOptions& o, const std::string& typed, const Maker& make) {
  auto kg = massOf(typed);
  if (!kg) return fail(kg.error());
  auto rack = rackFor(o, typed);
  if (!rack) return fail(rack.error());
  auto made = make(*kg, *rack);
  if (!made) return fail(made.error());
  return write(o, coaching::planToJson(*made), coaching::planText(*made, rack->unit));
}

Result<int> typedSets(const PlanOptions& o) {
  std::optional<double> max;
  if (!o.of.empty()) {
    auto kg = massOf(o.of);
    if (!kg) return fail(kg.error());
    max = *kg;
  }
  auto rack = rackFor(o, o.of.empty() ? o.text : o.of);
  if (!rack) return fail(rack.error());
  auto made = coaching::planTyped(o.text, max, *rack);
  if (!made) return fail(made.error());
  return write(o, coaching::planToJson(*made), coaching::planText(*made, rack->unit));
}

Result<int> best(const PlanOptions& o) {
  auto kg = massOf(o.load);
  if (!kg) return fail(kg.error());
  if (o.rpe_said && (o.rpe < 4 || o.rpe > 10))
    return fail(ErrorCode::WrongUse, fmt::format("{:g} is no RPE.", o.rpe), "Take 4 to 10.");
  const auto range = o.reps < 1 ? std::nullopt : coaching::bestFrom(*kg, o.reps, o.rpe_said ? 10 - o.rpe : 0);
  if (!range) return fail(ErrorCode::WrongUse, fmt::format("{} reps tell no max.", o.reps), "Take 1 to 12 reps.");
  nlohmann::ordered_json j{{"low_kg", std::round(10 * range->least_kg) / 10},
                           {"high_kg", std::round(10 * range->most_kg) / 10},
                           {"source", "Epley 1985 and Brzycki 1993, the range between them"}};
  const bool pounds = unitOf(o.load) == MassUnit::Pounds;
  const double per = pounds ? kPoundsPerKilogram : 1;
  std::string text = fmt::format("Estimated max {:.0f} to {:.0f} {}", range->least_kg * per, range->most_kg * per,
                                 pounds ? "lb" : "kg");
  if (!o.rpe_said) {
    j["note"] = "No RPE given, so the max may be higher.";
    text += " or more";
  }
  return write(o, j.dump(2) + "\n", text + "\n");
}

}  // namespace

void addPlan(CLI::App& app, int& status) {
  // long because one subcommand after the other
  auto o = std::make_shared<PlanOptions>();
  CLI::App* command = app.add_subcommand("plan", "The arithmetic of loads, without a library");
  command->require_subcommand(1);
  const auto add = [&](const char* name, const char* what, auto run) {
    CLI::App* sub = command->add_subcommand(name, what);
    sub->add_option("--json", o->json, "The plan (JSON); - for standard output");
    sub->add_option("--bar", o->bar, "The bar, as 20kg or 45lb");
    sub->add_option("--rack", o->rack, "The gym's plates (JSON)");
    sub->callback([o, run, &status] {
      const Result<int> done = run(*o);
      status = done ? *done : complain(done.error());
    });
    return sub;
  };
  auto* percent = add("percent", "A share of a max", [](const PlanOptions& p) {
    return plan(p, p.of, [&](double kg, const Rack& r) { return coaching::percentOf(p.percent, kg, r); });
  });
  percent->add_option("share", o->percent, "Percent")->required();
  percent->add_option("--of", o->of, "The max, as 180kg or 400lb")->required();
  auto* ramp = add("ramp", "Even steps to a top set", [](const PlanOptions& p) {
    return plan(p, p.to, [&](double kg, const Rack& r) { return coaching::rampTo(kg, p.sets, r); });
  });
  ramp->add_option("--to", o->to, "The top set")->required();
  ramp->add_option("--sets", o->sets, "How many, the top set among them")->required();
  add("warmup", "From the empty bar to a top set",
      [](const PlanOptions& p) {
        return plan(p, p.to, [](double kg, const Rack& r) { return coaching::warmUpTo(kg, r); });
      })
      ->add_option("--to", o->to, "The top set")
      ->required();
  add("plates", "The plates for a load",
      [](const PlanOptions& p) {
        return plan(p, p.load, [](double kg, const Rack& r) { return coaching::platesFor(kg, r); });
      })
      ->add_option("load", o->load, "As 142.5kg or 315lb")
      ->required();
  add("attempts", "Opener, second and third from a max",
      [](const PlanOptions& p) {
        return plan(p, p.of, [](double kg, const Rack& r) { return coaching::attemptsFrom(kg, r); });
      })
      ->add_option("--best", o->of, "The max")
      ->required();
  auto* sets = add("sets", "Sets as typed: 5x3 @ 80%, 5/3/1 @ 100/110/120, 70/80/90 % x 2",
                   [](const PlanOptions& p) { return typedSets(p); });
  sets->add_option("sets", o->text, "The sets, in quotes")->required();
  sets->add_option("--of", o->of, "The max that shares are of");
  auto* max = add("best", "A max from a set", [](const PlanOptions& p) { return best(p); });
  max->add_option("--load", o->load, "As 150kg or 330lb")->required();
  max->add_option("--reps", o->reps, "Done in the set")->required();
  max->add_option("--rpe", o->rpe, "How hard it was")->each([o](const std::string&) { o->rpe_said = true; });
}

}  // namespace jib::cli
