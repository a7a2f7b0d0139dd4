// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/exchange/mail.h"
#include "core/library/library.h"

namespace jib::exchange {

// What came of receiving.
struct Received {
  int messages = 0;  // new in the library
  int clips = 0;
  int known = 0;                      // were there already
  int receipts = 0;                   // put into the outbox
  std::vector<std::string> troubles;  // what could not be taken in, and why; sentences
};

// Takes in whatever is handed over: a Maildir (its new messages become read ones), an .eml or .mbox file, a film, or a
// folder of films with text files beside them. Each message is taken in whole or not at all; what cannot be read is
// said and skipped, the rest goes on. Taking the same in twice changes nothing. Errors  CannotRead for a source that is
// not there; those of the library; Cancelled (what was taken in stays)
Result<Received> receive(library::Library& library, const std::filesystem::path& source, const std::string& today_iso,
                         Task& task);

// The readings of a text as the library keeps them: proposed, not confirmed.
std::vector<library::MessageField> proposedFields(std::string_view text, std::string_view received_on);
const library::MessageField* fieldNamed(const std::vector<library::MessageField>& fields, std::string_view name);

}  // namespace jib::exchange
