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
  for (const MessageField& f : fields) {
    Json j{{"field", f.field}, {"value", f.value}, {"words", f.words}, {"confirmed", f.confirmed}};
    if (!f.said.empty()) j["said"] = f.said;
    if (f.said_in) j["said_in"] = *f.said_in == MassUnit::Pounds ? "lb" : "kg";
    if (!f.sure) j["sure"] = false;
    all.push_back(std::move(j));
  }
  return all.dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::vector<MessageField> fieldsFromJson(const std::string& text) {
  std::vector<MessageField> fields;
  const Json all = Json::parse(text, nullptr, false);
  if (!all.is_array()) return fields;
  for (const Json& j : all) {
    MessageField f{j.value("field", ""), j.value("value", ""), j.value("words", ""), j.value("confirmed", false)};
    f.said = j.value("said", "");
    if (const std::string unit = j.value("said_in", ""); !unit.empty())
      f.said_in = unit == "lb" ? MassUnit::Pounds : MassUnit::Kilograms;
    f.sure = j.value("sure", true);
    fields.push_back(std::move(f));
  }
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

Result<std::vector<Message>> Library::messagesSaying(std::string_view field, std::optional<AthleteId> athlete) {
  return impl_->guarded([&]() -> Result<std::vector<Message>> {
    std::vector<Message> all;
    SQLite::Statement s(*impl_->database, std::string("SELECT ") + kMessageColumns +
                                              " FROM message WHERE instr(fields, ?) > 0 AND (? = 0 OR athlete = ?)"
                                              " ORDER BY received_on, id");
    s.bind(1, "\"field\":\"" + std::string(field) + "\"");
    s.bind(2, athlete ? athlete->number : 0);
    s.bind(3, athlete ? athlete->number : 0);
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

void Library::seat(std::string coach) {
  impl_->seat = std::move(coach);
}

Result<CoachCard> Library::signer() {
  auto card = coach();
  if (card) *card = seated(*card, impl_->seat);
  return card;
}

Result<std::map<std::int64_t, std::string>> Library::dueOn() {
  return impl_->guarded([&]() -> Result<std::map<std::int64_t, std::string>> {
    std::map<std::int64_t, std::string> due;
    SQLite::Statement s(
        *impl_->database,
        "SELECT athlete, min(review_on) FROM cue_thread WHERE state NOT IN ('met', 'dropped', 'paused') "
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

}  // namespace jib::library
