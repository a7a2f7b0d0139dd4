// SPDX-License-Identifier: GPL-3.0-or-later
// Replies that were on their way when their program ended, so that the coach can go on where it stopped. A reply is one
// act: of one that was not finished nothing was recorded and nothing was sent.
#pragma once

#include <filesystem>
#include <vector>

#include "core/base/result.h"
#include "core/library/ids.h"

namespace jib::library {

// A reply by mail to this submission is being written, until endReturn(). Errors  CannotWrite
Result<bool> beginReturn(const std::filesystem::path& library, SubmissionId submission);
void endReturn(const std::filesystem::path& library, SubmissionId submission);
// Those whose program has ended without doing so; what a program that lives is at is none of them.
std::vector<SubmissionId> unfinishedReturns(const std::filesystem::path& library);

}  // namespace jib::library
