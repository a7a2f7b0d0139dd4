// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/base/result.h"
#include "core/base/task.h"

namespace jib::footage {

// Writes a film anew until it weighs at most so many bytes: fewer bits first, then fewer pixels, as far as a person can
// still be made out; its sound and its chapters stay. One that is light enough is left alone.
// Gives whether it fits; false leaves the lightest that can be watched.
// Errors  ClipUnreadable, CannotWrite, Cancelled, with the film as it was
Result<bool> fitFilm(const std::filesystem::path& film, double most_bytes, Task& task);

}  // namespace jib::footage
