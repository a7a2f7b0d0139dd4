// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/exchange/mail.h"

namespace jib::exchange {

// The films in a zip held in memory. Bounded: an archive that unpacks to more than 2 GB or holds more than 200 entries
// is refused.
// Errors  BadData with what is wrong and what to do
Result<std::vector<MailPart>> clipsInZip(std::string_view bytes);

}  // namespace jib::exchange
