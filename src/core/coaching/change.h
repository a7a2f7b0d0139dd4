// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/lifts/measure_set.h"

namespace jib::coaching {

// What a cue asks to be set up, or timed, differently. Every one of them can be said "from … to …".
enum class ChangeKind { Stance, ToeAngle, Grip, Hooks, HeelRaise, Eyes, Descent, Pause, Bar, Variation, Load };

// In what a change is counted; each is read and typed as people say it. Words: what is no number ("safety bar").
enum class ChangeUnit { Metres, Degrees, Seconds, Kilograms, Notches, Words };

struct ChangeDefinition {
  ChangeKind kind;
  std::string_view name;   // in files: "stance"
  std::string_view title;  // for people: "Stance width"
  ChangeUnit unit;
  double step = 0;             // what is worth changing, in `unit`
  double least = 0, most = 0;  // what can be typed
  // Ids of the measures that show it on a film, the first that the lift and the view carry counts.
  std::vector<std::string_view> measures = {};
  std::vector<std::string_view> offered = {};  // of Words: what is commonly chosen from
};
std::span<const ChangeDefinition> changeDefinitions();
const ChangeDefinition& definitionOf(ChangeKind kind);
// The kinds that make sense for a lift, in the order in which they are offered.
std::vector<ChangeKind> changesFor(const lifts::LiftDefinition& lift);

// One change as a quantity. Metres, degrees, seconds, kilograms or notches, whichever the kind counts in.
struct Change {
  ChangeKind kind = ChangeKind::Stance;
  std::optional<double> from, to;    // of numbers; nullopt: not known, or not said yet
  std::optional<double> by;          // where nobody knows from what: more, or less than now; notches only so
  std::string from_words, to_words;  // of Words
  double from_sigma = 0;             // of a `from` that the film shows; 0: it was typed
  friend bool operator==(const Change&, const Change&) = default;

  bool said() const { return to || (by && *by != 0) || !to_words.empty(); }  // there is something to do
  // Above zero for more, below for less, 0 where that is not known or makes no sense.
  double direction() const;
};

// What the cue book thinks of trying for a finding: by how much, or to what.
struct ChangeIdea {
  ChangeKind kind = ChangeKind::Stance;
  std::optional<double> by, to;
  std::string to_words;
  friend bool operator==(const ChangeIdea&, const ChangeIdea&) = default;
};
// The idea as a change of this set: from what the film shows, by what the book says, to the nearest step.
Change changeFrom(const ChangeIdea& idea, const lifts::SetMeasures& measures);
// A change of a kind with what the film shows of it; nothing to do yet.
Change changeOf(ChangeKind kind, const lifts::SetMeasures& measures);
// What a film shows of it; nullopt where it shows nothing.
std::optional<lifts::Measured> shownOn(ChangeKind kind, const lifts::SetMeasures& measures);

// One quantity as people read it: lengths in cm and in, loads in kg and lb.
std::string quantityText(ChangeKind kind, double value);
// "Stance width: from 45 to 50 cm (17¾ to 19¾ in), 2.5 cm more on each side". Empty when there is nothing to do.
std::string textOf(const Change& change);
// Without the name: "from 45 to 50 cm (17¾ to 19¾ in)".
std::string fromTo(const Change& change);

// What a change may bring with it on this lift: findings the next film is looked through for, and what to say of it.
struct SideEffect {
  std::vector<std::string> findings;
  std::string words;  // for the athlete; empty: nothing in particular
};
SideEffect sideEffectOf(const Change& change, const lifts::LiftDefinition& lift);

// Whether what the next film shows is what was asked: half way there counts, the ± taken into account.
enum class Done { Yes, No, CantTell };
Done doneBy(const Change& change, const lifts::Measured& now);

std::string changeToJson(const Change& change);
std::optional<Change> changeFromJson(std::string_view json);  // nullopt for what is no change

}  // namespace jib::coaching
