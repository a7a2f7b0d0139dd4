// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/lifts/lift.h"

namespace jib::lifts {

// Ask allLifts() or definition(LiftId::Bench).
LiftDefinition benchDefinition();

}  // namespace jib::lifts
