// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/review/reply_draft.h"

namespace jib::review {

// Returns a review: one act. The files of the reply are written already; the letter with them is written into the
// outbox, then everything is recorded in one transaction, and only then does the letter bear a name under which it is
// found. Whatever fails, and wherever the program is killed, either all of it has happened or none.
// `over`: the number of the review the draft was made from (Library::saveReview). `files`: what goes along.
// Errors  WrongUse when nobody has said who the coach is; CannotRead, CannotWrite; Conflict when another window changed
//         the review; nothing is recorded then, and no letter is left
Result<library::Outgoing> post(library::Library& library, const ReplyDraft& draft, std::optional<int> over,
                               const std::vector<std::filesystem::path>& files, FileSystem& disk = FileSystem::real());
// The same for a reply that went into a folder: no letter.
Result<bool> recordReturn(library::Library& library, const ReplyDraft& draft, std::optional<int> over);

}  // namespace jib::review
