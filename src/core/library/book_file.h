// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/library/library.h"

namespace jib::library {

// The coach's own book as TOML, one [[cue]] a wording: finding, title, wording, drill, how often it was said, how often
// it helped, when last. What was put away is left out. Documented in docs/formats.md.
std::string bookToToml(const std::vector<Library::SaidBefore>& book);

}  // namespace jib::library
