// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/finding.h"
#include "core/library/records.h"

namespace jib::library {

// How the number behind a cue has moved, from what was measured then to now. Met: the style's limit is no longer
// passed, to within what can be said; better or no change: by more, or less, than 1.64 σ of the difference.
ThreadState progressOf(const CueThread& thread, const lifts::Measured& now, const coaching::Limit& limit);

// The measure of a set that a thread is about: the rep that shows it most, in the limit's direction.
std::optional<lifts::Measured> measuredFor(const coaching::Limit& limit, const lifts::SetMeasures& measures);

}  // namespace jib::library
