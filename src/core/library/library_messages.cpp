// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that keeps what athletes wrote: messages, addresses, clip checks, what was found when.
#include <array>
#include <cmath>
#include <cstring>
#include <nlohmann/json.hpp>

#include "core/library/library_impl.h"

namespace jib::library {
namespace {

using Json = nlohmann::json;

constexpr const char* kMessageColumns =
    "id, key, athlete, from_name, from_address, subject, received_on, body, original, fields, troubles, quoted, "
    "mail_id, "
    "thread, contents, dated";

std::string fieldsToJson(const std::vector<MessageField>& fields) {
  Json all = Json::array();
  for (const MessageField& f : fields)
    all.push_back({{"field", f.field}, {"value", f.value}, {"words", f.words}, {"confirmed", f.confirmed}});
  return all.dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::vector<MessageField> fieldsFromJson(const std::string& text) {
  std::vector<MessageField> fields;
  const Json all = Json::parse(text, nullptr, false);
  if (!all.is_array()) return fields;
  for (const Json& j : all)
    fields.push_back({j.value("field", ""), j.value("value", ""), j.value("words", ""), j.value("confirmed", false)});
  return fields;
}

std::string textsToJson(const std::vector<std::string>& texts) {
  return Json(texts).dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::vector<std::string> textsFromJson(const std::string& json) {
  std::vector<std::string> texts;
  const Json all = Json::parse(json, nullptr, false);
  if (all.is_array())
    for (const Json& t : all)
      if (t.is_string()) texts.push_back(t.get<std::string>());
  return texts;
}

Message messageFrom(SQLite::Statement& s) {
  Message m;
  m.id = MessageId(s.getColumn(0).getInt64());
  m.key = s.getColumn(1).getString();
  m.athlete = AthleteId(s.getColumn(2).getInt64());
  m.from_name = s.getColumn(3).getString();
  m.from_address = s.getColumn(4).getString();
  m.subject = s.getColumn(5).getString();
  m.received_on = s.getColumn(6).getString();
  m.body = s.getColumn(7).getString();
  m.original = s.getColumn(8).getString();
  m.fields = fieldsFromJson(s.getColumn(9).getString());
  m.troubles = textsFromJson(s.getColumn(10).getString());
  m.quoted = s.getColumn(11).getString();
  m.mail_id = s.getColumn(12).getString();
  m.thread = s.getColumn(13).getString();
  m.contents = textsFromJson(s.getColumn(14).getString());
  m.dated = s.getColumn(15).getString();
  return m;
}

// A message that is here already, whichever way it came: by its key, which is made of its bytes or of its words and
// films; a mail that was fetched twice, by its bytes and its Message-ID. What has none is known by its key alone: two
// films without a word have equal words. One kept by an older version of the program was known by its Message-ID.
bool isKnown(SQLite::Database& db, const Message& m) {
  SQLite::Statement s(db,
                      "SELECT 1 FROM message WHERE key = ? OR (original = ? AND mail_id = ? AND mail_id <> '') OR "
                      "(key = mail_id AND key <> '' AND key = ? AND received_on = ? AND subject = ? AND body = ?)");
  int at = 1;
  for (const std::string* text : {&m.key, &m.original, &m.mail_id, &m.mail_id, &m.received_on, &m.subject, &m.body})
    s.bind(at++, *text);
  return s.executeStep();
}

void insertMessage(SQLite::Database& db, const Message& m) {
  SQLite::Statement s(db,
                      "INSERT INTO message(key, athlete, from_name, from_address, subject, received_on, body, "
                      "original, fields, troubles, quoted, mail_id, thread, contents, dated) "
                      "VALUES(?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
  s.bind(1, m.key);
  s.bind(2, m.athlete.number);
  int at = 3;
  for (const std::string& text :
       {m.from_name, m.from_address, m.subject, m.received_on, m.body, m.original, fieldsToJson(m.fields),
        textsToJson(m.troubles), m.quoted, m.mail_id, m.thread, textsToJson(m.contents), m.dated})
    s.bind(at++, text);
  s.exec();
}

}  // namespace

// Whoever writes from the message's address; a new athlete otherwise.
AthleteId Library::Impl::senderOf(const Incoming& in) {
  const std::string& address = in.message.from_address;
  if (!address.empty()) {
    SQLite::Statement known(*database, "SELECT athlete FROM address WHERE address = ?");
    known.bind(1, address);
    if (known.executeStep()) return AthleteId(known.getColumn(0).getInt64());
  }
  if (in.by_name && address.empty()) return athleteCalled(in.athlete_name, in.style);
  Athlete fresh;
  fresh.name = in.athlete_name;
  fresh.style = in.style;
  const AthleteId id = insertAthlete(fresh);
  if (!address.empty()) {
    SQLite::Statement s(*database, "INSERT INTO address(address, athlete) VALUES(?, ?)");
    s.bind(1, address);
    s.bind(2, id.number);
    s.exec();
  }
  return id;
}

Result<std::optional<MessageId>> Library::addMessage(Incoming in, Task& task) {
  Message& m = in.message;
  auto original = contentHash(in.original);
  if (!original) return fail(original.error());
  m.original = *original;
  auto known = impl_->guarded([&]() -> Result<bool> { return isKnown(*impl_->database, m); });
  if (!known) return fail(known.error());
  if (*known) return std::optional<MessageId>();
  // Files first: without their rows they are harmless, and found again by the next try.
  if (auto kept = impl_->keepFile(in.original, impl_->mailFile(m.original)); !kept) return fail(kept.error());
  for (std::size_t k = 0; k < in.clips.size(); ++k) {
    if (task.cancelled()) return cancelled();
    Incoming::Clip& clip = in.clips[k];
    if (!clip.file.empty()) {
      auto hash = contentHash(clip.file);
      if (!hash) return fail(hash.error());
      clip.submission.clip_hash = *hash;
      if (auto kept = impl_->keepClip(clip.file, *hash, clip.submission.clip_name); !kept) return fail(kept.error());
    }
    task.report(static_cast<double>(k + 1) / static_cast<double>(in.clips.size() + 1));
  }
  if (task.cancelled()) return cancelled();
  return impl_->guarded([&]() -> Result<std::optional<MessageId>> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (isKnown(*impl_->database, m)) return std::optional<MessageId>();
    if (m.athlete.number == 0) m.athlete = impl_->senderOf(in);
    insertMessage(*impl_->database, m);
    const MessageId id(impl_->database->getLastInsertRowid());
    for (Incoming::Clip& clip : in.clips) {
      clip.submission.athlete = m.athlete;
      if (!clip.into) {
        clip.submission.message_id = id;
        impl_->insert(clip.submission);
        continue;
      }
      // The row speaks of the message its film came with; the earlier one stays in the thread. It may have been edited
      // since it was found to wait: what the film tells is added to what stands there now.
      auto row = impl_->find(*clip.into);
      if (!row || !row->clip_hash.empty()) {  // gone, or another film was faster: then this one is a row of its own
        clip.submission.message_id = id;
        impl_->insert(clip.submission);
        continue;
      }
      row->clip_hash = clip.submission.clip_hash;
      row->clip_name = clip.submission.clip_name;
      if (clip.join) clip.join(*row);
      row->message_id = id;
      impl_->update(*row);
    }
    whole.commit();
    task.report(1);
    return std::optional(id);
  });
}

Result<std::vector<Message>> Library::thread(AthleteId athlete, const std::string& thread) {
  return impl_->guarded([&]() -> Result<std::vector<Message>> {
    std::vector<Message> all;
    if (thread.empty()) return all;
    SQLite::Statement s(*impl_->database,
                        std::string("SELECT ") + kMessageColumns +
                            " FROM message WHERE thread = ? AND athlete = ? ORDER BY received_on, id");
    s.bind(1, thread);
    s.bind(2, athlete.number);
    while (s.executeStep()) all.push_back(messageFrom(s));
    return all;
  });
}

Result<std::string> Library::threadOf(AthleteId athlete, const std::vector<std::string>& answers) {
  return impl_->guarded([&]() -> Result<std::string> {
    // The nearest first: what is answered itself stands last.
    for (auto id = answers.rbegin(); id != answers.rend(); ++id) {
      SQLite::Statement came(*impl_->database,
                             "SELECT thread FROM message WHERE mail_id = ? AND athlete = ? AND thread <> ''");
      came.bind(1, *id);
      came.bind(2, athlete.number);
      if (came.executeStep()) return came.getColumn(0).getString();
      // An answer to what we wrote belongs to the message that we answered.
      SQLite::Statement went(*impl_->database,
                             "SELECT m.thread FROM outgoing o JOIN submission s ON s.id = o.submission "
                             "JOIN message m ON m.id = s.message_id WHERE o.mail_id = ? AND m.athlete = ?");
      went.bind(1, *id);
      went.bind(2, athlete.number);
      if (went.executeStep()) return went.getColumn(0).getString();
    }
    return std::string();
  });
}

fs::path Library::mailFile(const Message& message) const {
  return impl_->mailFile(message.original);
}

Result<std::vector<Message>> Library::messages(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<Message>> {
    std::vector<Message> all;
    SQLite::Statement s(*impl_->database, std::string("SELECT ") + kMessageColumns +
                                              " FROM message WHERE athlete = ? ORDER BY received_on DESC, id DESC");
    s.bind(1, athlete.number);
    while (s.executeStep()) all.push_back(messageFrom(s));
    return all;
  });
}

Result<Message> Library::message(MessageId id) {
  return impl_->guarded([&]() -> Result<Message> {
    SQLite::Statement s(*impl_->database, std::string("SELECT ") + kMessageColumns + " FROM message WHERE id = ?");
    s.bind(1, id.number);
    if (!s.executeStep())
      return fail(ErrorCode::CannotRead, "That message is not in the library.", "Refresh the list.");
    return messageFrom(s);
  });
}

Result<std::vector<MessageField>> Library::editFields(MessageId id,
                                                      const std::function<void(std::vector<MessageField>&)>& change) {
  return impl_->guarded([&]() -> Result<std::vector<MessageField>> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto m = message(id);
    if (!m) return fail(m.error());
    change(m->fields);
    SQLite::Statement s(*impl_->database, "UPDATE message SET fields = ? WHERE id = ?");
    s.bind(1, fieldsToJson(m->fields));
    s.bind(2, id.number);
    s.exec();
    whole.commit();
    return m->fields;
  });
}

Result<std::optional<AthleteId>> Library::athleteAt(const std::string& address) {
  return impl_->guarded([&]() -> Result<std::optional<AthleteId>> {
    SQLite::Statement s(*impl_->database, "SELECT athlete FROM address WHERE address = ?");
    s.bind(1, address);
    if (!s.executeStep()) return std::optional<AthleteId>();
    return std::optional(AthleteId(s.getColumn(0).getInt64()));
  });
}

Result<std::vector<std::string>> Library::addresses(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<std::string>> {
    std::vector<std::string> all;
    SQLite::Statement s(*impl_->database, "SELECT address FROM address WHERE athlete = ? ORDER BY address");
    s.bind(1, athlete.number);
    while (s.executeStep()) all.push_back(s.getColumn(0).getString());
    return all;
  });
}

