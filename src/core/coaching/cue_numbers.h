// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/analysis.h"

namespace jib::coaching {

// Cues as the present analysis carries them. A cue keeps which finding it is about and what is said; number, doubt,
// frame and the number in its proof are looked up here, after every judgement and before anything is written, so that
// nobody reads a number that no analysis holds any more.
//   of a finding       its number, its basis, and its frame unless the coach chose one; a proof the coach has not
//                      reworded is filled anew. Where the analysis does not hold the finding any more there is no
//                      number, and the cue is doubtful
//   the coach's own    the mean over the reps of the measure it is followed by
std::vector<Cue> lookedUp(std::vector<Cue> cues, const Analysis& analysis, const CueBook& book);

}  // namespace jib::coaching
