// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/review/session.h"

namespace jib::review {

// What to film next, and when, in a sentence to the athlete: so that what was asked can be seen in the same terms, and
// before a meet rather than after. Empty where nothing was asked. The session holds an analysis.
std::string filmNext(const Session& session, const std::string& today_iso);

}  // namespace jib::review
