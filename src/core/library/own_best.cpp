// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/own_best.h"

#include <cmath>

#include "core/lifts/measure_set.h"

namespace jib::library {
namespace {

using Kept = std::map<std::string, std::vector<Library::KeptMeasure>>;

// What ranks a rep, or nullopt when some of it is missing.
std::optional<decltype(OwnBest::measured)> rankedIn(const Kept& kept, int rep, const lifts::LiftDefinition& lift) {
  decltype(OwnBest::measured) found;
  for (const lifts::RankTerm& term : lift.ranking) {
    const auto values = kept.find(std::string(term.measure));
    if (values == kept.end()) return std::nullopt;
    for (const auto& v : values->second)
      if (v.rep == rep) found[values->first] = v.measured;
    if (!found.contains(values->first)) return std::nullopt;
  }
  return found;
}

double cost(const decltype(OwnBest::measured)& measured, const lifts::LiftDefinition& lift) {
  double sum = 0;
  for (const lifts::RankTerm& term : lift.ranking)
    sum += lifts::usualFaults(term, measured.find(term.measure)->second.value);
  return sum;
}

int repsIn(const Kept& kept) {
  int most = 0;
  for (const auto& [measure, values] : kept)
    for (const auto& v : values) most = std::max(most, v.rep);
  return most;
}

}  // namespace

Result<std::optional<OwnBest>> ownBest(Library& library, const Submission& now) {
  std::optional<OwnBest> best;
  const lifts::LiftDefinition* lift = lifts::liftNamed(now.lift);
  if (!lift || lift->ranking.empty()) return best;
  auto all = library.before(now);
  if (!all) return fail(all.error());
  for (const Submission& s : *all) {
    if (s.variant != now.variant) continue;
    auto kept = library.results(s.id);
    if (!kept) return fail(kept.error());
    for (int rep = 1; rep <= repsIn(*kept); ++rep)
      if (auto ranked = rankedIn(*kept, rep, *lift))
        if (!best || cost(*ranked, *lift) < cost(best->measured, *lift)) best = OwnBest{s, rep, std::move(*ranked)};
  }
  return best;
}

std::optional<lifts::Measured> behind(const lifts::MeasureList& rep, const OwnBest& best,
                                      const lifts::LiftDefinition& lift) {
  lifts::Measured out;
  for (const lifts::RankTerm& term : lift.ranking) {
    const auto* now = lifts::find(rep, term.measure);
    const auto then = best.measured.find(term.measure);
    if (!now || !now->measured() || then == best.measured.end()) return std::nullopt;
    out.value += lifts::usualFaults(term, now->measured()->value) - lifts::usualFaults(term, then->second.value);
    out.sigma = std::hypot(out.sigma, now->measured()->sigma / term.weighs_one, then->second.sigma / term.weighs_one);
  }
  return out;
}

}  // namespace jib::library
