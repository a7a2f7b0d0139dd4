// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/library.h"

namespace jib::desk {

// Which of a library's coaches sits at this desk: kept with this user's settings, so that two desks on one folder can
// have two coaches. Tells the library.
void takeSeat(library::Library& library);
void keepSeat(library::Library& library, const std::string& coach);  // and takes it

}  // namespace jib::desk
