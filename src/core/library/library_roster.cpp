// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that looks at all athletes at once, and puts a clip right that went to the wrong one.
#include <unordered_map>

#include "core/base/ascii.h"
#include "core/library/dates.h"
#include "core/library/library_impl.h"
#include "core/library/roster.h"

namespace jib::library {
namespace {

using Rows = std::unordered_map<std::int64_t, RosterRow*>;

// Calls `add` with the row of each athlete in the first column.
template <class Add>
void each(SQLite::Database& database, const char* query, const Rows& rows, Add add) {
  SQLite::Statement s(database, query);
  while (s.executeStep())
    if (const auto row = rows.find(s.getColumn(0).getInt64()); row != rows.end()) add(s, *row->second);
}

void addWords(RosterRow& row, const std::string& text) {
  if (text.empty()) return;
  row.words += ' ';
  // What is stored as "squat.hips_lead" is typed as "hips lead".
  for (const char c : text) row.words += c == '_' || c == '.' ? ' ' : asciiLower(c);
}

void addOwnWords(RosterRow& row) {
  const Profile& p = row.athlete.profile;
  for (const std::string& text : {row.athlete.name, row.athlete.note, p.goal, p.federation, p.usual, p.pain, p.coach})
    addWords(row, text);
  for (const std::string& group : p.groups) addWords(row, group);
  addWords(row, asciiLower(titleOf(p.membership)));
}

// How many replies went out in the week up to a day, and how long they usually take.
void addReplies(SQLite::Database& database, const Rows& rows, const std::string& today_iso) {
  // Latest first, so that the middle one is of how it is now.
  std::unordered_map<std::int64_t, std::vector<int>> took_days;
  const std::string week_ago = daysLater(today_iso, -6);
  each(database,
       "SELECT athlete, received_on, json_extract(details, '$.answered_on') AS answered FROM submission "
       "WHERE state = 'returned' AND clip_hash <> '' AND answered <> '' ORDER BY answered DESC",
       rows, [&](SQLite::Statement& s, RosterRow& row) {
         const std::string on = s.getColumn(2).getString();
         if (on >= week_ago && on <= today_iso) ++row.answered_this_week;
         constexpr std::size_t kLatest = 9;
         auto& took = took_days[row.athlete.id.number];
         if (const auto days = daysBetween(s.getColumn(1).getString(), on); days && took.size() < kLatest)
           took.push_back(std::max(0, *days));
       });
  for (auto& [id, took] : took_days) {
    if (took.empty()) continue;
    std::sort(took.begin(), took.end());
    const std::size_t half = took.size() / 2;
    rows.at(id)->usual_days = took.size() % 2 ? took[half] : (took[half - 1] + took[half]) / 2.0;
  }
}

}  // namespace

Result<std::vector<RosterRow>> Library::roster(const std::string& today_iso) {
  auto all = athletes();
  if (!all) return fail(all.error());
  return impl_->guarded([&]() -> Result<std::vector<RosterRow>> {
    std::vector<RosterRow> roster;
    roster.reserve(all->size());
    Rows rows;
    for (Athlete& athlete : *all) {
      roster.emplace_back();
      roster.back().athlete = std::move(athlete);
      addOwnWords(roster.back());
    }
    for (RosterRow& row : roster) rows[row.athlete.id.number] = &row;
    SQLite::Database& database = *impl_->database;
    each(database,
         "SELECT athlete, count(*), max(received_on), group_concat(DISTINCT variant), group_concat(DISTINCT lift) "
         "FROM submission WHERE clip_hash <> '' GROUP BY athlete",
         rows, [](SQLite::Statement& s, RosterRow& row) {
           row.clips = s.getColumn(1).getInt();
           row.last_on = s.getColumn(2).getString();
           for (const int column : {3, 4}) addWords(row, s.getColumn(column).getString());
         });
    each(database,
         "SELECT athlete, count(*), min(received_on) FROM submission WHERE clip_hash <> '' AND "
         "state IN ('new', 'needs_video', 'in_review', 'carried_over') GROUP BY athlete",
         rows, [](SQLite::Statement& s, RosterRow& row) {
           row.waiting = s.getColumn(1).getInt();
           row.waiting_since = s.getColumn(2).getString();
         });
    each(database,
         "SELECT athlete, count(*), min(nullif(review_on, '')), group_concat(title, ' ') FROM cue_thread "
         "WHERE state NOT IN ('met', 'dropped', 'paused') GROUP BY athlete",
         rows, [](SQLite::Statement& s, RosterRow& row) {
           row.open_cues = s.getColumn(1).getInt();
           row.due_on = s.getColumn(2).isNull() ? std::string() : s.getColumn(2).getString();
           addWords(row, s.getColumn(3).getString());
         });
    addReplies(database, rows, today_iso);
    each(database,
         "SELECT s.athlete, group_concat(DISTINCT f.finding) FROM finding_seen f JOIN submission s ON "
         "s.id = f.submission WHERE f.verdict = 'yes' GROUP BY s.athlete",
         rows, [](SQLite::Statement& s, RosterRow& row) { addWords(row, s.getColumn(1).getString()); });
    return roster;
  });
}

Result<int> Library::answeredSince(AthleteId athlete, const std::string& day_iso) {
  return impl_->guarded([&]() -> Result<int> {
    SQLite::Statement s(*impl_->database,
                        "SELECT count(*) FROM submission WHERE athlete = ? AND state = 'returned' AND clip_hash <> '' "
                        "AND json_extract(details, '$.answered_on') >= ?");
    s.bind(1, athlete.number);
    s.bind(2, day_iso);
    return s.executeStep() ? s.getColumn(0).getInt() : 0;
  });
}

Result<std::vector<SubmissionId>> Library::giveTo(SubmissionId id, AthleteId to) {
  auto films = filmsOfSet(id);
  if (!films) return fail(films.error());
  return impl_->guarded([&]() -> Result<std::vector<SubmissionId>> {
    SQLite::Database& database = *impl_->database;
    SQLite::Transaction whole(database, SQLite::TransactionBehavior::IMMEDIATE);
    if (auto there = athlete(to); !there) return fail(there.error());
    const auto first = impl_->find(id);
    if (!first) return deletedMeanwhile();
    if (first->athlete == to) return fail(ErrorCode::WrongUse, "It's theirs already.", "Choose somebody else.");
    std::vector<SubmissionId> gone{id};
    for (const SetFilm& film : *films) gone.push_back(film.film.id);
    const auto set = [&](const char* query, std::initializer_list<std::int64_t> values) {
      SQLite::Statement s(database, query);
      int at = 0;
      for (const std::int64_t value : values) s.bind(++at, value);
      s.exec();
    };
    for (const SubmissionId each : gone) {
      const auto row = impl_->find(each);
      if (!row) continue;
      set("UPDATE submission SET athlete = ? WHERE id = ?", {to.number, each.number});
      set("UPDATE cue_thread SET athlete = ? WHERE asked_in = ?", {to.number, each.number});
      set("UPDATE outgoing SET athlete = ? WHERE submission = ?", {to.number, each.number});
      // A number of somebody else's film says nothing of a cue that stays.
      set("UPDATE cue_thread SET value_now = NULL, sigma_now = NULL, measured_in = NULL, measured_on = '', seen = "
          "'{}', "
          "state = CASE WHEN state IN ('dropped', 'paused') THEN state ELSE 'asked' END "
          "WHERE measured_in = ? AND athlete <> ?",
          {each.number, to.number});
      if (!row->message_id) continue;
      set("UPDATE message SET athlete = ?1 WHERE id = ?2 AND NOT EXISTS "
          "(SELECT 1 FROM submission WHERE message_id = ?2 AND athlete <> ?1)",
          {to.number, row->message_id->number});
    }
    whole.commit();
    return gone;
  });
}

}  // namespace jib::library
