// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/exchange/mail/mail.h"
#include "core/library/library.h"

namespace jib::exchange {

// What a message becomes in the library: whose it is, which thread it belongs to, what was read from it, and its rows
// in the queue. A film joins the row that waits for it; words alone are a note or a question; a message about a lift
// whose film did not come waits for it. Only looks; nothing is kept yet.
// `by_name`: it has no address, and its sender is known by name (a folder of the coach's own).
// Errors  those of the library
Result<library::Library::Incoming> arrivalOf(library::Library& library, const Mail& mail, const std::string& today_iso,
                                             bool by_name);

}  // namespace jib::exchange
