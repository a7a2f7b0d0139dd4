// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/reading.h"

#include <algorithm>
#include <tuple>

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

std::vector<const Finding*> byWorth(const std::vector<Finding>& findings, const std::vector<std::string>& chosen,
                                    const Style& style) {
  enum Group { kChosen, kSure, kOpen, kFine };
  const auto rank = [&](const Finding& f) {
    const auto at = std::find(chosen.begin(), chosen.end(), f.id);
    if (at != chosen.end()) return std::tuple<Group, std::size_t, int>(kChosen, at - chosen.begin(), 0);
    const Group group = f.verdict == Verdict::Yes ? kSure : f.verdict == Verdict::TooClose ? kOpen : kFine;
    return std::tuple<Group, std::size_t, int>(group, style.lookedAt(f.id), group == kSure ? -f.severity : 0);
  };
  std::vector<const Finding*> all;
  for (const Finding& f : findings) all.push_back(&f);
  std::stable_sort(all.begin(), all.end(), [&](const Finding* a, const Finding* b) { return rank(*a) < rank(*b); });
  return all;
}

std::vector<const CueEntry*> asLookedAt(std::vector<const CueEntry*> entries, const Style& style) {
  std::stable_sort(entries.begin(), entries.end(), [&](const CueEntry* a, const CueEntry* b) {
    return style.lookedAt(a->finding) < style.lookedAt(b->finding);
  });
  return entries;
}

}  // namespace jib::coaching
