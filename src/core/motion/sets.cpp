// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/sets.h"

#include "core/base/result.h"

namespace jib::motion {

std::vector<SetSpan> cutSets(const std::vector<Rep>& reps, double slow_factor,
                             const std::vector<std::optional<bool>>& told) {
  std::vector<SetSpan> sets;
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const bool rested = i > 0 && (reps[i].start_t() - reps[i - 1].lockout_t()) / slow_factor > kSetRest_s;
    const bool begins = i < told.size() ? told[i].value_or(rested) : rested;
    if (i == 0 || begins) sets.push_back({i, 0, reps[i].start_t(), 0});
    ++sets.back().count;
    sets.back().to_s = reps[i].lockout_t();
  }
  return sets;
}

std::size_t topSet(const std::vector<SetSpan>& sets, const std::vector<std::optional<double>>& loads) {
  JIB_ASSERT(!sets.empty());
  std::optional<std::size_t> heaviest;
  for (std::size_t k = 0; k < sets.size() && k < loads.size(); ++k)
    if (loads[k] && (!heaviest || *loads[k] >= *loads[*heaviest])) heaviest = k;
  return heaviest.value_or(sets.size() - 1);
}

}  // namespace jib::motion
