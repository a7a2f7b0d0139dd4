// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/export.h"
#include "core/library/library.h"

namespace jib::library {

// Plays the demo scenario into an empty library, in order of its dates: clips are added and traced, reviews written and
// replies recorded exactly as the window would. demo/scenario.json is described in docs/formats.md.
// Errors  CannotRead, BadData, and those of tracing
Result<bool> fillDemo(Library& library, const std::filesystem::path& scenario, Task& task);

}  // namespace jib::library
