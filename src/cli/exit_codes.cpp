// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/exit_codes.h"

#include <cstdio>

namespace jib::cli {

int exitCode(ErrorCode code) {
  switch (code) {
    case ErrorCode::CannotJudge:
      return kSomethingNotJudged;
    case ErrorCode::WrongUse:
    case ErrorCode::BadData:
    case ErrorCode::Conflict:
      return 2;
    case ErrorCode::ClipUnreadable:
    case ErrorCode::CannotRead:
      return 3;
    case ErrorCode::NoLiftFound:
      return 4;
    case ErrorCode::CannotWrite:
      return 5;
    case ErrorCode::Cancelled:
      return 130;
  }
  return 2;
}

int complain(const Error& error) {
  std::fprintf(stderr, "jib: %s\n", error.sentence().c_str());
  return exitCode(error.code);
}

}  // namespace jib::cli
