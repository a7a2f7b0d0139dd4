// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/coaching/cue.h"

namespace jib::coaching {

// The weeks of a change, a line a day, for the coach to edit: the lift itself with the cue, two other days with the
// same aim in another form, what stays as it is so that the effect can be read, and how long before anybody judges.
// `gentle`: somebody under 18, for whom no share of a max is named. Empty without a cue.
std::vector<std::string> weekOf(const std::vector<Cue>& cues, const CueBook& book, const lifts::LiftDefinition& lift,
                                const std::string& variant, bool gentle);

}  // namespace jib::coaching
