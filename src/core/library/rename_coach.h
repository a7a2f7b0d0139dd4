// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/library/library.h"

namespace jib::library {

// A coach is called something else from now on: athletes, clips and open questions that were theirs stay theirs. Who
// signed a reply that has gone out stays as it was signed. Does nothing where either name is empty.
Result<bool> renameCoach(Library& library, const std::string& from, const std::string& to);

}  // namespace jib::library
