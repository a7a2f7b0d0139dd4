// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/library_page/commands/queue_command.h"

namespace jib::desk {

// Triage, and which lift a submission shows: state with its reason, lift and variant with who says so. Everything else
// of the row may have been edited since and is left as it is.
class ChangeSubmission : public QUndoCommand {
 public:
  ChangeSubmission(library::Library& library, const QString& text, library::Submission from, library::Submission to,
                   QueueTold told);
  void redo() override { put(to_); }
  void undo() override { put(from_); }

 private:
  void put(const library::Submission& wanted);

  library::Library& library_;
  const library::Submission from_, to_;
  QueueTold told_;
};

}  // namespace jib::desk
