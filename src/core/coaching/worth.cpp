// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/worth.h"

#include <fmt/format.h>

namespace jib::coaching {
namespace {

constexpr int kDaysAWeek = 7;
constexpr double kLongHabit_years = 6;
constexpr std::size_t kFewReps = 3;  // from so many on one that shows it is one

WorthAnswer answered(Worth worth, std::string answer, std::string why) {
  WorthAnswer a{worth, std::move(answer), {}};
  if (!why.empty()) a.reasons.push_back(std::move(why));
  return a;
}

std::string weeksText(int weeks) {
  return weeks == 1 ? "a week" : fmt::format("{} weeks", weeks);
}

WorthAnswer decided(const WorthAsked& q) {
  const Stake stake = q.entry ? q.entry->stake : Stake::Economy;
  const int weeks = q.cue->weeks;
  if (stake == Stake::Safety) return answered(Worth::Now, "Yes, now.", "Safety doesn't wait.");
  if (q.careful)
    return answered(Worth::Now, "Yes, but light.", "Nothing heavier or deeper until they can; positions first.");
  if (q.days_to_meet && *q.days_to_meet >= 0 && *q.days_to_meet < weeks * kDaysAWeek)
    return answered(Worth::AfterMeet, "After the meet.",
                    fmt::format("The meet is in {} days and this takes {}.", *q.days_to_meet, weeksText(weeks)));
  if (stake == Stake::Standard && q.severity > 0)
    return answered(Worth::Now, "Yes, now.", "It decides whether reps count.");
  if (q.reps >= kFewReps && q.reps_with == 1)
    return answered(Worth::WaitAndSee, "Wait and see.",
                    fmt::format("One rep of {} shows it. See if it comes back.", q.reps));
  if (stake == Stake::Economy && q.severity == 1)
    return answered(
        Worth::LightTouch, "A light touch.",
        "It's small and the rep counts either way: say it once, rebuild nothing. “No changes” is a full answer too.");
  if (stake == Stake::Economy && q.years_training.value_or(0) >= kLongHabit_years && weeks >= 3)
    return answered(
        Worth::SecondDay, "On the second day first.",
        fmt::format("{:.0f} years of habit: a rebuild can cost months and kilos. Keep the main day as it is.",
                    *q.years_training));
  return answered(Worth::Now, "Yes.",
                  q.reps_with > 1 ? fmt::format("It shows in {} of {} reps.", q.reps_with, q.reps) : std::string());
}

}  // namespace

WorthAnswer worthChanging(const WorthAsked& asked) {
  WorthAnswer a = decided(asked);
  const Cue& cue = *asked.cue;
  if (a.worth != Worth::LightTouch && a.worth != Worth::WaitAndSee) {
    const std::string at = cue.load.empty() ? std::string() : "; load: " + cue.load;
    a.reasons.push_back(fmt::format("Cost: about {} of lighter top sets{}.", weeksText(cue.weeks), at));
  }
  if (!cue.price.empty()) a.reasons.push_back(cue.price);
  if (a.worth == Worth::SecondDay && asked.entry && !asked.entry->second_day.empty())
    a.reasons.push_back("Second day: " + asked.entry->second_day);
  return a;
}

}  // namespace jib::coaching
