// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/which_lift.h"

#include <fmt/format.h>

namespace jib::lifts {
namespace {

std::string titleOf(std::string_view lift) {
  const LiftDefinition* known = liftNamed(lift);
  return std::string(known ? known->title : lift);
}

}  // namespace

std::string looksLike(tracing::LiftSeen seen) {
  using tracing::LiftSeen;
  for (const LiftDefinition& lift : allLifts()) {
    const LiftSeen looks = lift.body.lying                               ? LiftSeen::Lying
                           : lift.body.overhead                          ? LiftSeen::Overhead
                           : lift.pattern == motion::RepPattern::UpFirst ? LiftSeen::FromTheFloor
                                                                         : LiftSeen::DownFirst;
    if (looks == seen) return std::string(lift.name);
  }
  return {};
}

std::string usualVariant(std::string_view lift) {
  const LiftDefinition* known = liftNamed(lift);
  return known ? std::string(known->usual) : std::string();
}

LiftDecision decide(const LiftTold& t) {
  LiftDecision d;
  d.lift = t.told.empty() ? t.seen : t.told;
  if (d.lift.empty()) {
    d.question = "Which lift is this?";
    d.reason = "The lift isn't given, and the video doesn't make it clear. Pick one to start the analysis.";
    return d;
  }
  if (!t.told.empty() && !t.seen.empty() && t.told != t.seen && !t.confirmed) {
    d.question = "Which lift is this?";
    d.reason = fmt::format("Logged as a {}, but the video looks like a {}. Pick the lift to start the analysis.",
                           titleOf(t.told), titleOf(t.seen));
    return d;
  }
  if (!liftNamed(d.lift)) {
    d.reason = fmt::format("A {} can be watched and answered here, but not measured.", d.lift);
    return d;
  }
  d.judge = true;
  return d;
}

}  // namespace jib::lifts
