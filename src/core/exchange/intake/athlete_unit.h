// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/library/library.h"

namespace jib::exchange {

// A number whose unit must be said before it can be taken.
bool waitsForUnit(const library::MessageField& field);

// The numbers of an athlete whose unit nobody has said: "185", "best is still 415".
struct OpenNumbers {
  std::vector<std::string> said;  // as typed, oldest first, each once
  MassUnit guess = MassUnit::Kilograms;
};
// nullopt: there are none, or the athlete's unit is known.
std::optional<OpenNumbers> openNumbers(const library::Athlete& athlete, const std::vector<library::Message>& messages);

// The athlete counts in this unit: it is asked once. Every number of theirs that waited for it is read with it, in
// their messages and in the submissions that came with them; what the coach has confirmed or typed stays.
Result<bool> setAthleteUnit(library::Library& library, library::AthleteId athlete, MassUnit unit);

}  // namespace jib::exchange
