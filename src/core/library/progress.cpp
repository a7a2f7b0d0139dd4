// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/progress.h"

#include <cmath>

namespace jib::library {

ThreadState progressOf(const CueThread& thread, const lifts::Measured& now, const coaching::Limit& limit) {
  const coaching::Verdict verdict = coaching::verdictOf(now, limit);
  if (verdict == coaching::Verdict::No) return ThreadState::Met;
  const auto size = [&](double v) { return limit.side == coaching::Side::Beyond ? std::abs(v) : v; };
  double gained = size(thread.value_then) - size(now.value);
  if (limit.side == coaching::Side::Below) gained = -gained;
  const double unsure = coaching::kSureSigmas * std::hypot(thread.sigma_then, now.sigma);
  return gained > unsure ? ThreadState::Better : ThreadState::NotYet;
}

std::optional<lifts::Measured> measuredFor(const coaching::Limit& limit, const lifts::SetMeasures& measures) {
  coaching::Style one;
  one.limits = {limit};
  const auto* lift = lifts::liftNamed(limit.finding.substr(0, limit.finding.find('.')));
  if (!lift) return std::nullopt;
  const auto findings = coaching::judge(measures, one, *lift);
  if (findings.empty()) return std::nullopt;
  return findings.front().worst;
}

}  // namespace jib::library
