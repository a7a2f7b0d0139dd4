// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <mutex>

#include "core/library/library.h"

namespace jib::review {

// Keeps one review in the library, from whichever thread: later ones are never written over by earlier ones that come
// late, and nothing is written over what another window has kept (Library::saveReview).
// Thread  any; a call waits for another that is writing
class Keeper {
 public:
  // As it stands in the library now, under `number`.
  explicit Keeper(library::SubmissionId id) : id_(id) {}
  void begin(int number);

  // `revision`: of the session it was taken from. Errors  CannotRead, CannotWrite, Conflict; nothing is kept then
  Result<bool> keep(library::Library& library, const library::Review& review, int revision);
  int number() const;

 private:
  const library::SubmissionId id_;
  mutable std::mutex mutex_;  // guards what follows
  int number_ = 0;
  int revision_ = -1;
};

}  // namespace jib::review
