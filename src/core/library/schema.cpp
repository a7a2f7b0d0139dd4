// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/schema.h"

#include <SQLiteCpp/SQLiteCpp.h>

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
)sql"};

}  // namespace

void migrate(SQLite::Database& database, int from) {
  for (int step = from; step < Library::kSchema; ++step) {
    SQLite::Transaction whole(database);
    database.exec(kSteps[step]);
    database.exec("PRAGMA user_version = " + std::to_string(step + 1));
    whole.commit();
  }
}

}  // namespace jib::library
