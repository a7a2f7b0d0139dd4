// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/library.h"

#include <SQLiteCpp/SQLiteCpp.h>

#include <array>

#include "core/library/library_impl.h"
#include "core/library/review_store.h"
#include "core/library/schema.h"

namespace jib::library {
namespace fs = std::filesystem;

namespace {

template <class State, std::size_t n>
State stateNamed(const std::string& name, const std::array<State, n>& all) {
  for (State s : all)
    if (nameOf(s) == name) return s;
  return all.front();
}

constexpr std::array kSubmissionStates{
    SubmissionState::New,      SubmissionState::NeedsVideo,   SubmissionState::InReview, SubmissionState::CarriedOver,
    SubmissionState::Returned, SubmissionState::AwaitingFilm, SubmissionState::Skipped};
constexpr std::array kThreadStates{ThreadState::Asked, ThreadState::Better, ThreadState::Met, ThreadState::NotYet,
                                   ThreadState::Dropped};

std::optional<double> realOr(const SQLite::Column& column) {
  return column.isNull() ? std::nullopt : std::optional(column.getDouble());
}

void bindOr(SQLite::Statement& s, int at, const std::optional<double>& value) {
  if (value)
    s.bind(at, *value);
  else
    s.bind(at);
}

template <class Id>
void bindIdOr(SQLite::Statement& s, int at, const std::optional<Id>& id) {
  if (id)
    s.bind(at, id->number);
  else
    s.bind(at);
}

constexpr const char* kSubmissionColumns =
    "id, athlete, received_on, message, lift, variant, load_kg, plate_mm, slow_factor, clip_name, clip_hash, state, "
    "message_id, reason, pair, details";

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

CueThread threadFrom(SQLite::Statement& s) {
  CueThread t;
  t.id = CueThreadId(s.getColumn(0).getInt64());
  t.athlete = AthleteId(s.getColumn(1).getInt64());
  t.asked_in = SubmissionId(s.getColumn(2).getInt64());
  t.asked_on = s.getColumn(3).getString();
  t.review_on = s.getColumn(4).getString();
  t.finding = s.getColumn(5).getString();
  t.title = s.getColumn(6).getString();
  t.wording = s.getColumn(7).getString();
  t.measure = s.getColumn(8).getString();
  t.value_then = s.getColumn(9).getDouble();
  t.sigma_then = s.getColumn(10).getDouble();
  t.value_now = realOr(s.getColumn(11));
  t.sigma_now = realOr(s.getColumn(12));
  if (!s.getColumn(13).isNull()) t.measured_in = SubmissionId(s.getColumn(13).getInt64());
  t.measured_on = s.getColumn(14).getString();
  t.state = stateNamed(s.getColumn(15).getString(), kThreadStates);
  return t;
}

void bindThreadNow(SQLite::Statement& s, int at, const CueThread& t) {
  bindOr(s, at, t.value_now);
  bindOr(s, at + 1, t.sigma_now);
  if (t.measured_in)
    s.bind(at + 2, t.measured_in->number);
  else
    s.bind(at + 2);
  s.bind(at + 3, t.measured_on);
  s.bind(at + 4, std::string(nameOf(t.state)));
}

}  // namespace

SubmissionId Library::Impl::insert(const Submission& submission) {
  SQLite::Statement s(*database,
                      "INSERT INTO submission(athlete, received_on, message, lift, variant, load_kg, plate_mm, "
                      "slow_factor, clip_name, clip_hash, state, message_id, reason, pair, details) "
                      "VALUES(?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
  bindSubmission(s, submission);
  s.exec();
  return SubmissionId(database->getLastInsertRowid());
}

Library::Library(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Library::Library(Library&&) noexcept = default;
Library& Library::operator=(Library&&) noexcept = default;
Library::~Library() = default;

Result<Library> Library::open(const fs::path& folder, FileSystem& disk) {
  auto impl = std::make_unique<Impl>();
  impl->folder = folder;
  impl->disk = &disk;
  std::error_code error;
  fs::create_directories(folder / "media", error);
  if (error)
    return fail(ErrorCode::CannotWrite,
                "The library folder " + folder.string() + " cannot be made: " + error.message() + ".",
                "Choose another folder.");
  const fs::path file = folder / "library.sqlite";
  try {
    impl->database =
        std::make_unique<SQLite::Database>(file.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE, 5000);
    SQLite::Database& db = *impl->database;
    db.exec("PRAGMA journal_mode = WAL");
    db.exec("PRAGMA synchronous = FULL");
    db.exec("PRAGMA foreign_keys = ON");
    const int schema = db.execAndGet("PRAGMA user_version").getInt();
    if (schema > kSchema)
      return fail(ErrorCode::CannotRead, "This library was written by a newer Jagged Jib.",
                  "Open it with that version.");
    if (const std::string sound = db.execAndGet("PRAGMA quick_check").getString(); sound != "ok")
      return fail(ErrorCode::CannotRead, "The library is damaged: " + sound + ".",
                  "Put back the copy that lies beside it (library.sqlite.before-*), or your own backup.");
    if (schema > 0 && schema < kSchema) {
      // VACUUM INTO writes one whole file, with what still lies in the write-ahead log.
      const fs::path copy = folder / ("library.sqlite.before-" + std::to_string(kSchema));
      fs::remove(copy, error);
      SQLite::Statement(db, "VACUUM INTO '" + copy.string() + "'").exec();
    }
    migrate(db, schema, kSchema);
  } catch (const SQLite::Exception& e) {
    return fail(ErrorCode::CannotRead, file.string() + " cannot be opened as a library: " + e.what() + ".",
                "Choose another folder, or put back a copy.");
  }
  return Library(std::move(impl));
}

const fs::path& Library::folder() const {
  return impl_->folder;
}

Result<AthleteId> Library::addAthlete(const Athlete& a) {
  return impl_->guarded([&]() -> Result<AthleteId> {
    SQLite::Statement s(*impl_->database, "INSERT INTO athlete(name, note, style, profile) VALUES(?, ?, ?, ?)");
    s.bind(1, a.name);
    s.bind(2, a.note);
    s.bind(3, a.style);
    s.bind(4, profileToJson(a.profile));
    s.exec();
    return AthleteId(impl_->database->getLastInsertRowid());
  });
}

Result<bool> Library::updateAthlete(const Athlete& a) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database, "UPDATE athlete SET name = ?, note = ?, style = ?, profile = ? WHERE id = ?");
    s.bind(1, a.name);
    s.bind(2, a.note);
    s.bind(3, a.style);
    s.bind(4, profileToJson(a.profile));
    s.bind(5, a.id.number);
    return s.exec() == 1;
  });
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

