// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/keeper.h"

namespace jib::review {

void Keeper::begin(int number) {
  const std::lock_guard lock(mutex_);
  number_ = number;
  revision_ = -1;
}

void Keeper::disown() {
  const std::lock_guard lock(mutex_);
  ++ticket_;
}

int Keeper::ticket() const {
  const std::lock_guard lock(mutex_);
  return ticket_;
}

Result<bool> Keeper::keep(library::Library& library, const library::Review& review, int revision) {
  return keep(library, review, revision, ticket());
}

Result<bool> Keeper::keep(library::Library& library, const library::Review& review, int revision, int ticket) {
  const std::lock_guard lock(mutex_);
  if (revision < revision_ || ticket != ticket_) return true;
  auto kept = library.saveReview(id_, review, number_);
  if (!kept) return fail(kept.error());
  number_ = *kept;
  revision_ = revision;
  return true;
}

int Keeper::number() const {
  const std::lock_guard lock(mutex_);
  return number_;
}

}  // namespace jib::review