Result<bool> Library::addAddress(AthleteId athlete, const std::string& address) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database,
                        "INSERT INTO address(address, athlete) VALUES(?, ?) "
                        "ON CONFLICT(address) DO UPDATE SET athlete = excluded.athlete");
    s.bind(1, address);
    s.bind(2, athlete.number);
    s.exec();
    return true;
  });
}

Result<bool> Library::mergeAthletes(AthleteId from, AthleteId into) {
  if (from == into) return fail(ErrorCode::WrongUse, "That is the same athlete.", "Choose another.");
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto kept = athlete(into);
    auto gone = athlete(from);
    if (!kept) return fail(kept.error());
    if (!gone) return fail(gone.error());
    // What is known of `into` wins, key by key.
    Json profile = Json::parse(profileToJson(gone->profile));
    profile.update(Json::parse(profileToJson(kept->profile)));
    for (const char* table : {"submission", "message", "cue_thread", "address", "outgoing"}) {
      SQLite::Statement s(*impl_->database, std::string("UPDATE ") + table + " SET athlete = ? WHERE athlete = ?");
      s.bind(1, into.number);
      s.bind(2, from.number);
      s.exec();
    }
    SQLite::Statement fill(*impl_->database, "UPDATE athlete SET profile = ?, note = ? WHERE id = ?");
    fill.bind(1, profile.dump(-1, ' ', false, Json::error_handler_t::replace));
    fill.bind(2, kept->note.empty() || gone->note.empty() ? kept->note + gone->note : kept->note + "\n" + gone->note);
    fill.bind(3, into.number);
    fill.exec();
    SQLite::Statement end(*impl_->database, "DELETE FROM athlete WHERE id = ?");
    end.bind(1, from.number);
    end.exec();
    whole.commit();
    return true;
  });
}

