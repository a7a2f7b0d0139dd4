// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string_view>

namespace jib::lifts {

// What the sign of a left-right measure says, as coach and athlete read it: "left end higher". Left is the athlete's.
// Empty for every other measure, and for zero.
std::string_view sideWords(std::string_view measure, double value);
// Whether it is a left-right measure at all.
bool isSided(std::string_view measure);

}  // namespace jib::lifts
