// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace jib::coaching {

// How an athlete trains around something that hurts: just under what brings it on, held for some weeks, then small
// steps. It says nothing of what it is: that is for a doctor or physical therapist.
struct PainPlan {
  std::string where;                                                   // "left knee", in the coach's words
  std::optional<double> trigger_kg;                                    // the load that brings it on
  std::optional<int> trigger_sets;                                     // in which set it comes
  std::string range;                                                   // how far is fine: "to just above parallel"
  std::string part;                                                    // in which part of the lift: "off the chest"
  int hold_weeks = 3;                                                  // 3 to 4 as a rule
  enum class Step { AddSet, Smallest, Larger } step = Step::Smallest;  // then: a set, 2.5 %, or 5 % more
  std::string note;                                                    // anything else, in the coach's words
  friend bool operator==(const PainPlan&, const PainPlan&) = default;

  bool saysWhatBringsItOn() const { return trigger_kg || trigger_sets || !range.empty() || !part.empty(); }
};

// The heaviest load that stays clear of the trigger: five per cent below, down to what can be loaded.
double justUnder(double trigger_kg);

// The plan as an athlete reads it, a sentence each; the last ones say when to stop, and to whom to go.
std::vector<std::string> sentencesOf(const PainPlan& plan);
// In one line, for a list: "left knee: up to 95 kg (209 lb) for 3 weeks".
std::string titleOf(const PainPlan& plan);

// It is followed up like a cue, by asking.
inline constexpr std::string_view kPainThread = "pain";

std::string painPlanToJson(const PainPlan& plan);
std::optional<PainPlan> painPlanFromJson(std::string_view json);

}  // namespace jib::coaching
