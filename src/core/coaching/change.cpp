// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/change.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/quantity.h"
#include "core/coaching/change_book.h"

namespace jib::coaching {
namespace {

using Kind = ChangeKind;
using Unit = ChangeUnit;

// Made when it is first asked for: books are read before main() begins, too.
const std::array<ChangeDefinition, 11>& definitions() {
  static const std::array<ChangeDefinition, 11> kAll{{
      {Kind::Stance, "stance", "Stance width", Unit::Metres, 0.01, 0.1, 1.3, {"stance_width_m"}},
      {Kind::ToeAngle,
       "toe_angle",
       "Toes turned out",
       Unit::Degrees,
       5,
       0,
       80,
       {"toe_out_left_deg", "toe_out_right_deg"}},
      {Kind::Grip,
       "grip",
       "Grip",
       Unit::Words,
       0,
       0,
       0,
       {},
       {"one finger wider", "one finger narrower", "ring finger on the rings", "middle finger on the rings",
        "index finger on the rings", "hands just outside the legs", "hands under the shoulders"}},
      {Kind::Hooks, "hooks", "Rack hooks", Unit::Notches, 1, -10, 10},
      {Kind::HeelRaise, "heel_raise", "Heel raise", Unit::Metres, 0.005, 0, 0.06},
      {Kind::Eyes,
       "eyes",
       "Eyes",
       Unit::Words,
       0,
       0,
       0,
       {},
       {"a mark on the wall at eye level", "straight ahead", "the floor a body length ahead"}},
      {Kind::Descent, "descent", "Time down", Unit::Seconds, 0.5, 0.5, 8, {"descent_s"}},
      {Kind::Pause, "pause", "Pause", Unit::Seconds, 0.5, 0, 8, {"pause_s", "touch_pause_s"}},
      {Kind::Bar,
       "bar",
       "Bar",
       Unit::Words,
       0,
       0,
       0,
       {},
       {"straight bar", "safety squat bar", "cambered bar", "deadlift bar", "hex bar"}},
      {Kind::Variation,
       "variation",
       "Variation",
       Unit::Words,
       0,
       0,
       0,
       {},
       {"pause squat", "front squat", "tempo squat", "block pull", "pause deadlift", "spoto press",
        "close-grip bench"}},
      {Kind::Load, "load", "Load", Unit::Kilograms, 2.5, 1, 600},
  }};
  return kAll;
}

std::string quarters(double inches) {
  const long q = std::lround(std::abs(inches) * 4);
  static constexpr std::array<const char*, 4> kFraction{"", "¼", "½", "¾"};
  std::string text = q >= 4 || q == 0 ? std::to_string(q / 4) : std::string();
  return text + kFraction.at(static_cast<std::size_t>(q % 4));
}

// The bare number in the kind's own unit: "45", "1.5".
std::string digits(double value, double places) {
  return fmt::format("{:g}", std::round(value * places) / places);
}

struct Said {
  std::string number, unit;  // "45" and "cm"
};
std::vector<Said> both(const Said& first, const Said& second) {
  if (displayUnits().one_only) return {first};
  return {first, second};
}
std::vector<Said> said(Unit unit, double value) {
  switch (unit) {
    case Unit::Metres: {
      const Said cm{digits(100 * value, 2), "cm"}, in{quarters(100 * value / kCentimetresPerInch), "in"};
      return displayUnits().length == LengthUnit::Inches ? both(in, cm) : both(cm, in);
    }
    case Unit::Kilograms: {
      const Said kg{digits(value, 10), "kg"}, lb{digits(value * kPoundsPerKilogram, 1), "lb"};
      return displayUnits().mass == MassUnit::Pounds ? both(lb, kg) : both(kg, lb);
    }
    case Unit::Degrees:
      return {{digits(value, 1), "°"}};
    case Unit::Seconds:
      return {{digits(value, 10), "s"}};
    case Unit::Notches:
      return {{digits(std::abs(value), 1), std::abs(value) == 1 ? "notch" : "notches"}};
    case Unit::Words:
      break;
  }
  return {};
}

std::string joined(const Said& s) {
  return s.unit == "°" ? s.number + s.unit : s.number + " " + s.unit;
}
std::string range(const Said& from, const Said& to) {
  return from.unit == "°" ? from.number + " to " + to.number + to.unit
                          : from.number + " to " + to.number + " " + to.unit;
}

// "4 cm narrower"
std::string_view moreWord(Kind kind, bool more) {
  switch (kind) {
    case Kind::Stance:
      return more ? "wider" : "narrower";
    case Kind::Hooks:
    case Kind::HeelRaise:
      return more ? "higher" : "lower";
    case Kind::ToeAngle:
      return more ? "further out" : "further in";
    case Kind::Descent:
    case Kind::Pause:
      return more ? "longer" : "shorter";
    default:
      return more ? "more" : "less";
  }
}

std::string wordsFromTo(const Change& c) {
  if (c.to_words.empty()) return {};
  return c.from_words.empty() ? c.to_words : "from " + c.from_words + " to " + c.to_words;
}

double nearestStep(double value, double step) {
  return step > 0 ? std::round(value / step) * step : value;
}

}  // namespace

std::span<const ChangeDefinition> changeDefinitions() {
  return definitions();
}
const ChangeDefinition& definitionOf(ChangeKind kind) {
  return *std::find_if(definitions().begin(), definitions().end(), [&](const auto& d) { return d.kind == kind; });
}

std::vector<ChangeKind> changesFor(const lifts::LiftDefinition& lift) {
  return ChangeBook::shipped().offered(lift);
}

double Change::direction() const {
  if (by) return *by;
  return from && to ? *to - *from : 0;
}

std::optional<lifts::Measured> shownOn(ChangeKind kind, const lifts::SetMeasures& measures) {
  for (const std::string_view id : definitionOf(kind).measures)
    if (const auto shown = lifts::meanOf(id, measures)) return shown;
  return std::nullopt;
}

Change changeOf(ChangeKind kind, const lifts::SetMeasures& measures) {
  Change c;
  c.kind = kind;
  if (const auto shown = shownOn(kind, measures)) {
    c.from = shown->value;
    c.from_sigma = shown->sigma;
  }
  return c;
}

Change changeFrom(const ChangeIdea& idea, const lifts::SetMeasures& measures) {
  const ChangeDefinition& kind = definitionOf(idea.kind);
  Change c = changeOf(idea.kind, measures);
  c.to_words = idea.to_words;
  if (idea.to) c.to = idea.to;
  if (idea.by && c.from)
    c.to = std::clamp(nearestStep(*c.from + *idea.by, kind.step), kind.least, kind.most);
  else if (idea.by)
    c.by = idea.by;
  return c;
}

std::string quantityText(ChangeKind kind, double value) {
  const auto all = said(definitionOf(kind).unit, value);
  if (all.empty()) return {};
  return all.size() == 1 ? joined(all[0]) : fmt::format("{} ({})", joined(all[0]), joined(all[1]));
}

std::string fromTo(const Change& c) {
  const ChangeDefinition& kind = definitionOf(c.kind);
  if (!c.said()) return {};
  if (kind.unit == Unit::Words) return wordsFromTo(c);
  if (c.to && c.from) {
    const auto a = said(kind.unit, *c.from), b = said(kind.unit, *c.to);
    const std::string first = "from " + range(a[0], b[0]);
    return a.size() == 1 ? first : fmt::format("{} ({})", first, range(a[1], b[1]));
  }
  if (c.to) return quantityText(c.kind, *c.to);
  return fmt::format("{} {}", quantityText(c.kind, std::abs(*c.by)), moreWord(c.kind, *c.by > 0));
}

std::string textOf(const Change& c) {
  const std::string what = fromTo(c);
  if (what.empty()) return {};
  std::string text = fmt::format("{}: {}", definitionOf(c.kind).title, what);
  // Feet move one at a time: nobody halves a number in the rack.
  if (const double total = c.direction(); c.kind == Kind::Stance && total != 0)
    text += fmt::format(", {} {} on each side", quantityText(c.kind, std::abs(total) / 2), total > 0 ? "out" : "in");
  return text;
}

SideEffect sideEffectOf(const Change& c, const lifts::LiftDefinition& lift) {
  return c.said() ? ChangeBook::shipped().bringsOf(c, lift) : SideEffect{};
}

Done doneBy(const Change& c, const lifts::Measured& now) {
  if (!c.to) return Done::CantTell;
  if (!c.from) {  // only the goal is known: there, or beyond what it can be off by
    const double off = std::abs(now.value - *c.to);
    return off < definitionOf(c.kind).step + lifts::kSureSigmas * now.sigma ? Done::Yes : Done::No;
  }
  const double way = *c.to - *c.from;
  if (way == 0) return Done::CantTell;
  const double gone = (now.value - *c.from) / way;
  const double unsure = lifts::kSureSigmas * std::hypot(c.from_sigma, now.sigma) / std::abs(way);
  if (gone - unsure > 0) return gone > 0.5 ? Done::Yes : Done::CantTell;  // surely moved, and most of the way
  return gone + unsure < 1 ? Done::No : Done::CantTell;
}

std::string changeToJson(const Change& c) {
  nlohmann::json j{{"kind", definitionOf(c.kind).name}};
  const auto number = [&](const char* key, const std::optional<double>& v) {
    if (v) j[key] = *v;
  };
  number("from", c.from);
  number("to", c.to);
  number("by", c.by);
  if (c.from_sigma > 0) j["from_sigma"] = c.from_sigma;
  if (!c.from_words.empty()) j["from_words"] = c.from_words;
  if (!c.to_words.empty()) j["to_words"] = c.to_words;
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

std::optional<Change> changeFromJson(std::string_view json) {
  const auto j = nlohmann::json::parse(json, nullptr, false);
  if (!j.is_object() || !j.contains("kind") || !j["kind"].is_string()) return std::nullopt;
  const auto kind = std::find_if(definitions().begin(), definitions().end(),
                                 [&](const auto& d) { return d.name == j["kind"].get<std::string>(); });
  if (kind == definitions().end()) return std::nullopt;
  Change c;
  c.kind = kind->kind;
  const auto number = [&](const char* key) -> std::optional<double> {
    const auto it = j.find(key);
    if (it == j.end() || !it->is_number() || !std::isfinite(it->get<double>())) return std::nullopt;
    return it->get<double>();
  };
  const auto text = [&](const char* key) {
    const auto it = j.find(key);
    return it != j.end() && it->is_string() ? it->get<std::string>() : std::string();
  };
  c.from = number("from");
  c.to = number("to");
  c.by = number("by");
  c.from_sigma = number("from_sigma").value_or(0);
  c.from_words = text("from_words");
  c.to_words = text("to_words");
  return c;
}

}  // namespace jib::coaching
