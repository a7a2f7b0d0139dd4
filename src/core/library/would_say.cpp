// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/would_say.h"

#include <algorithm>

namespace jib::library {

Result<WouldSay> wouldSay(Library& library, const coaching::Limit& limit, double moved_to) {
  const std::string lift = limit.finding.substr(0, limit.finding.find('.'));
  auto sets = library.lastMeasured(lift, limit.measure, kLookedBack);
  if (!sets) return fail(sets.error());
  coaching::Limit moved = limit;
  moved.limit = moved_to;
  const auto flags = [](const std::vector<lifts::Measured>& reps, const coaching::Limit& by) {
    return std::any_of(reps.begin(), reps.end(),
                       [&](const lifts::Measured& m) { return coaching::verdictOf(m, by) == coaching::Verdict::Yes; });
  };
  WouldSay said;
  said.sets = static_cast<int>(sets->size());
  for (const auto& reps : *sets) {
    said.as_it_is += flags(reps, limit) ? 1 : 0;
    said.as_moved += flags(reps, moved) ? 1 : 0;
  }
  return said;
}

}  // namespace jib::library
