// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/finding.h"

#include <cmath>

namespace jib::coaching {
namespace {

// How far past the limit, in the flagged direction.
double past(double value, const Limit& limit) {
  switch (limit.side) {
    case Side::Above:
      return value - limit.limit;
    case Side::Below:
      return limit.limit - value;
    case Side::Beyond:
      return std::abs(value) - limit.limit;
  }
  return 0;
}

int severityOf(double value, const Limit& limit) {
  const double whole = std::abs(limit.strong - limit.limit);
  const double share = whole > 0 ? past(value, limit) / whole : 0;
  if (share <= 0) return 0;
  return share < 0.5 ? 1 : share < 1.0 ? 2 : 3;
}

}  // namespace

std::string_view nameOf(Verdict verdict) {
  switch (verdict) {
    case Verdict::No:
      return "no";
    case Verdict::TooClose:
      return "too_close";
    case Verdict::Yes:
      return "yes";
  }
  return "no";
}

Verdict verdictOf(const lifts::Measured& measured, const Limit& limit) {
  const double d = past(measured.value, limit), unsure = kSureSigmas * measured.sigma;
  return d > unsure ? Verdict::Yes : d < -unsure ? Verdict::No : Verdict::TooClose;
}

std::vector<Finding> judge(const lifts::SetMeasures& measures, const Style& style, const lifts::LiftDefinition& lift,
                           std::string_view variant) {
  const std::string ours = std::string(lift.name) + ".";
  std::vector<Finding> findings;
  for (const Limit& limit : style.limits) {
    if (!limit.finding.starts_with(ours) || !lifts::isOf(variant.empty() ? lift.usual : variant, limit.variant))
      continue;
    Finding finding;
    finding.id = limit.finding;
    finding.limit = limit.limit;
    finding.side = limit.side;
    finding.settle = limit.settle;
    bool seen = false;
    std::vector<int> close;
    const auto hold = [&](const lifts::NamedMeasure* named, int rep) {
      const lifts::Measured* m = named ? named->measured() : nullptr;
      if (!m) return;
      const Verdict verdict = verdictOf(*m, limit);
      // The rep that shows it most is the one of which it can be said most surely: the end of its ± that speaks for the
      // athlete decides, so that the number that is told is one the verdict rests on.
      const auto surely = [&](const lifts::Measured& of) { return past(of.value, limit) - kSureSigmas * of.sigma; };
      if (!seen || surely(*m) > surely(finding.worst)) {
        finding.worst = *m;
        finding.kind = named->kind;
      }
      seen = true;
      if (verdict == Verdict::Yes && rep > 0) finding.reps.push_back(rep);
      if (verdict == Verdict::TooClose && rep > 0) close.push_back(rep);
      finding.verdict = std::max(finding.verdict, verdict);
    };
    for (std::size_t i = 0; i < measures.reps.size(); ++i)
      hold(lifts::find(measures.reps[i], limit.measure), static_cast<int>(i + 1));
    hold(lifts::find(measures.set, limit.measure), 0);
    if (!seen) continue;
    if (finding.verdict == Verdict::TooClose) finding.reps = close;
    if (finding.verdict == Verdict::Yes) finding.severity = severityOf(finding.worst.value, limit);
    findings.push_back(std::move(finding));
  }
  return findings;
}

}  // namespace jib::coaching
