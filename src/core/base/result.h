// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <stdexcept>
#include <string>
#include <tl/expected.hpp>
#include <utility>

namespace jib {

enum class ErrorCode {
  WrongUse,
  ClipUnreadable,
  NoLiftFound,
  CannotJudge,
  CannotWrite,
  CannotRead,
  BadData,
  Conflict,  // somebody else has changed it meanwhile; nothing was written
  Cancelled,
};

// An expected failure, in words for the coach: what is wrong, and what to do next. Each is one sentence.
struct Error {
  ErrorCode code;
  std::string what;
  std::string next;

  std::string sentence() const { return next.empty() ? what : what + " " + next; }
};

// A value or an Error. tl::expected is not nodiscard; this is.
template <class T>
struct [[nodiscard]] Result : tl::expected<T, Error> {
  using tl::expected<T, Error>::expected;
};

inline tl::unexpected<Error> fail(ErrorCode code, std::string what, std::string next = {}) {
  return tl::unexpected<Error>(Error{code, std::move(what), std::move(next)});
}

inline tl::unexpected<Error> fail(Error error) {
  return tl::unexpected<Error>(std::move(error));
}

inline tl::unexpected<Error> cancelled() {
  return fail(ErrorCode::Cancelled, "Stopped before the end.");
}

// A bug of ours. Thrown in every build; the job runner and the window's guard catch it and keep the review.
struct AssertionFailed : std::logic_error {
  using std::logic_error::logic_error;
};

}  // namespace jib

#define JIB_ASSERT(condition)                                                                  \
  do {                                                                                         \
    if (!(condition)) throw ::jib::AssertionFailed(std::string(__func__) + ": " + #condition); \
  } while (false)
