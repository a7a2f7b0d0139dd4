// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/library.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <signal.h>

#include <array>

#include "core/base/folder_lock.h"
#include "core/base/staging_folder.h"
#include "core/library/library_impl.h"
#include "core/library/review_store.h"
#include "core/library/schema.h"

namespace jib::library {
namespace fs = std::filesystem;

namespace {

constexpr std::array kSubmissionStates{
    SubmissionState::New,      SubmissionState::NeedsVideo,   SubmissionState::InReview, SubmissionState::CarriedOver,
    SubmissionState::Returned, SubmissionState::AwaitingFilm, SubmissionState::Skipped};
constexpr std::array kKinds{SubmissionKind::Clip, SubmissionKind::Note, SubmissionKind::Question};

constexpr const char* kSubmissionColumns =
    "id, athlete, received_on, message, lift, variant, load_kg, plate_mm, slow_factor, clip_name, clip_hash, state, "
    "message_id, reason, pair, details, kind";

Submission submissionFrom(SQLite::Statement& s) {
  Submission out;
  out.id = SubmissionId(s.getColumn(0).getInt64());
  out.athlete = AthleteId(s.getColumn(1).getInt64());
  out.received_on = s.getColumn(2).getString();
  out.message = s.getColumn(3).getString();
  out.lift = s.getColumn(4).getString();
  out.variant = s.getColumn(5).getString();
  out.load_kg = realOr(s.getColumn(6));
  out.plate_mm = s.getColumn(7).getDouble();
  out.slow_factor = s.getColumn(8).getDouble();
  out.clip_name = s.getColumn(9).getString();
  out.clip_hash = s.getColumn(10).getString();
  out.state = stateNamed(s.getColumn(11).getString(), kSubmissionStates);
  if (!s.getColumn(12).isNull()) out.message_id = MessageId(s.getColumn(12).getInt64());
  out.reason = s.getColumn(13).getString();
  if (!s.getColumn(14).isNull()) out.pair = SubmissionId(s.getColumn(14).getInt64());
  out.details = detailsFromJson(s.getColumn(15).getString());
  out.kind = stateNamed(s.getColumn(16).getString(), kKinds);
  return out;
}

void bindSubmission(SQLite::Statement& s, const Submission& in) {
  s.bind(1, in.athlete.number);
  s.bind(2, in.received_on);
  s.bind(3, in.message);
  s.bind(4, in.lift);
  s.bind(5, in.variant);
  bindOr(s, 6, in.load_kg);
  s.bind(7, in.plate_mm);
  s.bind(8, in.slow_factor);
  s.bind(9, in.clip_name);
  s.bind(10, in.clip_hash);
  s.bind(11, std::string(nameOf(in.state)));
  bindIdOr(s, 12, in.message_id);
  s.bind(13, in.reason);
  bindIdOr(s, 14, in.pair);
  s.bind(15, detailsToJson(in.details));
  s.bind(16, std::string(nameOf(in.kind)));
}

Athlete athleteFrom(SQLite::Statement& s) {
  Athlete a;
  a.id = AthleteId(s.getColumn(0).getInt64());
  a.name = s.getColumn(1).getString();
  a.note = s.getColumn(2).getString();
  a.style = s.getColumn(3).getString();
  a.profile = profileFromJson(s.getColumn(4).getString());
  return a;
}

}  // namespace

// An athlete lifts the same plates from clip to clip: what was told of the one before holds until something else is.
double Library::Impl::plateOf(AthleteId athlete) {
  SQLite::Statement s(*database, "SELECT plate_mm FROM submission WHERE athlete = ? ORDER BY id DESC LIMIT 1");
  s.bind(1, athlete.number);
  return s.executeStep() ? s.getColumn(0).getDouble() : Submission().plate_mm;
}

SubmissionId Library::Impl::insert(Submission submission) {
  if (submission.plate_mm == Submission().plate_mm) submission.plate_mm = plateOf(submission.athlete);
  SQLite::Statement s(*database,
                      "INSERT INTO submission(athlete, received_on, message, lift, variant, load_kg, plate_mm, "
                      "slow_factor, clip_name, clip_hash, state, message_id, reason, pair, details, kind) "
                      "VALUES(?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
  bindSubmission(s, submission);
  s.exec();
  return SubmissionId(database->getLastInsertRowid());
}

namespace {

bool soundSchema(SQLite::Database& db, int& schema, Result<bool>& verdict) {
  schema = db.execAndGet("PRAGMA user_version").getInt();
  if (schema > Library::kSchema) {
    verdict =
        fail(ErrorCode::CannotRead, "This library was written by a newer Jagged Jib.", "Open it with that version.");
    return false;
  }
  if (const std::string sound = db.execAndGet("PRAGMA quick_check").getString(); sound != "ok") {
    verdict = fail(ErrorCode::CannotRead, "The library is damaged: " + sound + ".",
                   "Put back the copy that lies beside it (library.sqlite.before-*), or your own backup.");
    return false;
  }
  return true;
}

// A library made by an older version, or copied from somewhere, may stand open to other accounts: all of it is closed
// once, before anything else happens.
void closeToOthers(const fs::path& folder) {
  std::error_code error;
  const auto others = fs::perms::group_all | fs::perms::others_all;
  if (!fs::is_directory(folder, error) || (fs::status(folder, error).permissions() & others) == fs::perms::none) return;
  makePrivate(folder);
  for (auto it = fs::recursive_directory_iterator(folder, error); it != fs::recursive_directory_iterator();
       it.increment(error)) {
    if (error) break;
    makePrivate(it->path());
  }
}

// Half-kept files of programs that are no longer there (library_impl.h names them after the program).
void sweepParts(const fs::path& folder, const std::set<std::string>& listed) {
  std::error_code error;
  for (const char* part : {"media", "mail", "outbox"})
    for (const auto& entry : fs::directory_iterator(folder / part, error)) {
      if (entry.path().extension() != ".part") continue;
      const fs::path stem = entry.path().stem();
      const int program = std::atoi(stem.extension().string().substr(stem.has_extension() ? 1 : 0).c_str());
      if (program <= 0 || ::kill(program, 0) == 0 || errno != ESRCH) continue;
      // A letter that is listed was written whole, and only its name was still to come.
      const fs::path letter = folder / part / stem.stem();
      std::error_code ignored;
      if (listed.count(letter.filename().string()) && !fs::exists(letter, ignored))
        fs::rename(entry.path(), letter, ignored);
      else
        fs::remove(entry.path(), ignored);
    }
  // Replies that were being written by a program that was killed.
  for (const auto& entry : fs::directory_iterator(folder / "replies", error)) {
    std::error_code ignored;
    for (const auto& inner : fs::directory_iterator(entry.path(), ignored)) {
      const fs::path name = inner.path().filename();
      const int program = std::atoi(name.extension().string().substr(name.has_extension() ? 1 : 0).c_str());
      const bool unfinished = name.stem() == ".unfinished" || name == ".unfinished";
      if (unfinished && (program <= 0 || (::kill(program, 0) != 0 && errno == ESRCH)))
        fs::remove_all(inner.path(), ignored);
    }
  }
}

// A database of no length is what a power cut or a folder kept in step with another machine can leave. It is a new
// library only where nothing else lies beside it.
Result<bool> notEmptied(const fs::path& folder, SQLite::Database& db) {
  if (db.execAndGet("SELECT count(*) FROM sqlite_master").getInt() > 0) return true;
  std::error_code error;
  bool holds = false;
  for (const char* part : {"media", "mail", "replies", "outbox"})
    for (fs::recursive_directory_iterator it(folder / part, error), end; !error && it != end; it.increment(error))
      holds |= it->is_regular_file(error);
  if (!holds) return true;
  std::string copies;
  for (const auto& entry : fs::directory_iterator(folder, error))
    if (const std::string name = entry.path().filename().string(); name.starts_with("library.sqlite.before-"))
      copies += (copies.empty() ? "" : ", ") + name;
  return fail(ErrorCode::CannotRead, "The database of this library is empty, but its clips and mails are there.",
              copies.empty() ? "Restore your last backup into another folder; nothing here was changed."
                             : "Put back the copy that lies beside it (" + copies +
                                   ") as library.sqlite, or restore your last backup; nothing here was changed.");
}

void keepSafe(SQLite::Database& db) {
  db.exec("PRAGMA synchronous = FULL");
  db.exec("PRAGMA foreign_keys = ON");
  // What is deleted is overwritten: it came from people who may ask for that.
  db.exec("PRAGMA secure_delete = ON");
}

Result<bool> openForWriting(Library::Impl& impl) {
  const fs::path file = impl.folder / "library.sqlite";
  // One program at a time makes, turns to write-ahead logging and migrates: SQLite does not wait for its busy timeout
  // where two do the second of these at once. A folder that takes no lock file takes no library either, and says so
  // below.
  Task waiting;
  const auto alone = FolderLock::take(impl.folder / "open.lock", waiting);
  try {
    const bool fresh = !Library::isIn(impl.folder);
    impl.database = std::make_unique<SQLite::Database>(
        file.string(), SQLite::OPEN_READWRITE | (fresh ? SQLite::OPEN_CREATE : 0), 5000);
    SQLite::Database& db = *impl.database;
    // SQLite's own side files take after it.
    makePrivate(file);
    if (auto whole = notEmptied(impl.folder, db); !whole) {
      impl.database.reset();
      std::error_code error;
      if (fresh) fs::remove(file, error);
      return whole;
    }
    db.exec("PRAGMA journal_mode = WAL");
    keepSafe(db);
    int schema = 0;
    Result<bool> verdict = true;
    if (!soundSchema(db, schema, verdict)) return verdict;
    if (schema > 0 && schema < Library::kSchema) {
      // VACUUM INTO writes one whole file, with what still lies in the write-ahead log.
      const fs::path copy = impl.folder / ("library.sqlite.before-" + std::to_string(Library::kSchema));
      std::error_code error;
      fs::remove(copy, error);
      SQLite::Statement whole(db, "VACUUM INTO ?");
      whole.bind(1, copy.string());
      whole.exec();
      makePrivate(copy);
    }
    migrate(db, schema, Library::kSchema);
    // A first write shows now, not in the middle of a review, whether the disk takes any.
    db.exec("BEGIN IMMEDIATE; PRAGMA user_version = " + std::to_string(Library::kSchema) + "; COMMIT");
  } catch (const SQLite::Exception& e) {
    const bool disk = cannotBeWritten(e);
    return fail(disk ? ErrorCode::CannotWrite : ErrorCode::CannotRead,
                file.string() + " can't be opened as a library: " + e.what() + ".",
                disk ? "Free some space on the disk, or check that its folder may be written to."
                     : "Check that this is the right folder; if it is, restore your last backup.");
  }
  return true;
}

std::string escapedForUri(const std::string& path) {
  std::string out;
  for (const char c : path) {
    if (c == '%' || c == '?' || c == '#')
      out += c == '%' ? "%25" : c == '?' ? "%3f" : "%23";
    else
      out += c;
  }
  return out;
}

// Where SQLite can make no files beside the database it cannot read its write-ahead log either: then a copy of both is
// read, elsewhere.
Result<bool> openForReading(Library::Impl& impl, const Error& why) {
  const fs::path file = impl.folder / "library.sqlite";
  try {
    impl.database.reset();
    std::string name = (fs::temp_directory_path() / "jagged-jib-reading-XXXXXX").string();
    std::error_code error;
    fs::path to_read = file;
    if (mkdtemp(name.data())) {
      impl.reading_copy = name;
      to_read = fs::path(name) / "library.sqlite";
      fs::copy_file(file, to_read, error);
      if (!error && fs::exists(file.string() + "-wal"))
        fs::copy_file(file.string() + "-wal", to_read.string() + "-wal", error);
      if (error) to_read = file;
    }
    if (to_read == file) {
      impl.database = std::make_unique<SQLite::Database>("file:" + escapedForUri(file.string()) + "?immutable=1",
                                                         SQLite::OPEN_READONLY | SQLite::OPEN_URI, 5000);
    } else {
      impl.database = std::make_unique<SQLite::Database>(to_read.string(), SQLite::OPEN_READWRITE, 5000);
      impl.database->exec("PRAGMA journal_mode = MEMORY");
    }
    SQLite::Database& db = *impl.database;
    int schema = 0;
    Result<bool> verdict = true;
    if (!soundSchema(db, schema, verdict)) return verdict;
    if (to_read != file) migrate(db, schema, Library::kSchema);
    if (to_read == file && schema < Library::kSchema) return fail(why);
    db.exec("PRAGMA query_only = ON");
  } catch (const SQLite::Exception&) {
    return fail(why);
  }
  impl.read_only = "Changes can't be saved right now: the disk is full, or the library's folder may not be written to.";
  return true;
}

}  // namespace

Library::Library(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Library::Library(Library&&) noexcept = default;
Library& Library::operator=(Library&&) noexcept = default;
Library::~Library() = default;

bool Library::isIn(const fs::path& folder) {
  std::error_code error;
  return fs::is_regular_file(folder / "library.sqlite", error);
}

Result<Library> Library::open(const fs::path& folder, FileSystem& disk) {
  auto impl = std::make_unique<Impl>();
  impl->folder = folder;
  impl->disk = &disk;
  closeToOthers(folder);
  auto made = makePrivateFolder(folder / "media");
  auto opened = made ? openForWriting(*impl) : Result<bool>(fail(made.error()));
  if (!opened && opened.error().code == ErrorCode::CannotWrite && isIn(folder))
    opened = openForReading(*impl, opened.error());
  if (!opened) return fail(opened.error());
  if (impl->read_only.empty()) {
    impl->forgetDoomed();
    std::set<std::string> listed;
    if (auto letters = impl->letterFiles()) listed = std::move(*letters);
    sweepParts(folder, listed);
    StagingFolder::sweep(folder / "incoming", "backup");
  }
  return Library(std::move(impl));
}

Result<Library> Library::openAgain(const fs::path& folder, FileSystem& disk) {
  auto impl = std::make_unique<Impl>();
  impl->folder = folder;
  impl->disk = &disk;
  try {
    impl->database =
        std::make_unique<SQLite::Database>((folder / "library.sqlite").string(), SQLite::OPEN_READWRITE, 5000);
    keepSafe(*impl->database);
    if (impl->database->execAndGet("PRAGMA user_version").getInt() == kSchema) return Library(std::move(impl));
  } catch (const SQLite::Exception&) {
  }
  return open(folder, disk);  // which knows what to do where it is read-only, older, or not there
}

const std::string& Library::readOnly() const {
  return impl_->read_only;
}

const fs::path& Library::folder() const {
  return impl_->folder;
}

AthleteId Library::Impl::insertAthlete(const Athlete& a) {
  SQLite::Statement s(*database, "INSERT INTO athlete(name, note, style, profile) VALUES(?, ?, ?, ?)");
  s.bind(1, a.name);
  s.bind(2, a.note);
  s.bind(3, a.style);
  s.bind(4, profileToJson(a.profile));
  s.exec();
  return AthleteId(database->getLastInsertRowid());
}

AthleteId Library::Impl::athleteCalled(const std::string& name, const std::string& style) {
  SQLite::Statement s(*database, "SELECT id FROM athlete WHERE name = ? ORDER BY id");
  s.bind(1, name);
  if (s.executeStep()) return AthleteId(s.getColumn(0).getInt64());
  Athlete fresh;
  fresh.name = name;
  fresh.style = style;
  return insertAthlete(fresh);
}

Result<AthleteId> Library::addAthlete(const Athlete& a) {
  return impl_->guarded([&]() -> Result<AthleteId> { return impl_->insertAthlete(a); });
}

Result<Athlete> Library::edit(AthleteId id, const std::function<void(Athlete&)>& change) {
  return impl_->guarded([&]() -> Result<Athlete> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto a = athlete(id);
    if (!a) return a;
    change(*a);
    a->id = id;
    SQLite::Statement s(*impl_->database, "UPDATE athlete SET name = ?, note = ?, style = ?, profile = ? WHERE id = ?");
    s.bind(1, a->name);
    s.bind(2, a->note);
    s.bind(3, a->style);
    s.bind(4, profileToJson(a->profile));
    s.bind(5, id.number);
    s.exec();
    whole.commit();
    return a;
  });
}

Result<Submission> Library::edit(SubmissionId id, const std::function<void(Submission&)>& change) {
  return impl_->guarded([&]() -> Result<Submission> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto row = impl_->find(id);
    if (!row) return deletedMeanwhile();
    change(*row);
    row->id = id;
    impl_->update(*row);
    whole.commit();
    return *row;
  });
}

void Library::Impl::update(const Submission& submission) {
  SQLite::Statement s(*database,
                      "UPDATE submission SET athlete=?, received_on=?, message=?, lift=?, variant=?, load_kg=?, "
                      "plate_mm=?, slow_factor=?, clip_name=?, clip_hash=?, state=?, message_id=?, reason=?, pair=?, "
                      "details=?, kind=? WHERE id=?");
  bindSubmission(s, submission);
  s.bind(17, submission.id.number);
  s.exec();
}

std::optional<Submission> Library::Impl::find(SubmissionId id) {
  SQLite::Statement s(*database, std::string("SELECT ") + kSubmissionColumns + " FROM submission WHERE id = ?");
  s.bind(1, id.number);
  return s.executeStep() ? std::optional(submissionFrom(s)) : std::nullopt;
}

Result<std::vector<Athlete>> Library::athletes() {
  return impl_->guarded([&]() -> Result<std::vector<Athlete>> {
    std::vector<Athlete> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT id, name, note, style, profile FROM athlete ORDER BY name COLLATE NOCASE");
    while (s.executeStep()) all.push_back(athleteFrom(s));
    return all;
  });
}

Result<Athlete> Library::athlete(AthleteId id) {
  return impl_->guarded([&]() -> Result<Athlete> {
    SQLite::Statement s(*impl_->database, "SELECT id, name, note, style, profile FROM athlete WHERE id = ?");
    s.bind(1, id.number);
    if (!s.executeStep())
      return fail(ErrorCode::CannotRead, "That athlete is not in the library.", "Refresh the list.");
    return athleteFrom(s);
  });
}

Result<SubmissionId> Library::addSubmission(Submission submission, const fs::path& clip, Task& task,
                                            const std::string& athlete_name) {
  auto hash = contentHash(clip);
  if (!hash) return fail(hash.error());
  task.report(0.4);
  if (task.cancelled()) return cancelled();
  submission.clip_hash = *hash;
  if (submission.clip_name.empty()) submission.clip_name = clip.filename().string();
  if (auto kept = impl_->keepClip(clip, *hash, submission.clip_name); !kept) return fail(kept.error());
  task.report(0.9);
  // A clip without a row is harmless and found by the next import of the same film; a row without its clip is not.
  return impl_->guarded([&]() -> Result<SubmissionId> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (submission.athlete.number == 0) {
      auto card = coach();
      if (!card) return fail(card.error());
      submission.athlete = impl_->athleteCalled(athlete_name, card->style);
    }
    const SubmissionId id = impl_->insert(submission);
    whole.commit();
    task.report(1);
    return id;
  });
}

