// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/film_next.h"
#include "core/base/quantity.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "core/coaching/loading.h"
#include "core/coaching/two_films.h"
#include "core/library/dates.h"

namespace jib::review {
namespace {

// From where, so that the same can be seen again.
std::string place(const Session& session) {
  const lifts::LiftDefinition& lift = session.lift();
  const coaching::Analysis& a = *session.analysis();
  if (a.trace.front)
    return fmt::format(": three reps, straight {}, {} and both ends of the bar in the picture.",
                       coaching::filmedFrom(a), lift.body.lying ? "your arms" : "your whole body");
  if (a.isTraced())
    return fmt::format(": three reps, straight from the side, the phone {}, {} in the picture.", lift.lens, lift.seen);
  return ": three reps, from the same place as this time.";
}

// What another film of the set carried is asked for from there too.
std::string otherPlaces(const Session& session) {
  const coaching::Analysis& a = *session.analysis();
  std::string text;
  std::set<std::string_view> asked;
  for (const coaching::Cue& cue : session.choice().cues) {
    const coaching::OtherFilm* film = coaching::filmOf(a, cue.measure);
    if (!film || !film->analysis->trace.front || !asked.insert(coaching::filmedFrom(*film->analysis)).second) continue;
    text += fmt::format(" And once more straight {}, with {} and both ends of the bar in the picture.",
                        coaching::filmedFrom(*film->analysis), session.lift().body.lying ? "both arms" : "both feet");
  }
  return text;
}

// At which load: the same, while nothing hurts, it is known, and it can be done for the three reps that are asked for.
std::string atLoad(const Session& session) {
  if (session.care().pain) return ", only if nothing hurts, at a light load";
  if (session.care().minor) return ", at a load that feels easy";
  const auto& s = session.submission();
  const bool heavy = (s.details.effort_said && *s.details.effort_said >= 8.5) ||
                     (s.details.reps_said && *s.details.reps_said < 3) ||
                     (session.analysis() && session.analysis()->reps.size() < 3);
  // A new single load would be one more to choose from: the cue that is practised says which.
  for (const coaching::Cue& cue : session.choice().cues)
    if (!cue.load.empty()) return ", at the practice load";
  if (heavy) return ", at a load you can do for three";
  return s.load_kg && s.details.load_said.empty() ? ", at " + massText(*s.load_kg) : std::string(", at the same load");
}

// What was set up differently is filmed that way, or the clip says nothing of it.
std::string withTheChange(const std::vector<coaching::Cue>& cues) {
  std::string text;
  for (const coaching::Cue& cue : cues)
    if (cue.change && cue.change->said()) text += fmt::format(" With the change: {}.", coaching::textOf(*cue.change));
  return text;
}

std::string howItFelt(const Session& session) {
  return session.choice().pain ? " And tell me how it felt, during and the day after." : "";
}

}  // namespace

std::string filmNext(const Session& session, const std::string& today) {
  const CueChoice& choice = session.choice();
  std::vector<coaching::Cue> cues = choice.cues;
  std::erase_if(cues, [](const coaching::Cue& cue) { return cue.after_meet; });
  if (!session.analysis() || (cues.empty() && !choice.pain) || (choice.change_nothing && !choice.pain)) return {};
  int weeks = choice.pain ? choice.pain->hold_weeks : cues.front().weeks;
  for (const auto& cue : cues) weeks = std::min(weeks, cue.weeks);
  const std::string day = library::reviewDay(today, weeks);
  const std::string& meet = session.athlete().profile.meet_on;
  const bool before_meet = library::isDate(meet) && meet >= today && meet < day;
  std::string text = before_meet ? "Film it again a few days before your meet on " + library::spoken(meet)
                                 : "Film it again around " + library::spoken(day);
  return text + atLoad(session) + place(session) + otherPlaces(session) + withTheChange(cues) + howItFelt(session);
}

}  // namespace jib::review
