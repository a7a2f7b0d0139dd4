// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/where_it_lies.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/base/quantity.h"

namespace jib::coaching {
namespace {

constexpr double kLight = 0.75, kHeavy = 0.88;  // of the best
constexpr double kLongThigh = 0.95;             // of the trunk; 0.85 is common (Drillis and Contini, 1966)
constexpr int kOften = 3;                       // asked so often without a change, the words are not what is wrong

void speak(LiesHint& hint, Standing standing, std::string reason) {
  hint.standing = hint.standing == Standing::Supported ? Standing::Supported : standing;
  hint.reasons.push_back(std::move(reason));
}

LiesHint pain(const LiesAsked& asked) {
  LiesHint hint{LiesIn::Pain, Standing::Open, "Pain", "Does anything hurt there, before, during or after?", {}};
  if (asked.pain) speak(hint, Standing::Supported, "Their message says something hurts. Sort that out first.");
  return hint;
}

LiesHint kit(const LiesAsked& asked) {
  LiesHint hint{LiesIn::Kit, Standing::Open, "Kit", "Anything new: shoes, belt, bar, sleeves, rack height?", {}};
  if (asked.kit_clean.empty() || asked.kit_now.empty()) return hint;
  for (const auto& differs : lifts::kitDifferences(asked.kit_clean, asked.kit_now))
    speak(hint, Standing::Supported, "Since the last clean clip: " + differs.phrase + ".");
  // Only what both clips say can be the same.
  const bool both = std::any_of(asked.kit_now.begin(), asked.kit_now.end(),
                                [&](const auto& field) { return asked.kit_clean.count(field.first) > 0; });
  if (hint.reasons.empty() && both)
    speak(hint, Standing::Unlikely, "As far as they've said, same kit as on the last clean clip.");
  return hint;
}

// Long thighs lean a squatter further forward and start a pull with higher hips: then the limit is what is off.
bool isOfLean(const Finding& f) {
  constexpr std::string_view kOfLean[]{"lean_mismatch", "chest_drops", "hips_lead", "hips_rise_first", "too_high"};
  const std::string_view fault = std::string_view(f.id).substr(f.id.find('.') + 1);
  return std::find(std::begin(kOfLean), std::end(kOfLean), fault) != std::end(kOfLean);
}

LiesHint build(const LiesAsked& asked) {
  LiesHint hint{LiesIn::Build, Standing::Open, "Build", "Is this just how they're built?", {}};
  if (!isOfLean(*asked.finding)) {
    speak(hint, Standing::Unlikely, "Limb lengths don't cause this one.");
    return hint;
  }
  if (!asked.thigh_to_trunk) return hint;
  const auto& ratio = *asked.thigh_to_trunk;
  if (ratio.value - kSureSigmas * ratio.sigma > kLongThigh)
    speak(hint, Standing::Supported,
          fmt::format("Long thighs: {:.2f} of the torso. They lean more than most at the same depth.", ratio.value));
  else if (ratio.value + kSureSigmas * ratio.sigma < kLongThigh)
    speak(hint, Standing::Unlikely, fmt::format("Thighs aren't long: {:.2f} of the torso.", ratio.value));
  return hint;
}

LiesHint load(const LiesAsked& asked) {
  LiesHint hint{LiesIn::Load, Standing::Open, "Load and plan", "Is it strength, fatigue or the program?", {}};
  const Finding& f = *asked.finding;
  if (asked.shown_kg && asked.clean_kg && *asked.clean_kg < *asked.shown_kg)
    speak(hint, Standing::Supported,
          "Clean up to " + massText(*asked.clean_kg) + ", shows from " + massText(*asked.shown_kg) + ".");
  const bool late = !f.reps.empty() && asked.reps >= 3 && f.reps.size() < asked.reps && f.reps.front() > 1 &&
                    f.reps.back() == static_cast<int>(asked.reps);
  if (late) speak(hint, Standing::Supported, fmt::format("Starts with rep {}: it comes with fatigue.", f.reps.front()));
  if (asked.asked_before >= kOften && asked.helped == 0)
    speak(hint, Standing::Supported,
          fmt::format("Asked {} times without a change. Change the plan, not the words.", asked.asked_before));
  if (!hint.reasons.empty() || !asked.load_kg || !asked.best_kg || *asked.best_kg <= 0) return hint;
  const double share = *asked.load_kg / *asked.best_kg;
  if (share < kLight)
    speak(hint, Standing::Unlikely, fmt::format("It's only {:.0f} % of their max.", 100 * share));
  else if (share > kHeavy)
    speak(hint, Standing::Open,
          fmt::format("It's {:.0f} % of their max. See a lighter set before you coach it.", 100 * share));
  return hint;
}

LiesHint technique(const LiesAsked& asked) {
  LiesHint hint{LiesIn::Technique, Standing::Open, "Technique", "Do they know how, and can they do it light?", {}};
  const Finding& f = *asked.finding;
  const bool every = asked.reps > 0 && f.reps.size() == asked.reps;
  const bool light = asked.load_kg && asked.best_kg && *asked.best_kg > 0 && *asked.load_kg < kLight * *asked.best_kg;
  if (light && every) speak(hint, Standing::Supported, "Shows light and in every rep.");
  if (asked.helped > 0)
    speak(hint, Standing::Supported,
          asked.helped == 1 ? "A cue for it has helped before."
                            : fmt::format("Cues for it have helped {} times.", asked.helped));
  return hint;
}

}  // namespace

std::vector<LiesHint> whereItLies(const LiesAsked& asked) {
  std::vector<LiesHint> all{pain(asked), kit(asked), build(asked), load(asked), technique(asked)};
  const auto rank = [](Standing s) { return s == Standing::Supported ? 0 : s == Standing::Open ? 1 : 2; };
  std::stable_sort(all.begin(), all.end(),
                   [&](const LiesHint& a, const LiesHint& b) { return rank(a.standing) < rank(b.standing); });
  return all;
}

}  // namespace jib::coaching
