// SPDX-License-Identifier: GPL-3.0-or-later
// The demo is written for one day; played on another, everything in it moves along.
#include <SQLiteCpp/SQLiteCpp.h>

#include <array>
#include <cstdio>
#include <ctime>
#include <regex>

#include "core/library/dates.h"
#include "core/library/demo.h"

namespace jib::library {
namespace fs = std::filesystem;

namespace {

constexpr const char* kWrittenFor = "2026-11-26";  // demo/scenario.json and demo/mail/messages.json
constexpr std::array<const char*, 12> kMonths{"January", "February", "March",     "April",   "May",      "June",
                                              "July",    "August",   "September", "October", "November", "December"};

std::string iso(int year, int month, int day) {
  char text[32];
  std::snprintf(text, sizeof text, "%04d-%02d-%02d", year, month, day);
  return text;
}

// Calls `with` for every match of `pattern` and puts in its place what comes back.
template <class With>
std::string replaced(const std::string& text, const std::regex& pattern, With with) {
  std::string out;
  auto at = text.cbegin();
  for (std::sregex_iterator it(text.begin(), text.end(), pattern), end; it != end; ++it) {
    out.append(at, text.cbegin() + it->position());
    out += with(*it);
    at = text.cbegin() + it->position() + it->length();
  }
  out.append(at, text.cend());
  return out;
}

// "2026-11-25", also inside JSON.
std::string isoMoved(const std::string& text, int days) {
  static const std::regex kIso(R"(\b\d{4}-\d{2}-\d{2}\b)");
  return replaced(text, kIso, [days](const std::smatch& m) { return daysLater(m.str(), days); });
}

// "12 December 2026", as people write it.
std::string wordsMoved(const std::string& text, int days) {
  static const std::regex kDay(
      R"(\b(\d{1,2}) (January|February|March|April|May|June|July|August|September|October|November|December) (\d{4})\b)");
  return replaced(text, kDay, [days](const std::smatch& m) {
    int month = 0;
    while (m[2].str() != kMonths[static_cast<std::size_t>(month)]) ++month;
    const std::string then = daysLater(iso(std::stoi(m[3]), month + 1, std::stoi(m[1])), days);
    return std::to_string(std::stoi(then.substr(8))) + " " +
           kMonths[static_cast<std::size_t>(std::stoi(then.substr(5, 2)) - 1)] + " " + then.substr(0, 4);
  });
}

// "Date: Sat, 21 Nov 2026 12:00:00 +0000", whole weeks on.
std::string headerMoved(const std::string& mail, int days) {
  static const std::regex kDate(R"(\b(\d{1,2}) (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec) (\d{4})\b)");
  const std::size_t from = mail.rfind("Date: ", 0) == 0 ? 0 : mail.find("\nDate: ");
  if (from == std::string::npos) return mail;
  const std::size_t to = mail.find('\n', from + 1);
  const std::string line = replaced(mail.substr(from, to - from), kDate, [days](const std::smatch& m) {
    int month = 0;
    while (m[2].str() != std::string(kMonths[static_cast<std::size_t>(month)]).substr(0, 3)) ++month;
    const std::string then = daysLater(iso(std::stoi(m[3]), month + 1, std::stoi(m[1])), days);
    return then.substr(8) + " " +
           std::string(kMonths[static_cast<std::size_t>(std::stoi(then.substr(5, 2)) - 1)]).substr(0, 3) + " " +
           then.substr(0, 4);
  });
  return mail.substr(0, from) + line + mail.substr(to);
}

Result<bool> moveMail(const fs::path& file, int days) {
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  // What is attached begins with the first part that is no text; it is as long as the films are.
  const std::size_t words_end = std::min(bytes->find("Content-Transfer-Encoding: base64"), bytes->size());
  const std::string head = wordsMoved(headerMoved(bytes->substr(0, words_end), days), days);
  return writeWhole(FileSystem::real(), file, head + bytes->substr(words_end));
}

void moveRows(SQLite::Database& database, int days) {
  struct Column {
    const char *table, *name;
  };
  constexpr Column kColumns[]{{"submission", "received_on"}, {"message", "received_on"},
                              {"cue_thread", "asked_on"},    {"cue_thread", "review_on"},
                              {"cue_thread", "measured_on"}, {"outgoing", "made_on"},
                              {"outgoing", "handed_on"},     {"athlete", "profile"},
                              {"submission", "details"},     {"review", "json"}};
  SQLite::Transaction whole(database);
  for (const Column& c : kColumns) {
    const std::string table = c.table, name = c.name;
    std::vector<std::pair<std::int64_t, std::string>> rows;
    SQLite::Statement all(database, "SELECT rowid, " + name + " FROM " + table);
    while (all.executeStep()) rows.emplace_back(all.getColumn(0).getInt64(), all.getColumn(1).getString());
    for (const auto& [row, was] : rows) {
      SQLite::Statement set(database, "UPDATE " + table + " SET " + name + " = ? WHERE rowid = ?");
      set.bind(1, isoMoved(was, days));
      set.bind(2, row);
      set.exec();
    }
  }
  whole.commit();
}

}  // namespace

Result<bool> bringUpToDate(const fs::path& demo_library, const std::string& today_iso) {
  const int days = daysBetween(kWrittenFor, today_iso).value_or(0) / 7 * 7;
  if (days == 0) return true;
  try {
    SQLite::Database database(demo_library / "library.sqlite", SQLite::OPEN_READWRITE);
    moveRows(database, days);
  } catch (const SQLite::Exception& e) {
    return fail(ErrorCode::CannotRead, std::string("The demo's days can't be moved: ") + e.what() + ".",
                "It plays on the days it was written for.");
  }
  std::error_code error;
  for (const auto& file : fs::directory_iterator(demo_library / "inbox/new", error))
    if (auto moved = moveMail(file.path(), days); !moved) return moved;
  return true;
}

}  // namespace jib::library
