// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that lets films go and keeps what they told.
#include <algorithm>
#include <map>
#include <set>

#include "core/library/library_impl.h"

namespace jib::library {
namespace {

// Answered or skipped, with a film, and no letter about it that waits.
bool canGo(const Submission& s, const std::set<std::int64_t>& letters_wait) {
  return !s.clip_hash.empty() && (s.state == SubmissionState::Returned || s.state == SubmissionState::Skipped) &&
         !letters_wait.count(s.id.number);
}

}  // namespace

Result<Library::Removal> Library::filmRemovalOf(const std::vector<SubmissionId>& ids) {
  auto all = submissions();
  if (!all) return fail(all.error());
  auto sent = outgoing();
  if (!sent) return fail(sent.error());
  const std::set<SubmissionId> asked(ids.begin(), ids.end());
  std::set<std::int64_t> letters_wait;
  for (const Outgoing& o : *sent)
    if (o.state == OutgoingState::Waiting && o.submission) letters_wait.insert(o.submission->number);
  Removal r;
  std::set<std::string> clips, elsewhere;
  std::map<MessageId, bool> whole;  // every film of the message goes
  std::error_code error;
  for (const Submission& s : *all) {
    const bool goes = asked.count(s.id) && canGo(s, letters_wait);
    if (!s.clip_hash.empty()) (goes ? clips : elsewhere).insert(s.clip_hash);
    if (s.message_id && !s.clip_hash.empty())
      whole[*s.message_id] = (whole.count(*s.message_id) ? whole[*s.message_id] : true) && goes;
    if (!goes) continue;
    r.submissions.push_back(s.id);
    for (const char* kind : {"replies", "takes"})
      if (const fs::path made = impl_->folder / kind / std::to_string(s.id.number); fs::exists(made, error))
        r.files.push_back(made);
  }
  // A film comes and goes under every name it was kept by.
  for (const auto& entry : fs::directory_iterator(impl_->folder / "media", error)) {
    const std::string name = entry.path().filename().string(), hash = name.substr(0, name.find('.'));
    if (clips.count(hash) && !elsewhere.count(hash)) r.files.push_back(entry.path());
  }
  for (const std::string& hash : clips) {
    if (elsewhere.count(hash)) continue;
    r.clips.push_back(hash);
    r.files.push_back(impl_->folder / "pictures" / (hash + ".png"));
  }
  for (const auto& [id, goes] : whole)
    if (goes) r.messages.push_back(id);
  const auto gone = [&](SubmissionId id) {
    return std::find(r.submissions.begin(), r.submissions.end(), id) != r.submissions.end();
  };
  for (const Outgoing& o : *sent)
    if (o.submission && gone(*o.submission)) {
      r.outgoing.push_back(o.id);
      r.files.push_back(impl_->folder / "outbox" / o.file);
      r.files.push_back(impl_->folder / "outbox" / "taken-back" / o.file);
    }
  return r;
}

Result<Library::Removal> Library::letFilmsGo(const std::vector<SubmissionId>& ids, const std::string& today) {
  auto done = impl_->guarded([&]() -> Result<Removal> {
    SQLite::Database& db = *impl_->database;
    SQLite::Transaction all(db, SQLite::TransactionBehavior::IMMEDIATE);
    auto what = filmRemovalOf(ids);
    if (!what) return what;
    const auto in_the_inbox = impl_->inboxByContent();
    for (const MessageId id : what->messages) {
      auto m = message(id);
      if (!m) return fail(m.error());
      if (m->original.empty()) continue;
      // Another message of the same bytes may stay; its file does then.
      if (!impl_->heldByOthers(m->original, what->messages)) what->files.push_back(impl_->mailFile(m->original));
      const auto [first, last] = in_the_inbox.equal_range(m->original);
      for (auto it = first; it != last; ++it) what->files.push_back(it->second);
      SQLite::Statement s(db, "UPDATE message SET original = '' WHERE id = ?");
      s.bind(1, id.number);
      s.exec();
    }
    // The names of the files first: what is not gone from the disk when the program dies is gone at the next start.
    for (const fs::path& file : what->files) impl_->doom(file);
    for (const SubmissionId id : what->submissions) {
      auto s = impl_->find(id);
      if (!s) return deletedMeanwhile();
      s->clip_hash.clear();
      s->details.film_gone_on = today;
      impl_->update(*s);
      SQLite::Statement traced(db, "DELETE FROM tracing WHERE submission = ?");
      traced.bind(1, id.number);
      traced.exec();
    }
    for (const std::string& hash : what->clips) impl_->forgetClip(hash);
    // What was sent stays listed; a letter that was taken back and has no file any more can't be sent after all.
    for (const OutgoingId id : what->outgoing) {
      SQLite::Statement taken_back(db, "DELETE FROM outgoing WHERE id = ? AND state = ?");
      taken_back.bind(1, id.number);
      taken_back.bind(2, std::string(nameOf(OutgoingState::TakenBack)));
      taken_back.exec();
    }
    all.commit();
    return what;
  });
  if (done) impl_->forgetDoomed();
  return done;
}

}  // namespace jib::library
