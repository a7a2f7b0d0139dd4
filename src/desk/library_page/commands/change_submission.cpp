// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/commands/change_submission.h"

namespace jib::desk {

ChangeSubmission::ChangeSubmission(library::Library& library, const QString& text, library::Submission from,
                                   library::Submission to, QueueTold told)
    : library_(library), from_(std::move(from)), to_(std::move(to)), told_(std::move(told)) {
  setText(text);
}

void ChangeSubmission::put(const library::Submission& wanted) {
  const auto kept = library_.edit(wanted.id, [&](library::Submission& row) {
    row.state = wanted.state;
    row.reason = wanted.reason;
    row.lift = wanted.lift;
    row.variant = wanted.variant;
    row.details.lift_by = wanted.details.lift_by;
    row.details.variant_by = wanted.details.variant_by;
    row.details.lift_confirmed = wanted.details.lift_confirmed;
  });
  told_(wanted.id, kept ? QString() : QString::fromStdString(kept.error().sentence()));
}

}  // namespace jib::desk