Result<bool> Library::savePulse(const std::string& clip_hash, const std::vector<float>& up) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database,
                        "INSERT INTO clip_pulse(clip_hash, up) VALUES(?, ?) "
                        "ON CONFLICT(clip_hash) DO UPDATE SET up = excluded.up");
    s.bind(1, clip_hash);
    s.bind(2, up.data(), static_cast<int>(up.size() * sizeof(float)));
    return s.exec() == 1;
  });
}

Result<std::vector<float>> Library::pulseOf(const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<std::vector<float>> {
    SQLite::Statement s(*impl_->database, "SELECT up FROM clip_pulse WHERE clip_hash = ?");
    s.bind(1, clip_hash);
    std::vector<float> up;
    if (!s.executeStep()) return up;
    const auto column = s.getColumn(0);
    up.resize(static_cast<std::size_t>(column.getBytes()) / sizeof(float));
    if (!up.empty()) std::memcpy(up.data(), column.getBlob(), up.size() * sizeof(float));
    return up;
  });
}

Result<CoachCard> Library::coach() {
  return impl_->guarded([&]() -> Result<CoachCard> {
    SQLite::Statement s(*impl_->database, "SELECT json FROM setting WHERE name = 'coach'");
    return s.executeStep() ? coachFromJson(s.getColumn(0).getString()) : CoachCard{};
  });
}

