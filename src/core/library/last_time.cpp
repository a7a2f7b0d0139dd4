// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/last_time.h"

#include <algorithm>
#include <cmath>

#include "core/coaching/finding.h"

namespace jib::library {

lifts::Measured meanOf(const std::vector<lifts::Measured>& values) {
  lifts::Measured mean{0, 0, values.front().t_s};
  for (const auto& v : values) {
    mean.value += v.value / static_cast<double>(values.size());
    mean.sigma = std::max(mean.sigma, v.sigma);
  }
  return mean;
}

bool changed(const lifts::Measured& now, const lifts::Measured& then) {
  return std::abs(now.value - then.value) > coaching::kSureSigmas * std::hypot(now.sigma, then.sigma);
}

Result<std::optional<LastTime>> lastTime(Library& library, const Submission& now) {
  auto all = library.before(now);
  if (!all) return fail(all.error());
  for (const Submission& s : *all) {
    auto kept = library.results(s.id);
    if (!kept) return fail(kept.error());
    if (kept->empty()) continue;
    LastTime last{s, {}};
    for (const auto& [measure, values] : *kept) {
      std::vector<lifts::Measured> reps;
      for (const auto& v : values) reps.push_back(v.measured);
      last.mean[measure] = meanOf(reps);
    }
    return std::optional(std::move(last));
  }
  return std::optional<LastTime>();
}

}  // namespace jib::library
