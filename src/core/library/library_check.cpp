// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that looks for damage, and that forgets.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include <SQLiteCpp/Backup.h>

#include "core/library/library_impl.h"
#include "core/library/schema.h"

namespace jib::library {
namespace {

// Files of a folder that are none of `known`.
void addStrays(const fs::path& folder, const std::set<std::string>& known, const char* what,
               std::vector<std::string>& troubles) {
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder, error))
    if (const std::string name = entry.path().filename().string(); !known.count(name))
      troubles.push_back(fmt::format("{} lies in {} and belongs to no {}.", name, folder.filename().string(), what));
}

bool isCalledAfterContent(const fs::path& file) {
  constexpr std::size_t kDigits = 64;  // of SHA-256
  const std::string name = file.filename().string(), hash = name.substr(0, name.find('.'));
  return hash.size() == kDigits && hash.find_first_not_of("0123456789abcdef") == std::string::npos;
}

std::string counted(std::size_t n, const char* one, const char* many) {
  return fmt::format("{} {}", n, n == 1 ? one : many);
}

}  // namespace

Result<bool> Library::copyDatabase(const fs::path& to) {
  // Not VACUUM: that wants room on the library's own disk, and writes.
  try {
    SQLite::Database copy(to.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    makePrivate(to);
    copy.exec("PRAGMA journal_mode = OFF; PRAGMA synchronous = OFF");
    SQLite::Backup whole(copy, *impl_->database);
    whole.executeStep(-1);
    return true;
  } catch (const SQLite::Exception& e) {
    return fail(ErrorCode::CannotWrite, "Cannot write " + to.string() + ": " + e.what() + ".",
                "Check that its disk has free space, or choose another place.");
  }
}

namespace {

// Every column of every table, as a new library has them.
std::set<std::string> columnsOf(SQLite::Database& db) {
  std::set<std::string> all;
  SQLite::Statement s(db,
                      "SELECT m.name || '.' || c.name FROM sqlite_master m, pragma_table_info(m.name) c "
                      "WHERE m.type = 'table'");
  while (s.executeStep()) all.insert(s.getColumn(0).getString());
  return all;
}

std::vector<std::string> lackingTables(SQLite::Database& db) {
  SQLite::Database fresh(":memory:", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
  migrate(fresh, 0, Library::kSchema);
  const auto here = columnsOf(db);
  std::vector<std::string> troubles;
  for (const std::string& column : columnsOf(fresh))
    if (!here.count(column)) troubles.push_back("Database: " + column + " is missing.");
  return troubles;
}

}  // namespace

Result<std::vector<Library::KeptFile>> Library::keptFiles() {
  return impl_->guarded([&]() -> Result<std::vector<KeptFile>> {
    std::vector<KeptFile> all;
    std::set<fs::path> told;
    auto rows = submissions();
    if (!rows) return fail(rows.error());
    for (const Submission& s : *rows) {
      if (s.clip_hash.empty()) continue;  // none came
      const fs::path file = clipFile(s);
      if (told.insert(file).second)
        all.push_back({file, s.clip_hash, "The clip " + s.clip_name + " of " + s.received_on});
    }
    SQLite::Statement mails(*impl_->database,
                            "SELECT original, from_name, received_on FROM message WHERE original <> ''");
    while (mails.executeStep()) {
      const std::string original = mails.getColumn(0).getString();
      const fs::path file = impl_->mailFile(original);
      if (told.insert(file).second)
        all.push_back(
            {file, original,
             "The file of " + mails.getColumn(1).getString() + "'s message of " + mails.getColumn(2).getString()});
    }
    auto letters = outgoing();
    if (!letters) return fail(letters.error());
    for (const Outgoing& o : *letters) {
      // What was handed over may be tidied away by hand.
      if (o.state == OutgoingState::HandedOver) continue;
      const fs::path file = outgoingFile(o);
      if (told.insert(file).second) all.push_back({file, {}, "The letter “" + o.subject + "” of " + o.made_on});
    }
    return all;
  });
}

Result<std::vector<std::string>> Library::check() {
  return impl_->guarded([&]() -> Result<std::vector<std::string>> {
    std::vector<std::string> troubles;
    SQLite::Statement sound(*impl_->database, "PRAGMA integrity_check");
    while (sound.executeStep())
      if (const std::string said = sound.getColumn(0).getString(); said != "ok")
        troubles.push_back("Database: " + said + ".");
    const auto lacking = lackingTables(*impl_->database);
    troubles.insert(troubles.end(), lacking.begin(), lacking.end());
    if (!lacking.empty()) return troubles;  // nothing else can be asked of it
    auto kept = keptFiles();
    if (!kept) return fail(kept.error());
    std::set<std::string> media, mails;
    for (const KeptFile& k : *kept) {
      const std::string folder = k.file.parent_path().filename().string();
      if (folder == "media")
        media.insert({k.file.filename().string(), footage::uprightFile(k.file).filename().string()});
      if (folder == "mail") mails.insert(k.file.filename().string());
      std::error_code error;
      const auto hash = k.hash.empty() ? Result<std::string>(std::string()) : contentHash(k.file);
      if (!hash || !fs::exists(k.file, error))
        troubles.push_back(k.what + " is missing.");
      else if (*hash != k.hash)
        troubles.push_back(k.what + " has changed since it was sent.");
    }
    addStrays(impl_->folder / "media", media, "submission", troubles);
    addStrays(impl_->folder / "mail", mails, "message", troubles);
    return troubles;
  });
}

namespace {

// What both kinds of removal share: files and rows that go with these submissions and messages.
void addFiles(Library::Removal& r, Library::Impl& impl, const std::vector<Submission>& all,
              const std::vector<Message>& messages, const std::vector<Outgoing>& outgoing) {
  const auto goes = [&](const Submission& s) {
    return std::find(r.submissions.begin(), r.submissions.end(), s.id) != r.submissions.end();
  };
  std::set<std::string> clips, elsewhere;
  std::error_code error;
  std::size_t replies = 0;
  for (const Submission& s : all) {
    if (!s.clip_hash.empty()) (goes(s) ? clips : elsewhere).insert(s.clip_hash);
    if (!goes(s)) continue;
    const fs::path reply = impl.folder / "replies" / std::to_string(s.id.number);
    if (fs::exists(reply, error)) {
      r.files.push_back(reply);
      ++replies;
    }
    const fs::path takes = impl.folder / "takes" / std::to_string(s.id.number);
    if (fs::exists(takes, error)) r.files.push_back(takes);
  }
  // A film goes with the last row that holds it, under every name it was ever kept by: the same film came as IMG.MOV
  // and as img.mov.
  for (const auto& entry : fs::directory_iterator(impl.folder / "media", error)) {
    const std::string name = entry.path().filename().string(), hash = name.substr(0, name.find('.'));
    if (clips.count(hash) && !elsewhere.count(hash)) r.files.push_back(entry.path());
  }
  for (const std::string& hash : clips)
    if (!elsewhere.count(hash)) {
      r.clips.push_back(hash);
      const fs::path picture = impl.folder / "pictures" / (hash + ".png");
      if (fs::exists(picture, error)) r.files.push_back(picture);
    }
  const auto in_the_inbox = impl.inboxByContent();
  std::vector<MessageId> going;
  for (const Message& m : messages) going.push_back(m.id);
  for (const Message& m : messages) {
    // Two messages of equal words share one file.
    if (!impl.heldByOthers(m.original, going)) r.files.push_back(impl.mailFile(m.original));
    const auto [first, last] = in_the_inbox.equal_range(m.original);
    for (auto it = first; it != last; ++it) r.files.push_back(it->second);
  }
  for (const Outgoing& o : outgoing) {
    r.outgoing.push_back(o.id);
    r.files.push_back(impl.folder / "outbox" / o.file);
    r.files.push_back(impl.folder / "outbox" / "taken-back" / o.file);
  }
  std::size_t copies = 0;
  for (const auto& entry : fs::directory_iterator(impl.folder, error))
    if (entry.path().filename().string().starts_with("library.sqlite.before-")) {
      r.files.push_back(entry.path());
      ++copies;
    }
  const auto line = [&](std::size_t n, const char* one, const char* many) {
    if (n > 0) r.lines.push_back(counted(n, one, many));
  };
  line(r.submissions.size(), "submission, with its review, its tracking and what was found",
       "submissions, with their reviews, tracings and what was found");
  line(r.clips.size(), "film", "films");
  line(clips.size() - r.clips.size(), "clip stays, as another submission holds it too",
       "clips stay, as other submissions hold them too");
  line(messages.size(), "message, as it came", "messages, as they came");
  line(replies, "reply, with its clip, stills and report", "replies, with their clips, stills and reports");
  line(outgoing.size(), "letter or reply in the outbox or sent from it",
       "letters and replies in the outbox or sent from it");
  line(copies, "copy of the database made before an update", "copies of the database made before updates");
}

}  // namespace

Result<Library::Removal> Library::removalOf(AthleteId id) {
  auto who = athlete(id);
  if (!who) return fail(who.error());
  auto all = submissions();
  if (!all) return fail(all.error());
  auto mails = messages(id);
  if (!mails) return fail(mails.error());
  auto sent = outgoing();
  if (!sent) return fail(sent.error());
  auto known = addresses(id);
  if (!known) return fail(known.error());
  auto asked = threads(id);
  if (!asked) return fail(asked.error());
  Removal r;
  r.athlete = id;
  for (const Submission& s : *all)
    if (s.athlete == id) r.submissions.push_back(s.id);
  for (const Message& m : *mails) r.messages.push_back(m.id);
  std::erase_if(*sent, [&](const Outgoing& o) {
    return o.athlete != id && std::find(known->begin(), known->end(), o.to_address) == known->end();
  });
  r.lines.push_back(who->name + ": name, notes, profile" +
                    (known->empty() ? "" : " and " + counted(known->size(), "address", "addresses")));
  addFiles(r, *impl_, *all, *mails, *sent);
  if (!asked->empty()) r.lines.push_back(counted(asked->size(), "thing", "things") + " asked, and how they went on");
  return r;
}

Result<Library::Removal> Library::removalOf(SubmissionId id) {
  auto one = submission(id);
  if (!one) return fail(one.error());
  auto all = submissions();
  if (!all) return fail(all.error());
  auto sent = outgoing();
  if (!sent) return fail(sent.error());
  Removal r;
  r.submissions.push_back(id);
  std::vector<Message> mails;
  // The message goes along when nothing else came with it.
  const bool shared = std::any_of(all->begin(), all->end(), [&](const Submission& s) {
    return s.id != id && one->message_id && s.message_id == one->message_id;
  });
  if (one->message_id && !shared) {
    auto m = message(*one->message_id);
    if (!m) return fail(m.error());
    // And what its thread holds that has no row of its own: the words a film was waited for with.
    auto others = thread(m->athlete, m->thread);
    if (!others) return fail(others.error());
    mails.push_back(std::move(*m));
    for (Message& other : *others) {
      const bool has_row = std::any_of(all->begin(), all->end(),
                                       [&](const Submission& s) { return s.message_id && *s.message_id == other.id; });
      if (!has_row && other.id != mails.front().id) mails.push_back(std::move(other));
    }
    for (const Message& gone : mails) r.messages.push_back(gone.id);
  }
  std::erase_if(*sent, [&](const Outgoing& o) { return o.submission != id; });
  addFiles(r, *impl_, *all, mails, *sent);
  if (shared) r.lines.push_back("The message stays: other clips came with it.");
  auto asked = threads(one->athlete);
  if (!asked) return fail(asked.error());
  const auto n = std::count_if(asked->begin(), asked->end(), [&](const CueThread& t) { return t.asked_in == id; });
  if (n > 0) r.lines.push_back(counted(static_cast<std::size_t>(n), "thing", "things") + " asked in its reply");
  return r;
}

std::multimap<std::string, fs::path> Library::Impl::inboxByContent() const {
  std::multimap<std::string, fs::path> all;
  std::error_code error;
  for (const char* part : {"new", "cur"})
    for (const auto& entry : fs::directory_iterator(folder / "inbox" / part, error))
      if (auto hash = contentHash(entry.path())) all.emplace(*hash, entry.path());
  return all;
}

bool Library::Impl::heldByOthers(const std::string& original, const std::vector<MessageId>& going) {
  SQLite::Statement s(*database, "SELECT id FROM message WHERE original = ?");
  s.bind(1, original);
  while (s.executeStep())
    if (std::find(going.begin(), going.end(), MessageId(s.getColumn(0).getInt64())) == going.end()) return true;
  return false;
}

void Library::Impl::forgetClip(const std::string& hash) {
  for (const char* table : {"clip_check", "clip_pulse", "clip_attempt"}) {
    SQLite::Statement s(*database, std::string("DELETE FROM ") + table + " WHERE clip_hash = ?");
    s.bind(1, hash);
    s.exec();
  }
}

void Library::Impl::doom(const fs::path& file) {
  if (!file.has_filename()) return;  // a row without a file's name must not take the whole folder along
  SQLite::Statement s(*database, "INSERT OR IGNORE INTO doomed(file) VALUES(?)");
  s.bind(1, file.lexically_relative(folder).string());
  s.exec();
}

Result<Library::Removal> Library::remove(const Removal& announced) {
  auto forgotten = impl_->guarded([&]() -> Result<Removal> {
    SQLite::Database& db = *impl_->database;
    SQLite::Transaction whole(db, SQLite::TransactionBehavior::IMMEDIATE);
    JIB_ASSERT(announced.athlete || !announced.submissions.empty());
    auto what = announced.athlete ? removalOf(*announced.athlete) : removalOf(announced.submissions.front());
    if (!what) return what;
    const auto each = [&](const char* sql, std::int64_t id) {
      SQLite::Statement s(db, sql);
      s.bind(1, id);
      s.exec();
    };
    // The names of the files first: what is not gone from the disk when the program dies is gone at the next start.
    for (const fs::path& file : what->files) impl_->doom(file);
    for (const OutgoingId id : what->outgoing) each("DELETE FROM outgoing WHERE id = ?", id.number);
    for (const SubmissionId id : what->submissions) {
      // What it told of things asked elsewhere was measured in it.
      each(
          "UPDATE cue_thread SET value_now = NULL, sigma_now = NULL, measured_in = NULL, measured_on = '', "
          "state = CASE WHEN state IN ('dropped', 'paused') THEN state ELSE 'asked' END, seen = '{}' WHERE measured_in "
          "= ?",
          id.number);
      each("DELETE FROM submission WHERE id = ?", id.number);
    }
    for (const MessageId id : what->messages) each("DELETE FROM message WHERE id = ?", id.number);
    for (const std::string& hash : what->clips) impl_->forgetClip(hash);
    if (what->athlete) each("DELETE FROM athlete WHERE id = ?", what->athlete->number);
    whole.commit();
    return what;
  });
  if (forgotten) impl_->forgetDoomed();
  return forgotten;
}

void Library::Impl::forgetDoomed() {
  auto done = guarded([&]() -> Result<bool> {
    std::vector<std::string> files;
    {
      SQLite::Statement s(*database, "SELECT file FROM doomed");
      while (s.executeStep()) files.push_back(s.getColumn(0).getString());
    }
    if (files.empty()) return true;
    for (const std::string& file : files) {
      // A library may have come from somebody else: nothing outside of it is removed on its word. Where its films lie
      // on another disk, by a link, only what is called after its content goes there.
      std::error_code error;
      const fs::path place = inside(file);
      if (!place.empty() && (isInside(folder, place.parent_path() / "x") || isCalledAfterContent(place)))
        fs::remove_all(place, error);
      if (error) continue;  // tried again at the next start
      SQLite::Statement s(*database, "DELETE FROM doomed WHERE file = ?");
      s.bind(1, file);
      s.exec();
    }
    // The write-ahead log still holds the rows as they were.
    database->exec("PRAGMA wal_checkpoint(TRUNCATE)");
    return true;
  });
  (void)done;
}

}  // namespace jib::library
