// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that keeps what goes out, and what was begun and not ended.
#include <algorithm>

#include "core/base/running_program.h"
#include "core/library/library_impl.h"

namespace jib::library {
namespace {

OutgoingState stateFrom(const std::string& name) {
  for (OutgoingState s : {OutgoingState::Waiting, OutgoingState::HandedOver, OutgoingState::TakenBack})
    if (nameOf(s) == name) return s;
  return OutgoingState::Waiting;
}

}  // namespace

Result<Library::Attempt> Library::beginAttempt(const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<Attempt> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    const std::string me = thisProgram();
    Attempt attempt;
    SQLite::Statement s(*impl_->database, "SELECT program FROM clip_attempt WHERE clip_hash = ?");
    s.bind(1, clip_hash);
    while (s.executeStep()) {
      const std::string program = s.getColumn(0).getString();
      if (program != me && lives(program))
        attempt.elsewhere = true;
      else
        attempt.fell += program == me ? 0 : 1;
    }
    if (attempt.elsewhere) return attempt;
    SQLite::Statement begun(*impl_->database, "INSERT OR REPLACE INTO clip_attempt(clip_hash, program) VALUES(?, ?)");
    begun.bind(1, clip_hash);
    begun.bind(2, me);
    begun.exec();
    whole.commit();
    return attempt;
  });
}

Result<bool> Library::endAttempt(const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database, "DELETE FROM clip_attempt WHERE clip_hash = ?");
    s.bind(1, clip_hash);
    s.exec();
    return true;
  });
}

Result<bool> Library::dropAttempt(const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database, "DELETE FROM clip_attempt WHERE clip_hash = ? AND program = ?");
    s.bind(1, clip_hash);
    s.bind(2, thisProgram());
    s.exec();
    return true;
  });
}

OutgoingId Library::Impl::insertOutgoing(const Outgoing& o) {
  SQLite::Statement s(*database,
                      "INSERT INTO outgoing(athlete, submission, kind, to_name, to_address, subject, file, mail_id, "
                      "made_on, handed_on, state) VALUES(?,?,?,?,?,?,?,?,?,?,?)");
  if (o.athlete)
    s.bind(1, o.athlete->number);
  else
    s.bind(1);
  if (o.submission)
    s.bind(2, o.submission->number);
  else
    s.bind(2);
  int at = 3;
  for (const std::string* text :
       {&o.kind, &o.to_name, &o.to_address, &o.subject, &o.file, &o.mail_id, &o.made_on, &o.handed_on})
    s.bind(at++, *text);
  s.bind(at, std::string(nameOf(o.state)));
  s.exec();
  return OutgoingId(database->getLastInsertRowid());
}

Result<OutgoingId> Library::addOutgoing(const Outgoing& o) {
  return impl_->guarded([&]() -> Result<OutgoingId> { return impl_->insertOutgoing(o); });
}

Result<std::vector<Outgoing>> Library::outgoing() {
  return impl_->guarded([&]() -> Result<std::vector<Outgoing>> {
    std::vector<Outgoing> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT id, athlete, submission, kind, to_name, to_address, subject, file, mail_id, made_on, "
                        "handed_on, state FROM outgoing ORDER BY id DESC");
    while (s.executeStep()) {
      Outgoing o;
      o.id = OutgoingId(s.getColumn(0).getInt64());
      if (!s.getColumn(1).isNull()) o.athlete = AthleteId(s.getColumn(1).getInt64());
      if (!s.getColumn(2).isNull()) o.submission = SubmissionId(s.getColumn(2).getInt64());
      int at = 3;
      for (std::string* text :
           {&o.kind, &o.to_name, &o.to_address, &o.subject, &o.file, &o.mail_id, &o.made_on, &o.handed_on})
        *text = s.getColumn(at++).getString();
      o.state = stateFrom(s.getColumn(at).getString());
      all.push_back(std::move(o));
    }
    return all;
  });
}

Result<std::set<std::string>> Library::Impl::letterFiles() {
  return guarded([&]() -> Result<std::set<std::string>> {
    std::set<std::string> files;
    SQLite::Statement s(*database, "SELECT file FROM outgoing");
    while (s.executeStep()) files.insert(s.getColumn(0).getString());
    return files;
  });
}

fs::path Library::outgoingFile(const Outgoing& o) const {
  const fs::path outbox = impl_->folder / "outbox";
  return o.state == OutgoingState::TakenBack ? outbox / "taken-back" / o.file : outbox / o.file;
}

Result<bool> Library::setOutgoingState(OutgoingId id, OutgoingState state, const std::string& today_iso) {
  auto all = outgoing();
  if (!all) return fail(all.error());
  const auto it = std::find_if(all->begin(), all->end(), [&](const Outgoing& o) { return o.id == id; });
  if (it == all->end()) return fail(ErrorCode::CannotRead, "That letter is not in the outbox.", "Refresh the list.");
  if (it->state == state) return true;
  if (it->state == OutgoingState::HandedOver && state == OutgoingState::TakenBack)
    return fail(ErrorCode::WrongUse, "It's already gone to the mail app and can't be undone here.",
                "Write to the athlete again.");
  Outgoing to = *it;
  to.state = state;
  const fs::path from_file = outgoingFile(*it), to_file = outgoingFile(to);
  if (from_file != to_file) {
    if (auto made = makePrivateFolder(to_file.parent_path()); !made) return made;
    std::error_code error;
    // A program that was killed between the two has moved it already.
    if (fs::exists(from_file, error))
      if (auto moved = impl_->disk->rename(from_file, to_file); !moved) return moved;
  }
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database, "UPDATE outgoing SET state = ?, handed_on = ? WHERE id = ?");
    s.bind(1, std::string(nameOf(state)));
    s.bind(2, state == OutgoingState::HandedOver ? today_iso : std::string());
    s.bind(3, id.number);
    return s.exec() == 1;
  });
}

}  // namespace jib::library
