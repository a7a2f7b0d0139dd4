// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/measure_set.h"

#include <algorithm>
#include <cmath>

#include "core/lifts/front_look.h"
#include "core/lifts/impossible.h"
#include "core/lifts/view_assessor.h"

namespace jib::lifts {
namespace {

constexpr const char* kNoBody = "The body points aren't placed yet.";
constexpr const char* kNoForward = "Can't tell which way the athlete faces; place toe and heel.";

Measure answered(const LiftDefinition& lift, const RepMeasure& row, const RepLook& look) {
  const Carried places = look.m.front ? placesFrom(look.m.calibration) : carried(lift, row, look.m.calibration);
  if (row.needs == Needs::BarForward && !look.m.calibration.forward_known) return Absent{kNoForward};
  if (row.needs == Needs::Body && !look.hasBody()) return Absent{kNoBody};
  if (row.needs == Needs::Body && places.can == Can::No && !look.m.calibration.accepts(row.claim))
    return Absent{std::string(absentFor(places.why))};
  if (row.kind.group == "Timing" && !lift.body.lying && front::onlyByHands(look))
    return Absent{"Can't see the bar ends, so no bar height or speed from this angle."};
  return row.answer(look);
}

// The units are the ranking's and not the styles', so that a measure never changes with the style.
Measure ranked(const SetLook& look, std::span<const RankTerm> ranking, bool best) {
  std::optional<Measured> chosen;
  double chosen_cost = 0;
  for (std::size_t i = 0; i < look.measures.size(); ++i) {
    const double cost = rankCost(look.measures[i], ranking);
    if (chosen && (best ? cost >= chosen_cost : cost <= chosen_cost)) continue;
    chosen = Measured{static_cast<double>(i + 1), 0, look.reps[i].bottom_t()};
    chosen_cost = cost;
  }
  if (!chosen || look.measures.size() < 2) return Absent{"Only one rep."};
  return *chosen;
}

}  // namespace

double usualFaults(const RankTerm& term, double value) {
  return (term.beyond ? std::abs(value) : std::max(0.0, value)) / term.weighs_one;
}

double rankCost(const MeasureList& rep, std::span<const RankTerm> ranking) {
  double cost = 0;
  for (const RankTerm& term : ranking) {
    const auto* m = find(rep, term.measure);
    if (!m || !m->measured()) continue;
    cost += usualFaults(term, m->measured()->value);
  }
  return cost;
}

Measure spread(const SetLook& look, std::string_view id) {
  const auto all = look.over(id);
  if (look.measures.size() < 2) return Absent{"One rep can't vary."};
  if (all.size() < 2) {
    // Then it is absent for what it is absent in the reps for.
    for (const MeasureList& rep : look.measures)
      if (const auto* m = find(rep, id); m && !m->measured()) return std::get<Absent>(m->measure);
    return Absent{kHidden};
  }
  double least = 1e9, most = -1e9, sigma = 0, t = all.front().t_s;
  for (const Measured& m : all) {
    least = std::min(least, m.value);
    if (m.value > most) {
      most = m.value;
      t = m.t_s;
    }
    sigma = std::max(sigma, m.sigma);
  }
  // The same systematic error is in every rep and cancels; a third of sigma is what was seen to differ.
  return Measured{most - least, sigma / 3 * std::sqrt(2.0), t};
}

Measure speedLoss(const SetLook& look) {
  const auto v = look.over("bar_mean_ascent_mps");
  if (v.size() < 2 || v.front().value <= 0) return Absent{"One rep shows no loss."};
  const double loss = 100 * (1 - v.back().value / v.front().value);
  return Measured{loss, 100 * 1.4 * std::max(v.front().sigma, v.back().sigma) / v.front().value, v.back().t_s};
}

Measure descentChange(const SetLook& look) {
  const auto v = look.over("descent_s");
  if (v.size() < 2) return Absent{"One rep shows no change."};
  return Measured{v.back().value - v.front().value, 1.4 * v.back().sigma, v.back().t_s};
}

Measure bestRep(const SetLook& look, std::span<const RankTerm> ranking) {
  return ranked(look, ranking, true);
}

Measure worstRep(const SetLook& look, std::span<const RankTerm> ranking) {
  return ranked(look, ranking, false);
}

SetMeasures measureSet(const LiftDefinition& lift, const motion::Motion& m, const std::vector<motion::Rep>& reps) {
  SetMeasures out;
  const auto impossible = impossibleIn(lift, m, reps);
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const RepLook look{m, reps[i], i > 0 ? &reps[i - 1] : nullptr};
    MeasureList list;
    for (const RepMeasure& row : m.front ? lift.front_measures : lift.rep_measures)
      list.push_back({&row.kind, heldAgainst(impossible, row, i, answered(lift, row, look))});
    out.reps.push_back(std::move(list));
  }
  for (const SetMeasure& row : lift.set_measures) {
    Measure answer = row.answer(SetLook{m, reps, out.reps});
    // From the front most of a rep's measures are not asked for: what would speak of them is left out.
    if (m.front && std::holds_alternative<Absent>(answer)) continue;
    out.set.push_back({&row.kind, std::move(answer)});
  }
  return out;
}

std::optional<Measured> meanOf(std::string_view measure, const SetMeasures& measures) {
  Measured mean;
  double n = 0;
  for (const MeasureList& rep : measures.reps)
    if (const auto* named = find(rep, measure))
      if (const auto* m = named->measured()) {
        if (n == 0) mean.t_s = m->t_s;
        mean.value += m->value;
        mean.sigma += m->sigma;
        n += 1;
      }
  if (n == 0) return std::nullopt;
  mean.value /= n;
  mean.sigma /= n;
  return mean;
}

}  // namespace jib::lifts