Result<bool> Library::removeAthlete(AthleteId id) {
  return impl_->guarded([&]() -> Result<bool> {
    auto mine = submissions();
    if (!mine) return fail(mine.error());
    auto mails = messages(id);
    if (!mails) return fail(mails.error());
    SQLite::Statement s(*impl_->database, "DELETE FROM athlete WHERE id = ?");
    s.bind(1, id.number);
    s.exec();
    for (const Submission& gone : *mine) {
      if (gone.athlete != id || gone.clip_hash.empty()) continue;
      SQLite::Statement others(*impl_->database, "SELECT count(*) FROM submission WHERE clip_hash = ?");
      others.bind(1, gone.clip_hash);
      others.executeStep();
      if (others.getColumn(0).getInt() > 0) continue;
      impl_->disk->remove(clipFile(gone));
      SQLite::Statement check(*impl_->database, "DELETE FROM clip_check WHERE clip_hash = ?");
      check.bind(1, gone.clip_hash);
      check.exec();
    }
    for (const Message& m : *mails) impl_->disk->remove(impl_->mailFile(m.original));
    return true;
  });
}

Result<SubmissionId> Library::addSubmission(Submission submission, const fs::path& clip, Task& task) {
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
    const SubmissionId id = impl_->insert(submission);
    task.report(1);
    return id;
  });
}

Result<bool> Library::updateSubmission(const Submission& submission) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database,
                        "UPDATE submission SET athlete=?, received_on=?, message=?, lift=?, variant=?, load_kg=?, "
                        "plate_mm=?, slow_factor=?, clip_name=?, clip_hash=?, state=?, message_id=?, reason=?, pair=?, "
                        "details=? WHERE id=?");
    bindSubmission(s, submission);
    s.bind(16, submission.id.number);
    return s.exec() == 1;
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
    SQLite::Statement s(*impl_->database,
                        std::string("SELECT ") + kSubmissionColumns + " FROM submission WHERE id = ?");
    s.bind(1, id.number);
    if (!s.executeStep())
      return fail(ErrorCode::CannotRead, "That submission is not in the library.", "Refresh the list.");
    return submissionFrom(s);
  });
}

