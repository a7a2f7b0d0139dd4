// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/library/library.h"
#include "core/lifts/alike.h"

namespace jib::library {

// One measured set in the course of a measure: its mean over the reps, as they were done and filmed.
struct TrendPoint {
  SubmissionId submission{0};
  std::string on;  // ISO date
  lifts::FilmedAs as;
  int reps = 0;              // that have the measure
  lifts::Measured measured;  // t_s: of the rep nearest to the mean, whose frame shows it
  int group = 0;             // counted from 1; only points of one group are joined by a line
};

// Everything kept of one measure over an athlete's clips, oldest first. Points that are not alike (lifts/alike.h) stand
// in groups of their own. Of two films of one set the one that measures more surely counts: the other is no second
// point. `lift`: nullopt for every lift that has a measure of that name.
// Errors  as Library::measured
Result<std::vector<TrendPoint>> trendOf(Library& library, AthleteId athlete, std::string_view measure,
                                        std::optional<std::string_view> lift = {});

// From the first to the latest point of the latest group: what changed, as far as it can be said.
enum class Change { None, More, Less, NoneSeen };
struct TrendChange {
  Change change = Change::None;  // None: there are not two points to compare
  TrendPoint from, to;
  double difference = 0, sigma = 0;
};
TrendChange changeOver(const std::vector<TrendPoint>& points);

// What of an athlete's measures can be drawn: those that at least `points` clips have, with how many do.
struct TrendChoice {
  std::string lift, measure;
  int clips = 0;
};
Result<std::vector<TrendChoice>> trendChoices(Library& library, AthleteId athlete, int points = 2);

// jib library FOLDER trend: tab-separated, one row a point, after a line of titles; and the same as JSON.
std::string trendToText(const std::vector<TrendPoint>& points);
std::string trendToJson(std::string_view measure, const std::vector<TrendPoint>& points);

}  // namespace jib::library
