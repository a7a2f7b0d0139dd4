// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/analysis.h"

namespace jib::coaching {

// What a meet asks for of one lift, where a film can show it.
struct RuleCheck {
  std::string lift, title;  // "squat", "Depth"
  std::string asks;         // a sentence
  Limit limit;              // beyond it a lift is not likely to be passed
};

// The rules of one federation, as data. The program never says that a lift is legal: it says what a film makes likely
// under a set; the rule book and the referees decide.
struct RuleSet {
  std::string id, title, version;
  std::string edited_on;  // ISO date on which the coach last changed it; empty: as it came with the program
  std::string kit;        // that may be worn, a sentence
  std::vector<RuleCheck> checks;
  std::map<std::string, std::vector<std::string>, std::less<>> calls;  // by lift: what a referee says there
};

enum class Outcome { Likely, NotLikely, TooClose, CannotTell };

// One check over the reps of a set.
struct RuleJudgement {
  RuleCheck check;
  std::vector<Outcome> reps;                 // one a rep
  std::optional<lifts::NamedMeasure> worst;  // of the rep that comes nearest to failing; nullopt where no rep tells
  std::string words;                         // "Likely in reps 1 and 2, not likely in rep 3."
};

class RuleBook {
 public:
  // Reads resources/rules.toml, or one written like it. Errors  CannotRead, BadData with file and line
  static Result<RuleBook> load(const std::filesystem::path& file);
  static const RuleBook& shipped();
  // The shipped ones and over them the coach's own, in a library's folder as rules.toml, written as the shipped file
  // is: a set of a shipped id replaces it. Own rules that cannot be read are left out and told in trouble().
  static RuleBook forLibrary(const std::filesystem::path& folder);
  // Puts a set among the coach's own, as changed on that day; what was there of the same id is kept beside as
  // rules.before-DATE.toml, once a day. Errors  CannotWrite; CannotRead, BadData where the file that is there can't be
  // read: it is not written over
  static Result<bool> keep(const std::filesystem::path& folder, RuleSet set, const std::string& today_iso);
  // The shipped set of that id is in force again; one of the coach's own making goes. Errors  as keep
  static Result<bool> giveBack(const std::filesystem::path& folder, const std::string& id,
                               const std::string& today_iso);

  const std::vector<RuleSet>& sets() const { return sets_; }
  const std::string& trouble() const { return trouble_; }  // a sentence; empty: none
  // The set of that id, else the first.
  const RuleSet& setOf(std::string_view id) const;

 private:
  std::vector<RuleSet> sets_;
  std::string trouble_;
};

// Every check that a set has for the lift of an analysis.
std::vector<RuleJudgement> judgedUnder(const Analysis& analysis, const RuleSet& rules);

// Where two sets would come to different ends over the same film, a sentence each: "Depth of rep 2: not likely under
// Open Lakes Lifting, likely under Granite Coast Union." What one of them does not ask for is no difference.
std::vector<std::string> differencesBetween(const Analysis& analysis, const RuleSet& one, const RuleSet& other);

}  // namespace jib::coaching
