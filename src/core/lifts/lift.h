// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <string>
#include <string_view>

#include "core/lifts/rep_look.h"
#include "core/motion/signals.h"
#include "core/tracing/model/body_model.h"

namespace jib::lifts {

enum class LiftId { Squat, Bench, Deadlift, Overhead };
inline constexpr std::size_t kLifts = 4;
constexpr std::size_t at(LiftId id) {
  return static_cast<std::size_t>(id);
}

// One word of the contract that says how a lift is done, and what people say for it.
struct NamedVariant {
  std::string_view id, title;
};

// What a measure needs of the film beside a rep: the bar, the bar and which way the athlete faces, or the body.
enum class Needs { Bar, BarForward, Body };

struct RepMeasure {
  MeasureDefinition kind;
  Needs needs;
  Measure (*answer)(const RepLook&);
  std::string_view claim = "bar_path";  // that it falls under, see ClaimRow
};

// Everything a measure of the whole set may ask.
struct SetLook {
  const motion::Motion& m;
  const std::vector<motion::Rep>& reps;
  const std::vector<MeasureList>& measures;  // of each rep

  // Values of one measure over the reps that have it.
  std::vector<Measured> over(std::string_view id) const;
};

struct SetMeasure {
  MeasureDefinition kind;
  Measure (*answer)(const SetLook&);
};

// What a clip can show of a lift, from each side, as practitioners hold it. Of one who lies the front is the feet's end
// and the rear the head's.
enum class Can { No, Weakly, Yes };
struct ClaimRow {
  std::string_view id, title;
  Can side, oblique, front, rear;
};

// What a lift calls an event, and the key under which the analysis file has it.
struct EventName {
  motion::EventKind kind;
  std::string_view title;  // "Bottom", "Touch", "Lift-off"
  std::string_view key;    // "bottom_t"
};

// What a referee says at a rest of the bar: "Press".
struct SignalName {
  motion::SignalPlace place;
  std::string_view title;
};

// What ranks a rep of a set behind the others: a measure over the size of it that weighs as one usual fault.
struct RankTerm {
  std::string_view measure;
  double weighs_one;
  bool beyond;  // its size counts, not only what is above zero
};

// Everything the program knows of one lift. Whatever differs between lifts is asked of here and nowhere else; how to
// add one is in docs/architecture.md.
struct LiftDefinition {
  LiftId id;
  std::string_view name;                    // in files: "squat"
  std::string_view title;                   // for people: "bench press"
  std::span<const std::string_view> words;  // how messages begin to name it: "squat", "sq"
  std::span<const NamedVariant> positions;  // of bar or feet; the first is what is assumed when nobody says
  std::span<const NamedVariant> tempos;     // may be said beside a position
  std::string_view usual;                   // the variant when nobody says
  motion::RepPattern pattern;
  std::span<const RepMeasure> rep_measures;
  std::span<const RepMeasure> front_measures;  // where both sides are seen; empty: only watched from there
  std::span<const SetMeasure> set_measures;
  std::span<const RankTerm> ranking;
  std::span<const ClaimRow> claims;
  std::span<const EventName> events;
  std::span<const SignalName> referee_signals;
  std::string_view way;   // what the bar does in a rep: "goes down and up again"
  std::string_view lens;  // where the lens belongs, as it is said to the athlete: "level with your hip at the bottom"
  std::string_view seen;  // what has to be in the picture: "the whole shoe"
  std::string_view across_shows,
      side_shows;  // what is judged from where both sides are seen, and what only from the side
  // How a change is first tried without harm: "in the rack with the safeties set"; empty where the bar is on the floor.
  std::string_view safely = {};
  tracing::BodyModel body;
  std::string_view stands_inside = {};  // the position in which the lifter stands inside the bar
  std::string_view racks_ahead = {};    // the position with the bar on the front of the shoulders
  std::string_view stands_wide = {};    // and the one with the feet far outside the hips
  bool contested = true;                // at meets; its rules, calls and attempts are asked for
  double best_mps, best_sigma_mps;      // mean speed of the ascent of a single best, and its 1 σ between people

  std::string_view titleOf(motion::EventKind kind) const;
  tracing::BodyModel bodyOf(std::string_view variant) const;
  bool draws(Drawing drawing) const;  // for any of its reps' measures
  std::string cueBook() const;        // "cues/squat.toml", under resources
};

std::span<const LiftDefinition> allLifts();
std::span<const LiftDefinition> contestedLifts();  // the first of them
const LiftDefinition& definition(LiftId id);
const LiftDefinition* liftNamed(std::string_view name);

// The names, for a list of choices; and as one would say them: "squat, bench or deadlift".
std::vector<std::string> liftNameList();
std::string liftNames();

// A measure by its id, of whichever lift has it; ids that several lifts share mean the same in each, but each calls
// them in its own words: where the lift is known it is asked first.
const MeasureDefinition* measureDefinition(std::string_view id);
const MeasureDefinition* measureDefinition(const LiftDefinition& lift, std::string_view id);

// How a lift was done: two things that can be said independently. In files both words, a space between: "high-bar
// paused". Words nobody knows are kept as they are.
struct Variant {
  std::string position, tempo;  // empty: not said
};
Variant variantOf(const LiftDefinition& lift, std::string_view said);
std::string nameOf(const Variant& variant);
// Everything that can be said of a lift, in the order of its tables.
std::vector<std::string> variantsOf(const LiftDefinition& lift);
std::string titleOf(const LiftDefinition& lift, std::string_view said);  // "high bar, paused"
// Whether a variant that was said is of the kind that `asked` names; nothing asked holds of all.
bool isOf(std::string_view said, std::string_view asked);

}  // namespace jib::lifts