Result<bool> Library::setCoach(const CoachCard& card) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database,
                        "INSERT INTO setting(name, json) VALUES('coach', ?) "
                        "ON CONFLICT(name) DO UPDATE SET json = excluded.json");
    s.bind(1, coachToJson(card));
    return s.exec() == 1;
  });
}

Result<std::map<std::int64_t, std::string>> Library::dueOn() {
  return impl_->guarded([&]() -> Result<std::map<std::int64_t, std::string>> {
    std::map<std::int64_t, std::string> due;
    SQLite::Statement s(*impl_->database,
                        "SELECT athlete, min(review_on) FROM cue_thread WHERE state NOT IN ('met', 'dropped') "
                        "AND review_on <> '' GROUP BY athlete");
    while (s.executeStep()) due[s.getColumn(0).getInt64()] = s.getColumn(1).getString();
    return due;
  });
}

Result<bool> Library::saveCheck(const std::string& clip_hash, std::string_view json) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database,
                        "INSERT INTO clip_check(clip_hash, json) VALUES(?, ?) "
                        "ON CONFLICT(clip_hash) DO UPDATE SET json = excluded.json");
    s.bind(1, clip_hash);
    s.bind(2, std::string(json));
    s.exec();
    return true;
  });
}

Result<bool> Library::forgetCheck(const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database);
    for (const char* sql :
         {"DELETE FROM clip_check WHERE clip_hash = ?", "DELETE FROM clip_attempt WHERE clip_hash = ?",
          // What could not be looked at waits for a look again.
          "UPDATE submission SET state = 'new', reason = '' WHERE clip_hash = ? AND "
          "state = 'needs_video' AND reason <> ''"}) {
      SQLite::Statement s(*impl_->database, sql);
      s.bind(1, clip_hash);
      s.exec();
    }
    whole.commit();
    return true;
  });
}

Result<std::string> Library::checkOf(const std::string& clip_hash) {
  return impl_->guarded([&]() -> Result<std::string> {
    SQLite::Statement s(*impl_->database, "SELECT json FROM clip_check WHERE clip_hash = ?");
    s.bind(1, clip_hash);
    return s.executeStep() ? s.getColumn(0).getString() : std::string();
  });
}

Result<std::map<std::string, std::string>> Library::checks() {
  return impl_->guarded([&]() -> Result<std::map<std::string, std::string>> {
    std::map<std::string, std::string> all;
    SQLite::Statement s(*impl_->database, "SELECT clip_hash, json FROM clip_check");
    while (s.executeStep()) all.emplace(s.getColumn(0).getString(), s.getColumn(1).getString());
    return all;
  });
}

void Library::Impl::putFindings(SubmissionId id, const std::vector<coaching::Finding>& findings) {
  SQLite::Statement old(*database, "DELETE FROM finding_seen WHERE submission = ?");
  old.bind(1, id.number);
  old.exec();
  for (const coaching::Finding& f : findings) {
    SQLite::Statement s(*database, "INSERT INTO finding_seen(submission, finding, verdict, rep) VALUES(?,?,?,?)");
    s.bind(1, id.number);
    s.bind(2, f.id);
    s.bind(3, std::string(coaching::nameOf(f.verdict)));
    s.bind(4, f.reps.empty() ? 0 : f.reps.front());
    s.exec();
  }
}

