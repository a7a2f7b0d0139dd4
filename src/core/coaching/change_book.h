// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/coaching/change.h"

namespace jib::coaching {

// Other days of a week with the same aim.
struct OtherDays {
  std::string variant;  // of the lift; empty: any
  std::string second, third;
};

// What each lift offers to change, what that may bring, and its other days: resources/changes.toml.
class ChangeBook {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<ChangeBook> load(const std::filesystem::path& file);
  // The shipped one, read once. Where it cannot be read nothing is offered.
  static const ChangeBook& shipped();

  std::vector<ChangeKind> offered(const lifts::LiftDefinition& lift) const;
  SideEffect bringsOf(const Change& change, const lifts::LiftDefinition& lift) const;
  OtherDays daysOf(const lifts::LiftDefinition& lift, const std::string& variant) const;

 private:
  struct Brings {
    ChangeKind kind;
    std::string way;  // "more", "less", a word of what is to be done; empty: any
    SideEffect effect;
  };
  struct OfLift {
    std::vector<ChangeKind> offered;
    std::vector<Brings> brings;
    std::vector<OtherDays> weeks;
  };
  std::map<std::string, OfLift, std::less<>> lifts_;
};

}  // namespace jib::coaching
