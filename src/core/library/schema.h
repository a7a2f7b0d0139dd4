// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace SQLite {
class Database;
}

namespace jib::library {

// Brings a database from the schema it has (PRAGMA user_version) to a later one, one numbered step after the other,
// each in a transaction. Throws SQLite::Exception.
void migrate(SQLite::Database& database, int from, int to);

}  // namespace jib::library
