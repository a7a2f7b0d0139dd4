// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/trend.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "core/library/last_time.h"

namespace jib::library {
namespace {

// Films of one set are a chain of pairs: the same number for all of them.
class Sets {
 public:
  void add(const Submission& s) {
    of_[s.id.number] = s.id.number;
    if (s.pair) pairs_.emplace_back(s.id.number, s.pair->number);
  }
  // Several passes, as a chain may be told in any order.
  void settle() {
    for (bool changed = true; changed;) {
      changed = false;
      for (const auto& [a, b] : pairs_) {
        if (!of_.count(a) || !of_.count(b)) continue;
        const long long least = std::min(of_[a], of_[b]);
        changed = changed || of_[a] != least || of_[b] != least;
        of_[a] = of_[b] = least;
      }
    }
  }
  long long of(SubmissionId id) const { return of_.at(id.number); }

 private:
  std::map<long long, long long> of_;
  std::vector<std::pair<long long, long long>> pairs_;
};

// A set's own value where it has one, else the mean over its reps.
TrendPoint pointOf(const std::vector<Library::KeptMeasure>& kept) {
  TrendPoint p;
  p.submission = kept.front().submission;
  p.on = kept.front().on;
  std::vector<lifts::Measured> reps;
  for (const auto& k : kept)
    if (k.rep > 0) reps.push_back(k.measured);
  if (reps.empty()) {
    p.measured = kept.front().measured;
    return p;
  }
  p.reps = static_cast<int>(reps.size());
  p.measured = meanOf(reps);
  const auto nearest = std::min_element(reps.begin(), reps.end(), [&](const auto& a, const auto& b) {
    return std::abs(a.value - p.measured.value) < std::abs(b.value - p.measured.value);
  });
  p.measured.t_s = nearest->t_s;
  return p;
}

void group(std::vector<TrendPoint>& points) {
  std::vector<const TrendPoint*> latest;  // of each group
  for (TrendPoint& p : points) {
    const auto same = std::find_if(latest.begin(), latest.end(), [&](const TrendPoint* l) {
      return lifts::alikeOf(l->as, p.as).label == lifts::Alike::Like;
    });
    p.group = static_cast<int>(same - latest.begin()) + 1;
    if (same == latest.end())
      latest.push_back(&p);
    else
      *same = &p;
  }
}

std::string number(double v) {
  return fmt::format("{:.6g}", v);
}

}  // namespace

Result<std::vector<TrendPoint>> trendOf(Library& library, AthleteId athlete, std::string_view measure,
                                        std::optional<std::string_view> lift) {
  auto kept = library.measured(athlete, measure);
  if (!kept) return fail(kept.error());
  std::vector<TrendPoint> points;
  Sets sets;
  for (std::size_t i = 0; i < kept->size();) {
    std::vector<Library::KeptMeasure> of_one;
    const SubmissionId id = (*kept)[i].submission;
    for (; i < kept->size() && (*kept)[i].submission == id; ++i) of_one.push_back((*kept)[i]);
    auto submission = library.submission(id);
    if (!submission) return fail(submission.error());
    if (lift && submission->lift != *lift) continue;
    auto as = library.filmedAs(*submission);
    if (!as) return fail(as.error());
    TrendPoint p = pointOf(of_one);
    p.as = std::move(*as);
    sets.add(*submission);
    points.push_back(std::move(p));
  }
  sets.settle();
  std::map<long long, const TrendPoint*> surest;
  for (const TrendPoint& p : points) {
    const TrendPoint*& best = surest[sets.of(p.submission)];
    if (!best || p.measured.sigma < best->measured.sigma) best = &p;
  }
  std::set<long long> counts;
  for (const auto& [set, p] : surest) counts.insert(p->submission.number);
  std::erase_if(points, [&](const TrendPoint& p) { return !counts.count(p.submission.number); });
  group(points);
  return points;
}

TrendChange changeOver(const std::vector<TrendPoint>& points) {
  TrendChange out;
  if (points.empty()) return out;
  const int latest = points.back().group;
  const auto first = std::find_if(points.begin(), points.end(), [&](const TrendPoint& p) { return p.group == latest; });
  out.from = *first;
  out.to = points.back();
  // Two sets of one day show no course.
  if (out.from.submission == out.to.submission || out.from.on == out.to.on) return out;
  out.difference = out.to.measured.value - out.from.measured.value;
  // From point to point a group is alike, from end to end it may not be.
  out.sigma =
      lifts::alikeOf(out.from.as, out.to.as).widening() * std::hypot(out.from.measured.sigma, out.to.measured.sigma);
  const bool sure = std::abs(out.difference) > lifts::kSureSigmas * out.sigma;
  out.change = !sure ? Change::NoneSeen : out.difference > 0 ? Change::More : Change::Less;
  return out;
}

Result<std::vector<TrendChoice>> trendChoices(Library& library, AthleteId athlete, int points) {
  auto counts = library.measuredClips(athlete);
  if (!counts) return fail(counts.error());
  std::vector<TrendChoice> choices;
  // In the order in which the lifts tell of them.
  for (const auto& lift : lifts::allLifts()) {
    std::set<std::string_view> seen;
    const auto offer = [&](const lifts::MeasureDefinition& kind) {
      const auto it = counts->find({std::string(lift.name), std::string(kind.id)});
      if (it != counts->end() && it->second >= points && seen.insert(kind.id).second)
        choices.push_back({std::string(lift.name), std::string(kind.id), it->second});
    };
    for (const auto& row : lift.rep_measures) offer(row.kind);
    for (const auto& row : lift.front_measures) offer(row.kind);
    for (const auto& row : lift.set_measures) offer(row.kind);
  }
  return choices;
}

std::string trendToText(const std::vector<TrendPoint>& points) {
  std::string text = "date\tsubmission\tview\tvariant\tload_kg\treps\tvalue\tsigma\tgroup\n";
  for (const TrendPoint& p : points)
    text += fmt::format("{}\t{}\t{}\t{}\t{}\t{}\t{}\t{}\t{}\n", p.on, p.submission.number, p.as.view, p.as.variant,
                        p.as.load_kg ? number(*p.as.load_kg) : "", p.reps, number(p.measured.value),
                        number(p.measured.sigma), p.group);
  return text;
}

std::string trendToJson(std::string_view measure, const std::vector<TrendPoint>& points) {
  using Json = nlohmann::ordered_json;
  Json rows = Json::array();
  for (const TrendPoint& p : points)
    rows.push_back({{"date", p.on},
                    {"submission", p.submission.number},
                    {"lift", p.as.lift},
                    {"view", p.as.view},
                    {"variant", p.as.variant},
                    {"load_kg", p.as.load_kg ? Json(*p.as.load_kg) : Json()},
                    {"reps", p.reps},
                    {"value", p.measured.value},
                    {"sigma", p.measured.sigma},
                    {"t", p.measured.t_s},
                    {"group", p.group}});
  return Json{{"schema", "jagged-jib/trend"}, {"version", 1}, {"measure", measure}, {"points", rows}}.dump(
             1, ' ', false, Json::error_handler_t::replace) +
         "\n";
}

}  // namespace jib::library
