// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

#include "core/base/result.h"

namespace jib::exchange {

// Two analyses of one athlete, then and now, as a file: jagged-jib/comparison version 1 (docs/formats.md). What differs
// between the two clips is said, and widens or withholds what is compared: a number from another angle, of another
// variation or another lift is no change. Rep by rep, in their order, and the set.
// A difference is b minus a. Its sigma holds both clips' own: what they have in common is never taken off, as nobody
// can be sure that two clips share it. `at`: the name of one event ("bottom"); empty: all. Errors  BadData where one of
// them is no analysis; WrongUse for an event that neither has
Result<std::string> comparisonOf(std::string_view a_json, std::string_view b_json, const std::string& at = {});

}  // namespace jib::exchange
