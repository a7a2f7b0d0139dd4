// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/commands/send_letter.h"

#include "core/library/dates.h"

namespace jib::desk {

SendLetter::SendLetter(library::Library& library, exchange::Dispatch letter, QueueTold told)
    : library_(library), letter_(std::move(letter)), told_(std::move(told)) {
  setText(QObject::tr("write to %1").arg(QString::fromStdString(letter_.to_address)));
}

void SendLetter::setState(library::OutgoingState state) {
  auto kept = library_.setOutgoingState(*sent_, state, library::today());
  told_(letter_.submission.value_or(library::SubmissionId(0)),
        kept ? QString() : QString::fromStdString(kept.error().sentence()));
  // What cannot be taken back is no longer a step to go back over.
  if (!kept) setObsolete(true);
}

void SendLetter::redo() {
  if (sent_) return setState(library::OutgoingState::Waiting);
  auto coach = library_.signer();
  auto out = coach ? exchange::dispatch(library_, *coach, letter_, library::today())
                   : Result<library::Outgoing>(fail(coach.error()));
  if (out)
    sent_ = out->id;
  else
    setObsolete(true);
  told_(letter_.submission.value_or(library::SubmissionId(0)),
        out ? QString() : QString::fromStdString(out.error().sentence()));
}

void SendLetter::undo() {
  if (sent_) setState(library::OutgoingState::TakenBack);
}

}  // namespace jib::desk
