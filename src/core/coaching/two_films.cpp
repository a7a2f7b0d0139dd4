// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/two_films.h"

#include <algorithm>
#include <cmath>

namespace jib::coaching {
namespace {

constexpr double kApart_s = 0.5;  // the two films are brought into one time no better than this

// Which rep of the other film is the same as `rep` of this one.
std::optional<std::size_t> sameRep(const motion::Rep& rep, const Analysis& other, double offset_s) {
  for (std::size_t j = 0; j < other.reps.size(); ++j) {
    const double turn = other.reps[j].bottom_t() - offset_s;
    if (turn > rep.start_t() - kApart_s && turn < rep.end_t() + kApart_s) return j;
  }
  return std::nullopt;
}

// How well the reps agree when the first of `a` that counts is `from_a`, and of `b` `from_b`.
struct Agreement {
  std::size_t pairs = 0;
  double offset_s = 0, spread_s = 0;
};
Agreement agreementOf(const Analysis& a, const Analysis& b, std::size_t from_a, std::size_t from_b) {
  std::vector<double> offsets;
  for (std::size_t i = 0; from_a + i < a.reps.size() && from_b + i < b.reps.size(); ++i)
    offsets.push_back(b.reps[from_b + i].bottom_t() - a.reps[from_a + i].bottom_t());
  if (offsets.empty()) return {};
  std::sort(offsets.begin(), offsets.end());
  return {offsets.size(), offsets[offsets.size() / 2], offsets.back() - offsets.front()};
}

lifts::NamedMeasure* rowOf(lifts::MeasureList& list, std::string_view id) {
  const auto at = std::find_if(list.begin(), list.end(), [&](const auto& m) { return m.kind->id == id; });
  return at == list.end() ? nullptr : &*at;
}

// What the other film measured of one rep, in this clip's time.
lifts::Measure answerOf(const Analysis& other, std::optional<std::size_t> rep, std::string_view id, double offset_s) {
  if (!rep) return lifts::Absent{"This rep is not in the other clip."};
  const auto* named = lifts::find(other.measures.reps[*rep], id);
  if (!named) return lifts::Absent{"The other clip does not show it."};
  lifts::Measure answer = named->measure;
  if (auto* m = std::get_if<lifts::Measured>(&answer)) m->t_s -= offset_s;
  return answer;
}

void join(Analysis& a, OtherFilm& film) {
  const Analysis& other = *film.analysis;
  // One in slow motion and one not have no constant between their times.
  if (std::abs(a.request.slow_factor - other.request.slow_factor) > 1e-6) return;
  if (!a.isTraced() || !other.isTraced() || a.measures.reps.empty() || other.measures.reps.empty()) return;
  const double offset = film.offset_s;
  std::vector<std::optional<std::size_t>> same;
  for (const motion::Rep& rep : a.reps) same.push_back(sameRep(rep, other, offset));
  if (std::none_of(same.begin(), same.end(), [](const auto& j) { return j.has_value(); })) return;
  // Every rep keeps the same rows in the same order.
  for (const lifts::NamedMeasure& row : other.measures.reps.front()) {
    const std::string_view id = row.kind->id;
    if (filmOf(a, id)) continue;
    std::vector<lifts::Measure> answers;
    for (const auto& j : same) answers.push_back(answerOf(other, j, id, offset));
    const auto measured = [](const lifts::Measure& m) { return std::holds_alternative<lifts::Measured>(m); };
    if (std::none_of(answers.begin(), answers.end(), measured)) continue;
    const bool known = rowOf(a.measures.reps.front(), id) != nullptr;
    bool taken = !known;
    for (std::size_t i = 0; i < a.measures.reps.size(); ++i) {
      auto& list = a.measures.reps[i];
      if (!known) {
        list.push_back({row.kind, answers[i]});
      } else if (auto* mine = rowOf(list, id); mine && !mine->measured() && measured(answers[i])) {
        mine->measure = answers[i];
        taken = true;
      }
    }
    if (taken) film.joined.insert(std::string(id));
  }
}

}  // namespace

std::optional<double> offsetByReps(const Analysis& a, const Analysis& b) {
  std::optional<Agreement> best;
  const auto tried = [&](std::size_t from_a, std::size_t from_b) {
    const Agreement one = agreementOf(a, b, from_a, from_b);
    if (one.pairs == 0 || one.spread_s > kSameTurn_s) return;
    if (!best || one.pairs > best->pairs || (one.pairs == best->pairs && one.spread_s < best->spread_s)) best = one;
  };
  for (std::size_t from = 0; from < a.reps.size(); ++from) tried(from, 0);
  for (std::size_t from = 1; from < b.reps.size(); ++from) tried(0, from);
  return best ? std::optional(best->offset_s) : std::nullopt;
}

void joinOthers(Analysis& a) {
  for (OtherFilm& film : a.others) film.joined.clear();
  for (OtherFilm& film : a.others) join(a, film);
}

bool isJoined(const Analysis& a) {
  return std::any_of(a.others.begin(), a.others.end(), [](const OtherFilm& film) { return !film.joined.empty(); });
}

const OtherFilm* filmOf(const Analysis& a, std::string_view measure) {
  for (const OtherFilm& film : a.others)
    if (film.joined.contains(measure)) return &film;
  return nullptr;
}

const OtherFilm* filmToDrawOn(const Analysis& a, lifts::Drawing drawing) {
  const auto across = [](const Analysis& film) { return film.trace.front != nullptr; };
  const bool of_front = drawing == lifts::Drawing::Sides;
  if (drawing == lifts::Drawing::None || of_front == across(a)) return nullptr;
  for (const OtherFilm& film : a.others)
    if (!film.joined.empty() && of_front == across(*film.analysis)) return &film;
  return nullptr;
}

std::string_view filmedFrom(std::string_view view, const lifts::LiftDefinition& lift) {
  const auto facing = tracing::facingNamed(view);
  if (!facing) return "from the side";
  const bool front = *facing == tracing::Facing::Front;
  if (lift.body.lying) return front ? "from the feet's end" : "from behind the head";
  return front ? "from the front" : "from the rear";
}

std::string_view filmedFrom(const Analysis& a) {
  return filmedFrom(a.trace.front ? tracing::nameOf(a.trace.front->facing) : "side", lifts::definition(a.request.lift));
}

}  // namespace jib::coaching
