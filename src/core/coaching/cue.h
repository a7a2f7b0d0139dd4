// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/coaching/change.h"
#include "core/coaching/finding.h"
#include "core/motion/events.h"

namespace jib::coaching {

// What a fault puts at stake, most important first.
enum class Stake { Safety, Standard, SetUp, Economy };  // Standard: whether the rep counts

// What is said otherwise of one position of the lift, as of a bar that lies before the shoulders. Empty: as ever.
struct CueVersion {
  std::string position;
  bool by_eye = true;  // false: there is nothing of it to look for
  std::vector<std::string> causes, wordings;
  std::string drill, side_effect, second_day, third_day;
};

// What the cue book knows about one finding.
struct CueEntry {
  std::string finding;
  Stake stake = Stake::Economy;
  int link = 0;  // place in the chain of the lift, earlier links first; 4 and up: from where the bar goes up
  std::string title;
  std::string look;  // where to look, of what only a person can judge; empty for what is measured
  std::string keep;  // what to say when it is right; empty where that is not worth words
  std::vector<std::string> causes;
  std::vector<std::string> wordings;
  std::string drill, load, proof, side_effect;
  std::string price;  // what the change costs at first; empty where that is nothing worth words
  int weeks = 4;
  std::vector<std::string> clears;
  std::vector<std::string> asked;     // what athletes call it when they ask: "hips shoot up"
  std::vector<CauseRule> rivals;      // causes that measurements can tell apart
  std::optional<ChangeIdea> idea;     // what might be set up differently for it
  std::vector<std::string> brings;    // findings that working on it may bring: the next film is looked through for them
  std::string second_day, third_day;  // other forms of the lift with the same aim; empty: those of the lift
  std::string position;               // of the lift, where it is looked for by eye in that one alone; empty: in any
  std::vector<CueVersion> versions;
  bool versioned = false;  // its words are those of a position
  double before_s = 0;     // by how much earlier the frame is that is shown beside the one it is told by; 0: none
};

class CueBook {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<CueBook> load(const std::filesystem::path& file);
  static Result<CueBook> shipped();  // of all lifts

  // The same in the words of a variant's position ("front"), without what nobody would look for in it.
  CueBook as(const lifts::LiftDefinition& lift, std::string_view variant) const;

  const CueEntry* entry(std::string_view finding) const&;
  const CueEntry* entry(std::string_view) const&& = delete;  // it would point into what is gone
  std::string titleOf(std::string_view finding) const;
  // What only a person can judge, along the chain of the lift.
  std::vector<const CueEntry*> byEye(lifts::LiftId lift) const&;
  std::vector<const CueEntry*> byEye(lifts::LiftId lift) const&& = delete;
  // Everything of a lift, along its chain: where nothing is measured all of it is the eye's.
  std::vector<const CueEntry*> all(lifts::LiftId lift) const&;
  std::vector<const CueEntry*> all(lifts::LiftId lift) const&& = delete;

 private:
  std::map<std::string, CueEntry, std::less<>> entries_;
};

// What a cue rests on.
enum class Basis {
  Measured,  // a verdict that is sure
  TooClose,  // the number is too close to its limit to tell from this clip
  Seen,      // by the coach
};

// One thing to say: chosen by the program, then the coach's to edit, every word of it.
struct Cue {
  std::string finding;
  std::string title;
  std::string wording;
  std::string drill;
  std::string load;
  int weeks = 4;
  std::string proof;  // which number must change
  std::string side_effect;
  std::string price;      // what the change costs at first
  std::string why_first;  // why the program proposed it in this place
  std::string measure;    // id
  // Looked up in the present analysis (cue_numbers.h), never kept for later.
  bool known = false;  // there is a number
  double value = 0, sigma = 0, limit = 0;
  double t_s = 0;             // evidence frame
  double before_s = 0;        // the frame so much earlier stands beside it; 0: it stands alone
  bool frame_chosen = false;  // by the coach: it stays
  Basis basis = Basis::Measured;
  bool after_meet = false;              // not said now: it waits until the next meet is over
  bool own = false;                     // of no finding: the coach's own words from the first to the last
  std::vector<double> also_s;           // further frames that are shown for it
  std::optional<Change> change;         // what is set up differently, "from … to …"
  std::vector<std::string> watch;       // findings it may bring; the next film is looked through for them
  std::optional<motion::Stretch> loop;  // played over and over, slowly, where the film stops for it

  friend bool operator==(const Cue&, const Cue&) = default;
};

// The title as an athlete reads it, the doubt included: "Squat too high: hard to tell from this clip".
std::string titleWithBasis(const Cue& cue);
// What a finding lets a cue about it rest on. A fault the numbers now deny is at most doubtful; the coach has chosen to
// speak of it all the same.
Basis basisOf(const Finding& finding);
// The proof of the book with its numbers.
std::string proofText(const CueEntry& entry, const lifts::MeasureDefinition& kind, double limit, double value);

// A finding that is not said this time.
struct Parked {
  std::string finding;
  std::string why;
  std::string part_of = {};  // the finding whose sign this one is; empty: a fault of its own
};

// What is known of the set beside its numbers.
struct SetContext {
  std::size_t reps = 0;
  std::optional<double> share_of_best;  // load over the athlete's best, 0 to 1
  lifts::LiftId lift = lifts::LiftId::Squat;
  std::map<std::string, std::string, std::less<>> wait = {};  // findings that make no cue yet, and why
  std::vector<std::string> asked = {};     // findings the athlete asked about: said first, in that order
  std::vector<std::string> not_seen = {};  // titles of checks that could not be made
  // What keeps anything from being called good: no joints, a lift nobody said, what was asked could not be seen. A
  // sentence for the coach; empty: nothing does.
  std::string no_praise = {};
};

struct Proposal {
  std::vector<std::string> keep;     // what is right, said first
  std::vector<Cue> cues;             // at most the style's limit
  std::vector<Parked> parked;        // findings left for later
  std::vector<std::string> remarks;  // how firmly any of this may be said, and what to look at before
  bool change_nothing = false;       // every check that could be made passes
  std::string no_praise = {};        // why nothing is called good (SetContext::no_praise)
};

// What a reply says first, unless somebody chooses otherwise. More reads like a log.
std::vector<std::string> praiseToSay(const Proposal& proposal);

// Chooses the few things to say: repeated before single, safety before what makes a rep count, that before set-up and
// set-up before economy, the earliest link before later ones, larger before smaller; a finding that an already chosen
// cue usually clears is left out. Verdicts that are too close make no cue.
Proposal propose(const std::vector<Finding>& findings, const SetContext& set, const CueBook& book, const Style& style);

// An empty cue of the coach's own about the frame at `t_s`.
Cue ownCue(double t_s);

// A fresh cue for any finding, for the coach who wants to say something else.
Cue cueFor(const Finding& finding, const CueEntry& entry, const Style& style);

}  // namespace jib::coaching
