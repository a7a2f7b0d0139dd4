// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/model/trace.h"

namespace jib::tracing {

// Puts the elbow where the coach placed it, and takes its neighbours in time along: what errs there errs alike from
// look to look. `metre_px`: how large a metre looks at the elbow.
void placeElbow(Trace& trace, const std::vector<PlacedFrame>& placed, double metre_px);

}  // namespace jib::tracing
