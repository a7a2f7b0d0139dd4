// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/library/records.h"

namespace jib::library {

// One athlete as a coach looks for them, among all of them.
struct RosterRow {
  Athlete athlete;
  int clips = 0;              // that have come
  int waiting = 0;            // of them without an answer yet
  std::string waiting_since;  // ISO date of the oldest of those; empty: none waits
  std::string last_on;        // ISO date of the latest; empty: nothing has come yet
  int open_cues = 0;
  std::string due_on;                // ISO date on which the first of those is due; empty: none
  int answered_this_week = 0;        // clips, in the seven days up to today
  std::optional<double> usual_days;  // from a clip's coming to its reply, the middle one of the latest; nullopt: none
  // All by which they can be found, in lower case: name, groups, goal, federation, notes; variants, kit and findings of
  // their clips, and what was asked of them.
  std::string words;
};

// What is typed above a roster. Every word must be found in a row's words, as a part of one; a comparison of a best or
// of the body weight ("squat>180", "bench<=120", "bw<75") counts in `unit`.
class RosterSearch {
 public:
  RosterSearch(std::string_view typed, MassUnit unit);
  bool finds(const RosterRow& row) const;

 private:
  struct Bound {
    std::string of;  // a lift's name, or "bw"
    bool above = true, or_equal = false;
    double kg = 0;
  };
  std::vector<std::string> words_;
  std::vector<Bound> bounds_;
};

}  // namespace jib::library