Result<std::vector<Submission>> Library::submissions() {
  return impl_->guarded([&]() -> Result<std::vector<Submission>> {
    std::vector<Submission> all;
    SQLite::Statement s(*impl_->database, std::string("SELECT ") + kSubmissionColumns +
                                              " FROM submission ORDER BY received_on DESC, id DESC");
    while (s.executeStep()) all.push_back(submissionFrom(s));
    return all;
  });
}

Result<std::vector<Submission>> Library::submissionsOf(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<Submission>> {
    std::vector<Submission> all;
    SQLite::Statement s(*impl_->database, std::string("SELECT ") + kSubmissionColumns +
                                              " FROM submission WHERE athlete = ? ORDER BY received_on DESC, id DESC");
    s.bind(1, athlete.number);
    while (s.executeStep()) all.push_back(submissionFrom(s));
    return all;
  });
}

Result<std::vector<Submission>> Library::before(const Submission& now) {
  return impl_->guarded([&]() -> Result<std::vector<Submission>> {
    std::vector<Submission> all;
    SQLite::Statement s(*impl_->database,
                        std::string("SELECT ") + kSubmissionColumns +
                            " FROM submission WHERE athlete = ? AND lift = ? AND (received_on, id) < (?, ?) "
                            "ORDER BY received_on DESC, id DESC");
    s.bind(1, now.athlete.number);
    s.bind(2, now.lift);
    s.bind(3, now.received_on);
    s.bind(4, now.id.number);
    while (s.executeStep()) all.push_back(submissionFrom(s));
    s.reset();
    auto same_set = filmsOfSet(now.id);
    if (!same_set) return fail(same_set.error());
    std::erase_if(all, [&](const Submission& other) {
      return std::any_of(same_set->begin(), same_set->end(), [&](const SetFilm& f) { return f.film.id == other.id; });
    });
    return all;
  });
}

