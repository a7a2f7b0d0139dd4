// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/load_shown.h"

#include <cmath>

#include "core/base/quantity.h"
#include "core/library/dates.h"

namespace jib::library {
namespace {

constexpr double kSame_kg = 0.05;

// A day repeats the one before it where it shows from the same load on, or is clean at no more than what was clean.
bool saysNothingNew(const Library::ShownOn& day, const Library::ShownOn& before) {
  if (day.shown_kg.has_value() != before.shown_kg.has_value()) return false;
  if (day.shown_kg) return std::abs(*day.shown_kg - *before.shown_kg) < kSame_kg;
  return *day.clean_kg < *before.clean_kg + kSame_kg;
}

}  // namespace

std::string loadShownText(const std::vector<Library::ShownOn>& days) {
  if (days.size() < 2) return {};
  std::vector<Library::ShownOn> told;
  for (const auto& day : days) {
    // What was shown light and is now done once, clean, on a lighter day still says nothing of the heavier one.
    const bool lighter =
        !day.shown_kg && !told.empty() && told.back().shown_kg && *day.clean_kg < *told.back().shown_kg;
    if (!lighter && (told.empty() || !saysNothingNew(day, told.back()))) told.push_back(day);
  }
  constexpr std::size_t kTold = 4;
  if (told.size() > kTold) told.erase(told.begin(), told.end() - kTold);
  std::string text;
  const Library::ShownOn* before = nullptr;
  for (const auto& day : told) {
    const bool turned = before && before->shown_kg.has_value() != day.shown_kg.has_value();
    text += !before  ? (day.shown_kg ? "Shows from " : "Not at ")
            : turned ? (day.shown_kg ? "; shows from " : "; not at ")
                     : (day.shown_kg ? ", from " : ", not at ");
    text += massText(day.shown_kg ? *day.shown_kg : *day.clean_kg) + " on " + spoken(day.on);
    before = &day;
  }
  return text.empty() ? text : text + ".";
}

}  // namespace jib::library
