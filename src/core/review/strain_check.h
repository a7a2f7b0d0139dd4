// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/review/session.h"

namespace jib::review {

// What must be asked once before this reply goes to somebody sore or under 18: which cue asks for more depth, a pause,
// a heavier load or a max, and what they wrote. Empty: nothing of that kind is in it, or nobody is sore or young.
std::string strainsToConfirm(const Session& session);

}  // namespace jib::review