Result<std::optional<Submission>> Library::lastBefore(const Submission& now) {
  return impl_->guarded([&]() -> Result<std::optional<Submission>> {
    SQLite::Statement s(*impl_->database,
                        std::string("SELECT ") + kSubmissionColumns +
                            " FROM submission WHERE athlete = ? AND received_on < ? ORDER BY received_on DESC, id DESC "
                            "LIMIT 1");
    s.bind(1, now.athlete.number);
    s.bind(2, now.received_on);
    if (!s.executeStep()) return std::optional<Submission>();
    return std::optional(submissionFrom(s));
  });
}

Result<std::vector<Submission>> Library::sameDay(const Submission& now) {
  return impl_->guarded([&]() -> Result<std::vector<Submission>> {
    std::vector<Submission> all;
    SQLite::Statement s(*impl_->database,
                        std::string("SELECT ") + kSubmissionColumns +
                            " FROM submission WHERE athlete = ? AND received_on = ? AND lift = ? AND id <> ? AND "
                            "clip_hash <> '' AND clip_hash <> ? ORDER BY id DESC");
    s.bind(1, now.athlete.number);
    s.bind(2, now.received_on);
    s.bind(3, now.lift);
    s.bind(4, now.id.number);
    s.bind(5, now.clip_hash);
    while (s.executeStep()) all.push_back(submissionFrom(s));
    return all;
  });
}

