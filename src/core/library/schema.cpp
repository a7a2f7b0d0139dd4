// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/schema.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <algorithm>

#include <string>

#include "core/library/library.h"

namespace jib::library {
namespace {

// Steps are never edited once released: a library out there has already taken them.
constexpr const char* kSteps[Library::kSchema] = {
    // 1: the first libraries
    R"sql(
CREATE TABLE athlete (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT ''
);
CREATE TABLE submission (
  id INTEGER PRIMARY KEY,
  athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE,
  received_on TEXT NOT NULL,
  message TEXT NOT NULL,
  lift TEXT NOT NULL,
  variant TEXT NOT NULL,
  load_kg REAL,
  plate_mm REAL NOT NULL,
  slow_factor REAL NOT NULL,
  clip_name TEXT NOT NULL,
  clip_hash TEXT NOT NULL,
  state TEXT NOT NULL
);
CREATE INDEX submission_by_athlete ON submission(athlete, received_on);
CREATE TABLE review (
  submission INTEGER PRIMARY KEY REFERENCES submission(id) ON DELETE CASCADE,
  json TEXT NOT NULL
);
CREATE TABLE tracing (
  submission INTEGER PRIMARY KEY REFERENCES submission(id) ON DELETE CASCADE,
  json TEXT NOT NULL
);
CREATE TABLE cue_thread (
  id INTEGER PRIMARY KEY,
  athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE,
  asked_in INTEGER NOT NULL REFERENCES submission(id) ON DELETE CASCADE,
  asked_on TEXT NOT NULL,
  review_on TEXT NOT NULL,
  finding TEXT NOT NULL,
  title TEXT NOT NULL,
  wording TEXT NOT NULL,
  measure TEXT NOT NULL,
  value_then REAL NOT NULL,
  sigma_then REAL NOT NULL,
  value_now REAL,
  sigma_now REAL,
  measured_in INTEGER REFERENCES submission(id) ON DELETE SET NULL,
  measured_on TEXT NOT NULL DEFAULT '',
  state TEXT NOT NULL
);
CREATE INDEX cue_thread_by_athlete ON cue_thread(athlete, asked_on);
)sql",
    // 2: a coaching style for each athlete
    R"sql(
ALTER TABLE athlete ADD COLUMN style TEXT NOT NULL DEFAULT 'balanced';
)sql",
    // 3: messages with what was read from them, addresses, more about athletes, clip checks, what was found when
    R"sql(
ALTER TABLE athlete ADD COLUMN profile TEXT NOT NULL DEFAULT '{}';
CREATE TABLE address (
  address TEXT PRIMARY KEY,
  athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE
);
CREATE INDEX address_by_athlete ON address(athlete);
CREATE TABLE message (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE,
  from_name TEXT NOT NULL,
  from_address TEXT NOT NULL,
  subject TEXT NOT NULL,
  received_on TEXT NOT NULL,
  body TEXT NOT NULL,
  original TEXT NOT NULL,
  fields TEXT NOT NULL,
  troubles TEXT NOT NULL
);
CREATE INDEX message_by_athlete ON message(athlete);
ALTER TABLE submission ADD COLUMN message_id INTEGER REFERENCES message(id) ON DELETE SET NULL;
ALTER TABLE submission ADD COLUMN reason TEXT NOT NULL DEFAULT '';
ALTER TABLE submission ADD COLUMN pair INTEGER REFERENCES submission(id) ON DELETE SET NULL;
CREATE INDEX submission_by_state ON submission(state, received_on);
CREATE INDEX submission_by_hash ON submission(clip_hash);
CREATE TABLE clip_check (
  clip_hash TEXT PRIMARY KEY,
  json TEXT NOT NULL
);
CREATE TABLE finding_seen (
  submission INTEGER NOT NULL REFERENCES submission(id) ON DELETE CASCADE,
  finding TEXT NOT NULL,
  verdict TEXT NOT NULL,
  rep INTEGER NOT NULL,
  PRIMARY KEY (submission, finding)
);
)sql",
    // 4: plates counted, loads of several sets, pairs in one time, what was overruled; who the coach is
    R"sql(
ALTER TABLE submission ADD COLUMN details TEXT NOT NULL DEFAULT '{}';
DELETE FROM clip_check;  -- made again in the background, with the times of the sets
CREATE TABLE clip_pulse (
  clip_hash TEXT PRIMARY KEY,
  up BLOB NOT NULL
);
CREATE TABLE setting (
  name TEXT PRIMARY KEY,
  json TEXT NOT NULL
);
)sql",
    // 5: how fast the judged set of a submission went up
    R"sql(
CREATE TABLE set_speed (
  submission INTEGER PRIMARY KEY REFERENCES submission(id) ON DELETE CASCADE,
  mps REAL NOT NULL,
  sigma REAL NOT NULL
);
)sql",
    // 6: threads of messages and what they quote, rows that are words, what goes out, clips that could not be looked
    // at, files that are to be forgotten
    R"sql(
