// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/bar/bar_tracer.h"

namespace jib::tracing {

// The last frames on which a bar that is then pulled lies on the floor, one a pull. A clip that begins with the bar up
// shows none of that pull.
std::vector<std::size_t> liftOffFrames(const BarTrace& bar);

}  // namespace jib::tracing
