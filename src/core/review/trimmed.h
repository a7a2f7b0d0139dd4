// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <utility>

#include "core/tracing/model/coach_told.h"

namespace jib::review {

// What stays of a clip from `first_s` to `last_s` when the parts left out at its very ends are not shown either; the
// whole clip where nothing would stay. A part that begins or ends within `edge_s` of an end reaches it.
std::pair<double, double> trimmed(const tracing::LeftOuts& parts, double first_s, double last_s, double edge_s);

}  // namespace jib::review
