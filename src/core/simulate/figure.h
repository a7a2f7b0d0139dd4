// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/simulate/lifter.h"
#include "core/simulate/solid.h"

namespace jib::simulate {

// The lifter with clothes and shoes, the loaded bar, and who else is there, as solids for the renderer.
std::vector<Solid> figure(const ClipSpec& spec, const Build& build, const Body& body, const Body* helper = nullptr);

}  // namespace jib::simulate
