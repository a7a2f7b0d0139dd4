// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace jib {

// How words are spelled that two countries spell differently. What ships is American.
enum class Spelling { American, British };
Spelling spelling();                // in force; American until it is set
void useSpelling(Spelling chosen);  // before any text is read

// A text that ships, in the spelling in force: whole words, capitals kept ("Center" becomes "Centre"). What people
// typed is not given to this.
std::string spelled(std::string text);

}  // namespace jib
