// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/lift.h"

namespace jib::lifts {

// The press from the front of the shoulders over the head, standing.
LiftDefinition overheadDefinition();

}  // namespace jib::lifts
