// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/library.h"

namespace jib::tests {

// As if a reply that asked these things had gone out.
inline bool returned(library::Library& library, library::SubmissionId id, std::vector<library::CueThread> asked) {
  library::Library::Return what;
  what.id = id;
  what.asked = std::move(asked);
  return library.returnReview(what).has_value();
}

}  // namespace jib::tests
