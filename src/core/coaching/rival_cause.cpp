// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/rival_cause.h"

#include <algorithm>
#include <optional>

#include "core/coaching/finding.h"

namespace jib::coaching {
namespace {

std::optional<Evidence> measured(const EvidenceRule& rule, const lifts::SetMeasures& measures) {
  Evidence e;
  e.rule = rule;
  double sum = 0, n = 0;
  const auto hold = [&](const lifts::MeasureList& list) {
    const auto* named = lifts::find(list, rule.measure);
    const lifts::Measured* m = named ? named->measured() : nullptr;
    if (!m) return;
    e.kind = named->kind;
    sum += m->value;
    n += 1;
    e.value.sigma = std::max(e.value.sigma, m->sigma);
    e.value.t_s = m->t_s;
  };
  for (const auto& rep : measures.reps) hold(rep);
  hold(measures.set);
  if (n == 0) return std::nullopt;
  e.value.value = sum / n;
  return e;
}

}  // namespace

std::string textOf(const Evidence& e) {
  // "Knees slide back, of shin" is said as "Knees slide back 21 ± 4 % of shin".
  const std::string title(e.kind->title);
  const auto share = title.find(", of ");
  const std::string of = share == std::string::npos ? "" : title.substr(share + 1);
  return title.substr(0, share) + " " + lifts::textWithSigma(*e.kind, e.value) + of +
         (e.rule.above ? " (more than " : " (less than ") + lifts::text(*e.kind, {e.rule.threshold, 0, 0}) + ")";
}

std::vector<RivalCause> weigh(const std::vector<CauseRule>& rules, const lifts::SetMeasures& measures,
                              const Tried& tried) {
  std::vector<RivalCause> rivals;
  for (const CauseRule& rule : rules) {
    RivalCause rival{rule.cause, rule.test, rule.cost, Standing::Open, {}, {}, {}};
    for (const EvidenceRule& one : rule.evidence) {
      const auto e = measured(one, measures);
      if (!e) continue;
      Limit limit;
      limit.limit = one.threshold;
      limit.side = one.above ? Side::Above : Side::Below;
      if (verdictOf(e->value, limit) != Verdict::Yes) continue;
      (one.speaks_for ? rival.speaking_for : rival.speaking_against).push_back(*e);
    }
    if (!rival.speaking_for.empty() && rival.speaking_against.empty()) rival.standing = Standing::Supported;
    if (rival.speaking_for.empty() && !rival.speaking_against.empty()) rival.standing = Standing::Unlikely;
    if (tried) rival.helped = tried(rival.cause);
    if (rival.helped) rival.standing = *rival.helped ? Standing::Supported : Standing::Unlikely;
    rivals.push_back(std::move(rival));
  }
  std::stable_sort(rivals.begin(), rivals.end(), [](const RivalCause& a, const RivalCause& b) {
    if (const bool ha = a.helped == true, hb = b.helped == true; ha != hb) return ha;
    const bool ua = a.standing == Standing::Unlikely, ub = b.standing == Standing::Unlikely;
    if (ua != ub) return ub;
    if (a.cost != b.cost) return a.cost < b.cost;
    return a.standing < b.standing;
  });
  return rivals;
}

}  // namespace jib::coaching