Result<bool> Library::saveFindings(SubmissionId id, const std::vector<coaching::Finding>& findings) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (!impl_->find(id)) return deletedMeanwhile();
    impl_->putFindings(id, findings);
    whole.commit();
    return true;
  });
}

Result<std::map<std::string, std::string>> Library::findingsOf(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::map<std::string, std::string>> {
    std::map<std::string, std::string> all;
    SQLite::Statement s(*impl_->database, "SELECT finding, verdict FROM finding_seen WHERE submission = ?");
    s.bind(1, id.number);
    while (s.executeStep()) all[s.getColumn(0).getString()] = s.getColumn(1).getString();
    return all;
  });
}

namespace {

// All of a set at once, in place of what was kept of it before; within the caller's transaction.
void putMeasures(SQLite::Database& database, SubmissionId id, const lifts::SetMeasures& measures) {
  SQLite::Statement gone(database, "DELETE FROM measured WHERE submission = ?");
  gone.bind(1, id.number);
  gone.exec();
  SQLite::Statement s(database,
                      "INSERT INTO measured(submission, rep, measure, value, sigma, t_s) VALUES(?, ?, ?, ?, ?, ?)");
  const auto keep = [&](int rep, const lifts::MeasureList& list) {
    for (const auto& named : list) {
      const lifts::Measured* m = named.measured();
      if (!m || !std::isfinite(m->value) || !std::isfinite(m->sigma)) continue;
      s.reset();
      s.bind(1, id.number);
      s.bind(2, rep);
      s.bind(3, std::string(named.kind->id));
      s.bind(4, m->value);
      s.bind(5, m->sigma);
      s.bind(6, m->t_s);
      s.exec();
    }
  };
  for (std::size_t i = 0; i < measures.reps.size(); ++i) keep(static_cast<int>(i + 1), measures.reps[i]);
  keep(0, measures.set);
}

void putSpeed(SQLite::Database& database, SubmissionId id, double mps, double sigma) {
  SQLite::Statement s(database,
                      "INSERT INTO set_speed(submission, mps, sigma) VALUES(?, ?, ?) "
                      "ON CONFLICT(submission) DO UPDATE SET mps = excluded.mps, sigma = excluded.sigma");
  s.bind(1, id.number);
  s.bind(2, mps);
  s.bind(3, sigma);
  s.exec();
}

}  // namespace

Result<std::vector<Library::KeptMeasure>> Library::measured(AthleteId athlete, std::string_view measure) {
  return impl_->guarded([&]() -> Result<std::vector<KeptMeasure>> {
    std::vector<KeptMeasure> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT m.submission, s.received_on, m.rep, m.value, m.sigma, m.t_s FROM measured m "
                        "JOIN submission s ON s.id = m.submission WHERE s.athlete = ? AND m.measure = ? "
                        "ORDER BY s.received_on, s.id, m.rep");
    s.bind(1, athlete.number);
    s.bind(2, std::string(measure));
    while (s.executeStep())
      all.push_back({SubmissionId{s.getColumn(0).getInt64()},
                     s.getColumn(1).getString(),
                     s.getColumn(2).getInt(),
                     {s.getColumn(3).getDouble(), s.getColumn(4).getDouble(), s.getColumn(5).getDouble()}});
    return all;
  });
}

Result<std::map<std::string, std::vector<Library::KeptMeasure>>> Library::results(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::map<std::string, std::vector<KeptMeasure>>> {
    std::map<std::string, std::vector<KeptMeasure>> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT m.measure, s.received_on, m.rep, m.value, m.sigma, m.t_s FROM measured m "
                        "JOIN submission s ON s.id = m.submission WHERE m.submission = ? "
                        "ORDER BY m.measure, m.rep = 0, m.rep");
    s.bind(1, id.number);
    while (s.executeStep())
      all[s.getColumn(0).getString()].push_back(
          {id,
           s.getColumn(1).getString(),
           s.getColumn(2).getInt(),
           {s.getColumn(3).getDouble(), s.getColumn(4).getDouble(), s.getColumn(5).getDouble()}});
    return all;
  });
}

