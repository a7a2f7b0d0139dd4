// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/result.h"

namespace jib::cli {

// The exit status a script sees; docs/formats.md lists them.
inline constexpr int kDone = 0, kSomethingNotJudged = 1;
int exitCode(ErrorCode code);

// One line on standard error, and the exit status.
int complain(const Error& error);

}  // namespace jib::cli
