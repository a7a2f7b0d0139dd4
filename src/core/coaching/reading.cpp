// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/reading.h"

#include <algorithm>

namespace jib::coaching {

std::vector<Reading> readingsOf(const lifts::SetMeasures& measures, const Finding& finding) {
  std::vector<Reading> all;
  if (!finding.kind) return all;
  Limit limit;
  limit.limit = finding.limit;
  limit.side = finding.side;
  const auto read = [&](const lifts::MeasureList& list, int rep) {
    const auto* named = lifts::find(list, finding.kind->id);
    if (const lifts::Measured* m = named ? named->measured() : nullptr) all.push_back({rep, *m, verdictOf(*m, limit)});
  };
  for (std::size_t i = 0; i < measures.reps.size(); ++i) read(measures.reps[i], static_cast<int>(i + 1));
  read(measures.set, 0);
  return all;
}

std::vector<const Finding*> byWorth(const std::vector<Finding>& findings, const std::vector<std::string>& chosen) {
  const auto rank = [&](const Finding& f) {
    const auto at = std::find(chosen.begin(), chosen.end(), f.id);
    if (at != chosen.end()) return static_cast<int>(at - chosen.begin());
    const int after = static_cast<int>(chosen.size());
    constexpr int kStrongest = 3;
    if (f.verdict == Verdict::Yes) return after + kStrongest - std::min(f.severity, kStrongest);
    return after + kStrongest + (f.verdict == Verdict::TooClose ? 1 : 2);
  };
  std::vector<const Finding*> all;
  for (const Finding& f : findings) all.push_back(&f);
  std::stable_sort(all.begin(), all.end(), [&](const Finding* a, const Finding* b) { return rank(*a) < rank(*b); });
  return all;
}

}  // namespace jib::coaching
