// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/library/library.h"

namespace jib::library {

// Everything the library holds of one athlete, for the athlete to keep: clips under the names they were sent with, and
// athlete.json with submissions, reviews and cue threads.
// Errors  CannotRead, CannotWrite
Result<bool> exportAthlete(Library& library, AthleteId id, const std::filesystem::path& folder);

}  // namespace jib::library