ALTER TABLE message ADD COLUMN quoted TEXT NOT NULL DEFAULT '';
ALTER TABLE message ADD COLUMN mail_id TEXT NOT NULL DEFAULT '';
ALTER TABLE message ADD COLUMN thread TEXT NOT NULL DEFAULT '';
ALTER TABLE message ADD COLUMN contents TEXT NOT NULL DEFAULT '[]';
UPDATE message SET mail_id = key, thread = key WHERE key NOT LIKE 'sha256:%' AND key NOT LIKE 'folder:%'
  AND key NOT LIKE 'film:%';
CREATE INDEX message_by_mail_id ON message(mail_id);
CREATE INDEX message_by_thread ON message(thread);
ALTER TABLE submission ADD COLUMN kind TEXT NOT NULL DEFAULT 'clip';
INSERT INTO submission(athlete, received_on, message, lift, variant, plate_mm, slow_factor, clip_name, clip_hash,
                       state, message_id, kind)
  SELECT athlete, received_on, body, '', '', 450, 1, '', '', 'new', id, 'note' FROM message
  WHERE id NOT IN (SELECT message_id FROM submission WHERE message_id IS NOT NULL);
CREATE TABLE outgoing (
  id INTEGER PRIMARY KEY,
  athlete INTEGER REFERENCES athlete(id) ON DELETE CASCADE,
  submission INTEGER REFERENCES submission(id) ON DELETE SET NULL,
  kind TEXT NOT NULL,
  to_name TEXT NOT NULL,
  to_address TEXT NOT NULL,
  subject TEXT NOT NULL,
  file TEXT NOT NULL,
  mail_id TEXT NOT NULL,
  made_on TEXT NOT NULL,
  handed_on TEXT NOT NULL DEFAULT '',
  state TEXT NOT NULL
);
CREATE INDEX outgoing_by_athlete ON outgoing(athlete);
CREATE TABLE clip_attempt (
  clip_hash TEXT PRIMARY KEY,
  times INTEGER NOT NULL
);
CREATE TABLE doomed (
  file TEXT PRIMARY KEY
);
)sql",
    // 7: every measure of every traced set, rep 0 for those of the whole set
    R"sql(
CREATE TABLE measured (
  submission INTEGER NOT NULL REFERENCES submission(id) ON DELETE CASCADE,
  rep INTEGER NOT NULL,
  measure TEXT NOT NULL,
  value REAL NOT NULL,
  sigma REAL NOT NULL,
  t_s REAL NOT NULL,
  PRIMARY KEY(submission, rep, measure)
) WITHOUT ROWID;
CREATE INDEX measured_by_measure ON measured(measure);
)sql",
    // 8: the drill that went with a cue, for the coach's own book
    R"sql(
ALTER TABLE cue_thread ADD COLUMN drill TEXT NOT NULL DEFAULT '';
CREATE INDEX cue_thread_by_finding ON cue_thread(finding, wording);
)sql",
    // 9: what a sender's clock says where it cannot be; reviews are numbered, so that two windows cannot write over
    // each
    // other; a look at a clip is a program's, not a count
    R"sql(
ALTER TABLE message ADD COLUMN dated TEXT NOT NULL DEFAULT '';
CREATE INDEX submission_by_athlete_and_day ON submission(athlete, received_on);
CREATE INDEX submission_by_message ON submission(message_id);
CREATE INDEX submission_by_pair ON submission(pair);
CREATE INDEX outgoing_by_submission ON outgoing(submission);
ALTER TABLE review ADD COLUMN number INTEGER NOT NULL DEFAULT 1;
DROP TABLE clip_attempt;
CREATE TABLE clip_attempt (
  clip_hash TEXT NOT NULL,
  program TEXT NOT NULL,
  PRIMARY KEY (clip_hash, program)
);
)sql",
    // 10: from where a traced set was filmed, so that like is held against like; why a cue was dropped
    R"sql(
ALTER TABLE cue_thread ADD COLUMN dropped_why TEXT NOT NULL DEFAULT '';
CREATE TABLE filmed (
  submission INTEGER PRIMARY KEY REFERENCES submission(id) ON DELETE CASCADE,
  view TEXT NOT NULL,
  turned_deg REAL,
  look_down_deg REAL,
  scale TEXT NOT NULL
);
)sql",
    // 11: what a cue asks to be set up differently, what that may bring, and what the next film shows of it
    R"sql(
ALTER TABLE cue_thread ADD COLUMN change TEXT NOT NULL DEFAULT '';
ALTER TABLE cue_thread ADD COLUMN watch TEXT NOT NULL DEFAULT '[]';
ALTER TABLE cue_thread ADD COLUMN seen TEXT NOT NULL DEFAULT '{}';
)sql"};

}  // namespace

void migrate(SQLite::Database& database, int from, int to) {
  // All steps at once: another program that opens the library meanwhile sees the old schema or the new one, and never
  // one half-way that it would want to copy and carry on. It may also have taken the steps while this one waited.
  SQLite::Transaction whole(database, SQLite::TransactionBehavior::IMMEDIATE);
  const int now = std::max(from, database.execAndGet("PRAGMA user_version").getInt());
  for (int step = now; step < to; ++step) database.exec(kSteps[step]);
  if (now < to) database.exec("PRAGMA user_version = " + std::to_string(to));
  whole.commit();
}

}  // namespace jib::library