fs::path Library::clipFile(const Submission& submission) const {
  return impl_->mediaFile(submission.clip_hash, submission.clip_name);
}

Result<bool> Library::saveReview(SubmissionId id, const Review& review) {
  return impl_->guarded([&]() -> Result<bool> {
    impl_->setJson("review", id, reviewToJson(review));
    return true;
  });
}

Result<Review> Library::review(SubmissionId id) {
  return impl_->guarded([&]() -> Result<Review> {
    const std::string json = impl_->json("review", id);
    return json.empty() ? Result<Review>(Review{}) : reviewFromJson(json);
  });
}

Result<bool> Library::saveTracing(SubmissionId id, std::string_view json) {
  return impl_->guarded([&]() -> Result<bool> {
    impl_->setJson("tracing", id, json);
    return true;
  });
}

Result<std::string> Library::tracing(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::string> { return impl_->json("tracing", id); });
}

Result<bool> Library::recordReply(SubmissionId id, const std::vector<CueThread>& threads) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database);
    SQLite::Statement state(*impl_->database, "UPDATE submission SET state = ? WHERE id = ?");
    state.bind(1, std::string(nameOf(SubmissionState::Returned)));
    state.bind(2, id.number);
    state.exec();
    // Returning a reply again replaces what it asked the first time.
    SQLite::Statement old(*impl_->database, "DELETE FROM cue_thread WHERE asked_in = ?");
    old.bind(1, id.number);
    old.exec();
    for (const CueThread& t : threads) {
      SQLite::Statement s(*impl_->database,
                          "INSERT INTO cue_thread(athlete, asked_in, asked_on, review_on, finding, title, wording, "
                          "measure, value_then, sigma_then, value_now, sigma_now, measured_in, measured_on, state) "
                          "VALUES(?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
      s.bind(1, t.athlete.number);
      s.bind(2, id.number);
      s.bind(3, t.asked_on);
      s.bind(4, t.review_on);
      s.bind(5, t.finding);
      s.bind(6, t.title);
      s.bind(7, t.wording);
      s.bind(8, t.measure);
      s.bind(9, t.value_then);
      s.bind(10, t.sigma_then);
      bindThreadNow(s, 11, t);
      s.exec();
    }
    whole.commit();
    return true;
  });
}

Result<std::vector<CueThread>> Library::threads(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<CueThread>> {
    std::vector<CueThread> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT id, athlete, asked_in, asked_on, review_on, finding, title, wording, measure, "
                        "value_then, sigma_then, value_now, sigma_now, measured_in, measured_on, state "
                        "FROM cue_thread WHERE athlete = ? ORDER BY asked_on DESC, id DESC");
    s.bind(1, athlete.number);
    while (s.executeStep()) all.push_back(threadFrom(s));
    return all;
  });
}

Result<bool> Library::updateThread(const CueThread& t) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(
        *impl_->database,
        "UPDATE cue_thread SET value_now=?, sigma_now=?, measured_in=?, measured_on=?, state=? WHERE id=?");
    bindThreadNow(s, 1, t);
    s.bind(6, t.id.number);
    return s.exec() == 1;
  });
}

Result<std::vector<std::string>> Library::check() {
  return impl_->guarded([&]() -> Result<std::vector<std::string>> {
    std::vector<std::string> troubles;
    SQLite::Statement sound(*impl_->database, "PRAGMA integrity_check");
    while (sound.executeStep())
      if (const std::string said = sound.getColumn(0).getString(); said != "ok")
        troubles.push_back("Database: " + said + ".");
    auto all = submissions();
    if (!all) return fail(all.error());
    for (const Submission& s : *all) {
      if (s.clip_hash.empty()) continue;  // none came
      const auto hash = contentHash(clipFile(s));
      if (!hash)
        troubles.push_back("The clip " + s.clip_name + " of " + s.received_on + " is missing.");
      else if (*hash != s.clip_hash)
        troubles.push_back("The clip " + s.clip_name + " of " + s.received_on + " is not what was sent.");
    }
    return troubles;
  });
}

}  // namespace jib::library