void Library::Impl::putResults(SubmissionId id, const coaching::Analysis& analysis) {
  putFindings(id, analysis.findings);
  putMeasures(*database, id, analysis.measures);
  const lifts::Measured* fastest = nullptr;
  for (const auto& rep : analysis.measures.reps)
    if (const auto* named = lifts::find(rep, "bar_mean_ascent_mps"))
      if (const auto* m = named->measured(); m && (!fastest || m->value > fastest->value)) fastest = m;
  if (fastest) return putSpeed(*database, id, fastest->value, fastest->sigma);
  SQLite::Statement gone(*database, "DELETE FROM set_speed WHERE submission = ?");
  gone.bind(1, id.number);
  gone.exec();
}

Result<bool> Library::saveResults(SubmissionId id, const coaching::Analysis& analysis) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (!impl_->find(id)) return deletedMeanwhile();
    impl_->putResults(id, analysis);
    whole.commit();
    return true;
  });
}

Result<bool> Library::saveSpeed(SubmissionId id, double mps, double sigma) {
  return impl_->guarded([&]() -> Result<bool> {
    putSpeed(*impl_->database, id, mps, sigma);
    return true;
  });
}

Result<std::vector<coaching::LoadedSet>> Library::speeds(AthleteId athlete, std::string_view lift) {
  return impl_->guarded([&]() -> Result<std::vector<coaching::LoadedSet>> {
    std::vector<coaching::LoadedSet> sets;
    SQLite::Statement s(*impl_->database,
                        "SELECT s.load_kg, v.mps, v.sigma, s.received_on FROM set_speed v "
                        "JOIN submission s ON s.id = v.submission "
                        "WHERE s.athlete = ? AND s.lift = ? AND s.load_kg > 0 AND s.state <> 'skipped' "
                        "ORDER BY s.received_on, s.id");
    s.bind(1, athlete.number);
    s.bind(2, std::string(lift));
    while (s.executeStep())
      sets.push_back({s.getColumn(0).getDouble(), s.getColumn(1).getDouble(), s.getColumn(2).getDouble(),
                      s.getColumn(3).getString()});
    return sets;
  });
}

Result<Library::FirstShown> Library::firstShown(AthleteId athlete, const std::string& finding) {
  return impl_->guarded([&]() -> Result<FirstShown> {
    FirstShown out;
    SQLite::Statement s(*impl_->database,
                        "SELECT s.load_kg, f.verdict, s.received_on, f.rep FROM finding_seen f "
                        "JOIN submission s ON s.id = f.submission "
                        "WHERE s.athlete = ? AND f.finding = ? AND s.load_kg IS NOT NULL ORDER BY s.load_kg");
    s.bind(1, athlete.number);
    s.bind(2, finding);
    while (s.executeStep()) {
      const double kg = s.getColumn(0).getDouble();
      const std::string verdict = s.getColumn(1).getString();
      if (verdict == "yes" && !out.shown_kg) {
        out.shown_kg = kg;
        out.shown_on = s.getColumn(2).getString();
        out.rep = s.getColumn(3).getInt();
      }
      if (verdict == "no") out.clean_kg = kg;
    }
    return out;
  });
}

Result<std::array<int, 2>> Library::sidesBefore(const Submission& now, const std::string& finding,
                                                const std::string& measure) {
  return impl_->guarded([&]() -> Result<std::array<int, 2>> {
    SQLite::Statement s(*impl_->database,
                        "SELECT COALESCE(SUM(mean < 0), 0), COALESCE(SUM(mean > 0), 0) FROM ("
                        "SELECT AVG(m.value) AS mean FROM finding_seen f "
                        "JOIN submission s ON s.id = f.submission "
                        "JOIN measured m ON m.submission = s.id AND m.measure = :measure "
                        "WHERE f.finding = :finding AND f.verdict = 'yes' AND s.athlete = :athlete AND s.lift = :lift "
                        "AND s.id <> :pair AND COALESCE(s.pair, -1) NOT IN (:id, :pair) AND (s.received_on, s.id) < "
                        "(:day, :id) GROUP BY s.id)");
    s.bind(":measure", measure);
    s.bind(":finding", finding);
    s.bind(":athlete", now.athlete.number);
    s.bind(":lift", now.lift);
    s.bind(":pair", now.pair ? now.pair->number : 0);
    s.bind(":day", now.received_on);
    s.bind(":id", now.id.number);
    s.executeStep();
    return std::array{s.getColumn(0).getInt(), s.getColumn(1).getInt()};
  });
}

}  // namespace jib::library
