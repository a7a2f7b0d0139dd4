// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/finding.h"
#include "core/library/library.h"

namespace jib::library {

// What a limit says of the latest sets, and what it would say elsewhere: in how many it is sure of the fault.
struct WouldSay {
  int sets = 0, as_it_is = 0, as_moved = 0;
};
inline constexpr int kLookedBack = 20;
// Of the library's latest `kLookedBack` sets of the lift in which the limit's measure is known. Errors  CannotRead
Result<WouldSay> wouldSay(Library& library, const coaching::Limit& limit, double moved_to);

}  // namespace jib::library