Result<std::vector<Submission>> Library::sameClip(AthleteId athlete, const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<std::vector<Submission>> {
    std::vector<Submission> all;
    SQLite::Statement s(*impl_->database, std::string("SELECT ") + kSubmissionColumns +
                                              " FROM submission WHERE athlete = ? AND clip_hash = ? ORDER BY id");
    s.bind(1, athlete.number);
    s.bind(2, clip_hash);
    while (s.executeStep()) all.push_back(submissionFrom(s));
    return all;
  });
}

Result<Submission> Library::submission(SubmissionId id) {
  return impl_->guarded([&]() -> Result<Submission> {
    auto row = impl_->find(id);
    if (!row) return fail(ErrorCode::CannotRead, "That submission is not in the library.", "Refresh the list.");
    return std::move(*row);
  });
}

fs::path Library::pictureFile(const std::string& clip_hash) const {
  return impl_->folder / "pictures" / (clip_hash + ".png");
}

fs::path Library::clipFile(const Submission& submission) const {
  const fs::path file = impl_->mediaFile(submission.clip_hash, submission.clip_name);
  // Kept by an older version of the program under whatever extension it came with.
  const fs::path old =
      impl_->folder / "media" / (submission.clip_hash + fs::path(submission.clip_name).extension().string());
  std::error_code error;
  return file != old && !fs::exists(file, error) && fs::exists(old, error) ? old : file;
}

}  // namespace jib::library
