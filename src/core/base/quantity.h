// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/base/display_units.h"

namespace jib {

inline constexpr double kKilogramsPerPound = 0.45359237;  // exact, international avoirdupois pound
inline constexpr double kPoundsPerKilogram = 1 / kKilogramsPerPound;
inline constexpr double kCentimetresPerInch = 2.54;

// Masses and heights as people type them; a comma may stand for the point. nullopt for anything else, for nothing, and
// for what is not above zero: a wrong number costs more than a missing one.
// `bare`: what a number without a unit counts in. Heights in inches are below 100 of them.
std::optional<double> kilogramsFrom(std::string_view text,
                                    MassUnit bare = MassUnit::Kilograms);  // "102.5", "102,5 kg", "225 lb"
std::optional<double> centimetresFrom(std::string_view text, LengthUnit bare = LengthUnit::Centimetres);  // "178",
// "1.78 m", "70 in", "5'10\"", "5 ft 10"

// A mass as people read it: "142.5 kg (314 lb)", the coach's own unit first or alone; no digit nobody meant.
std::string massText(double kg);
std::string massRangeText(double low_kg, double high_kg);  // "107.5 to 125 kg (237 to 276 lb)"

// A number as files and messages write it, with a point whatever the machine's locale is, and nothing after it; nullopt
// for anything else. What is not finite is no number.
std::optional<double> numberFrom(std::string_view text);

std::string feetAndInches(double cm);  // "5 ft 10 in"
std::string heightText(double cm);     // as the coach reads lengths: "178 cm" or "5 ft 10 in"

}  // namespace jib
