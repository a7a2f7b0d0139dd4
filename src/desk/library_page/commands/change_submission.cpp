// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/commands/change_submission.h"

namespace jib::desk {

ChangeSubmission::ChangeSubmission(library::Library& library, const QString& text, library::Submission from,
                                   library::Submission to, QueueTold told)
    : library_(library), from_(std::move(from)), to_(std::move(to)), told_(std::move(told)) {
  setText(text);
}

void ChangeSubmission::put(const library::Submission& wanted) {
  auto now = library_.submission(wanted.id);
  if (!now) return told_(wanted.id, QString::fromStdString(now.error().sentence()));
  now->state = wanted.state;
  now->reason = wanted.reason;
  now->lift = wanted.lift;
  now->variant = wanted.variant;
  now->details.lift_by = wanted.details.lift_by;
  now->details.variant_by = wanted.details.variant_by;
  now->details.lift_confirmed = wanted.details.lift_confirmed;
  auto kept = library_.updateSubmission(*now);
  told_(wanted.id, kept ? QString() : QString::fromStdString(kept.error().sentence()));
}

}  // namespace jib::desk
