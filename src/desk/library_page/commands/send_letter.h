// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/exchange/letters/outbox.h"
#include "desk/library_page/commands/queue_command.h"

namespace jib::desk {

// Puts a letter into the outbox. Undone, it is taken back, as long as it was not handed over.
class SendLetter : public QUndoCommand {
 public:
  SendLetter(library::Library& library, exchange::Dispatch letter, QueueTold told);
  void redo() override;
  void undo() override;
  bool sent() const { return sent_.has_value(); }

 private:
  void setState(library::OutgoingState state);

  library::Library& library_;
  const exchange::Dispatch letter_;
  std::optional<library::OutgoingId> sent_;
  QueueTold told_;
};

}  // namespace jib::desk
