// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <filesystem>
#include <vector>

#include "core/base/result.h"

namespace jib::exchange {

// A message in a mailbox file (mbox, RFC 4155): its bytes, without the line that begins it.
struct MailboxEntry {
  std::uintmax_t from = 0, to = 0;
};

// Where the messages of a mailbox lie. A line "From " begins one when it stands at the start or behind an empty line
// and either ends in a date or is followed by a header; "From my side" in a letter is neither. Reads line by line.
// Errors  CannotRead
Result<std::vector<MailboxEntry>> messagesOfMailbox(const std::filesystem::path& mailbox);

// Copies a stretch of a file into a new one.
// Errors  CannotRead, CannotWrite
Result<bool> copyStretch(const std::filesystem::path& from, const MailboxEntry& stretch,
                         const std::filesystem::path& to);

}  // namespace jib::exchange
