// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/analysis.h"

namespace jib::coaching {

// Takes into an analysis what the other films of its set show of the same reps and this one does not: measures this
// view has no row for, and those it could not answer. The first film that answers is taken. Times become this clip's;
// every measure so taken is named in that film's `joined`. Reps are the same when the other's turn lies within this
// one's rep. Does nothing where no other film shares a rep.
void joinOthers(Analysis& analysis);
// Whether any measure was taken from another film.
bool isJoined(const Analysis& analysis);

// Added to a time of the first film gives the same moment in the second, from the turns of the reps that both show.
// nullopt: one shows none, or the reps do not agree within kSameTurn_s.
inline constexpr double kSameTurn_s = 0.35;
std::optional<double> offsetByReps(const Analysis& first, const Analysis& second);

// The film a measure, by its id, was taken from; null: this one. It lives as long as the analysis.
const OtherFilm* filmOf(const Analysis& analysis, std::string_view measure);
// The same of a drawing: what is drawn for a front view belongs to the film that has one.
const OtherFilm* filmToDrawOn(const Analysis& analysis, lifts::Drawing drawing);

// From where a film was taken, as people say it: "from the side", "from the rear", "from behind the head". `view`: as
// files name it, "front", "rear" or "head"; anything else is the side.
std::string_view filmedFrom(std::string_view view, const lifts::LiftDefinition& lift);
std::string_view filmedFrom(const Analysis& analysis);

}  // namespace jib::coaching
