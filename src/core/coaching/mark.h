// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/finding.h"

namespace jib::coaching {

// What a coach says of something only a person can judge.
enum class MarkState { Seen, Fine, CouldNotSee };
std::string_view nameOf(MarkState state);  // in files: "seen", "fine", "could_not_see"

// One look by eye: at a check of the cue book, or at one of the coach's own.
struct Mark {
  std::string check;  // id of the finding, "squat.heels_lift"; of the coach's own: "own." and its title
  MarkState state = MarkState::Seen;
  int rep = 0;     // 1-based; 0 is of the set, or of a clip without reps
  double t_s = 0;  // the frame the coach was looking at
  friend bool operator==(const Mark&, const Mark&) = default;
};
using Marks = std::vector<Mark>;

// A check of the coach's own by its title, and back.
std::string ownCheck(std::string_view title);
bool isOwnCheck(std::string_view check);
std::string titleOfOwnCheck(std::string_view check);

// How the test of one of a finding's causes went is kept as a mark of the set: seen, it helped; fine, it did not. It is
// no finding of its own.
std::string causeCheck(std::string_view finding, std::string_view cause);
bool isCauseCheck(std::string_view check);
std::optional<bool> causeHelped(const Marks& marks, std::string_view finding, std::string_view cause);

const Mark* markOf(const Marks& marks, std::string_view check, int rep);
// Puts a mark in the place of one for the same check and rep; `state` nullopt takes it away.
void setMark(Marks& marks, const Mark& mark, bool there);

// Each check that was looked at, as a finding: there when it was seen in any rep, with those reps and the first moment
// it was seen at; not there when it was fine wherever it was looked at. What could not be seen says nothing.
std::vector<Finding> findingsFrom(const Marks& marks);
// Whether a check was seen or fine somewhere: then the eye has the last word over any measure of the same finding.
bool settledByEye(const Marks& marks, std::string_view check);

std::string marksToJson(const Marks& marks);
// Also reads what older reviews kept: an object of check and "was it seen".
Marks marksFromJson(std::string_view json);

}  // namespace jib::coaching
