// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/load_words.h"
#include "core/coaching/loading.h"
#include "core/review/session.h"

namespace jib::review {

// A max as this set speaks of it; nullopt where load or reps are not known, and for anybody sore or under 18: nothing
// here suggests a max to them.
std::optional<coaching::BestRange> maxFromSet(const Session& session);
// What the shares in this athlete's cues are shares of: the recorded max, else the low end of what the set speaks for.
// Nothing for anybody sore or under 18.
coaching::LoadBasis loadBasisOf(const Session& session);

}  // namespace jib::review
