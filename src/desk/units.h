// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/display_units.h"

namespace jib::desk {

// The units the coach reads, as kept between two starts; put in force for the whole program.
void applyKeptUnits();
void keepUnits(DisplayUnits units);

}  // namespace jib::desk
