// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/cue.h"

namespace jib::coaching {

// What a sore or a young lifter is not asked for without a second thought.
enum class Strain { Deeper, Paused, Heavier, Maximal };
std::string_view nameOf(Strain strain);  // for people, a noun: "more depth"

// What the words of a cue ask for, whoever wrote them: the program's and the coach's own are read alike.
std::vector<Strain> strainsIn(std::string_view text);
std::vector<Strain> strainsIn(const Cue& cue);  // and what it asks to be changed

// The cue without what would strain: another of the book's wordings where there is one, no such drill, no load.
Cue gentled(Cue cue, const CueEntry& entry);

}  // namespace jib::coaching
