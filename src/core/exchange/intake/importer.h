// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/exchange/mail/mail.h"
#include "core/library/library.h"

namespace jib::exchange {

// What came of receiving.
struct Received {
  int messages = 0;  // new in the library
  int clips = 0;
  int known = 0;                      // were there already
  int receipts = 0;                   // put into the outbox
  std::vector<std::string> troubles;  // what could not be taken in, and why; sentences
  std::vector<std::string> accounts;  // what each message held that is more than words and films, part by part
};

// Takes in whatever is handed over: a Maildir (its new messages become read ones), an .eml or .mbox file, a film, or a
// folder of films and messages with text files beside them, and the folders in it. Each message is taken in whole or
// not at all; what cannot be read is said and skipped, the rest goes on. Taking the same in twice changes nothing.
// Several programs may do so with one library at once: a message is taken in under the library's lock, from a folder of
// this import's own. Memory stays small whatever a message holds.
// In a Maildir, what is no message goes to its folder `refused`; what could not be kept stays in `new` and is tried
// again with the next.
// Errors  CannotRead for a source that is not there, or is no file and no folder; those of the library; Cancelled (what
//         was taken in stays)
Result<Received> receive(library::Library& library, const std::filesystem::path& source, const std::string& today_iso,
                         Task& task);

// The readings of a text as the library keeps them: proposed, not confirmed.
// `unit`: the one this athlete counts in, where it is known.
std::vector<library::MessageField> proposedFields(std::string_view text, std::string_view received_on,
                                                  std::optional<MassUnit> unit = {});
const library::MessageField* fieldNamed(const std::vector<library::MessageField>& fields, std::string_view name);
const library::MessageField* fieldNamed(std::vector<library::MessageField>&&, std::string_view) = delete;

}  // namespace jib::exchange
