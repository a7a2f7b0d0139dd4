// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace jib {

inline constexpr double kKilogramsPerPound = 0.45359237;  // exact, international avoirdupois pound
inline constexpr double kPoundsPerKilogram = 1 / kKilogramsPerPound;
inline constexpr double kCentimetresPerInch = 2.54;

// Masses and heights as people type them; a comma may stand for the point. nullopt for anything else, for nothing, and
// for what is not above zero: a wrong number costs more than a missing one.
std::optional<double> kilogramsFrom(std::string_view text);    // "102.5", "102,5 kg", "225 lb"
std::optional<double> centimetresFrom(std::string_view text);  // "178", "1.78 m", "70 in", "5'10\"", "5 ft 10"

// A number as files and messages write it, with a point whatever the machine's locale is, and nothing after it; nullopt
// for anything else. What is not finite is no number.
std::optional<double> numberFrom(std::string_view text);

std::string feetAndInches(double cm);  // "5 ft 10 in"

}  // namespace jib
