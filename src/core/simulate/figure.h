// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/simulate/lifter.h"
#include "core/simulate/solid.h"

namespace jib::simulate {

// The lifter with clothes and shoes, and the loaded bar, as solids for the renderer.
std::vector<Solid> figure(const ClipSpec& spec, const Build& build, const Body& body);

}  // namespace jib::simulate
