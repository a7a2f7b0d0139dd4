// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/which_lift.h"

#include <fmt/format.h>

namespace jib::lifts {
namespace {

constexpr NamedVariant kSquats[]{
    {"low-bar", "low-bar"}, {"high-bar", "high-bar"}, {"front", "front"}, {"paused", "paused"}};
constexpr NamedVariant kBenches[]{{"paused", "paused"}, {"touch-and-go", "touch-and-go"}};
constexpr NamedVariant kDeadlifts[]{{"conventional", "conventional"}, {"sumo", "sumo"}, {"hex", "hex-bar"}};
constexpr NamedLift kLifts[]{{"squat", "squat", kSquats, true},
                             {"bench", "bench press", kBenches, false},
                             {"deadlift", "deadlift", kDeadlifts, false}};

std::string titleOf(std::string_view lift) {
  const NamedLift* known = liftNamed(lift);
  return std::string(known ? known->title : lift);
}

}  // namespace

std::span<const NamedLift> allLifts() {
  return kLifts;
}

const NamedLift* liftNamed(std::string_view id) {
  for (const NamedLift& lift : kLifts)
    if (lift.id == id) return &lift;
  return nullptr;
}

std::string usualVariant(std::string_view lift) {
  const NamedLift* known = liftNamed(lift);
  return known ? std::string(known->variants.front().id) : std::string();
}

LiftDecision decide(const LiftTold& t) {
  LiftDecision d;
  d.lift = t.told.empty() ? t.seen : t.told;
  if (d.lift.empty()) {
    d.question = "Which lift is this?";
    d.reason = "Nobody has said which lift this is, and the film does not tell: nothing is judged until you say.";
    return d;
  }
  if (!t.told.empty() && !t.seen.empty() && t.told != t.seen && !t.confirmed) {
    d.question = "Which lift is this?";
    d.reason = fmt::format("It is down as a {}, but the film looks like a {}: nothing is judged until you say which.",
                           titleOf(t.told), titleOf(t.seen));
    return d;
  }
  const NamedLift* known = liftNamed(d.lift);
  if (!known || !known->measured) {
    d.reason = fmt::format("A {} can be watched and answered here, but not measured yet.", titleOf(d.lift));
    return d;
  }
  d.judge = true;
  return d;
}

}  // namespace jib::lifts
