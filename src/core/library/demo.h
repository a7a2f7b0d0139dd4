// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/export.h"
#include "core/library/library.h"

namespace jib::library {

// Plays the demo scenario into an empty library, in order of its dates: clips are added and traced, reviews written and
// replies recorded exactly as the window would. demo/scenario.json is described in docs/formats.md.
// Errors  CannotRead, BadData, and those of tracing
Result<bool> fillDemo(Library& library, const std::filesystem::path& scenario, Task& task);

// Moves every day of a copy of the demo, its mail that has not come in yet included, so that what is new in it is new
// on the day it is played: a meet lies ahead, a cue is due this week. Whole weeks, so that days of the week stay.
// `today_iso`: the day it is played. Errors  CannotRead, CannotWrite
Result<bool> bringUpToDate(const std::filesystem::path& demo_library, const std::string& today_iso);

}  // namespace jib::library
