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

  // What is still on its way of before this is not written any more: the review is changed in the library itself, as
  // when its clip is turned. A save is of the time in which its ticket was taken; one without is of now.
  void disown();
  int ticket() const;
  Result<bool> keep(library::Library& library, const library::Review& review, int revision, int ticket);

 private:
  const library::SubmissionId id_;
  mutable std::mutex mutex_;  // guards what follows
  int number_ = 0;
  int revision_ = -1;
  int ticket_ = 0;
};

}  // namespace jib::review
