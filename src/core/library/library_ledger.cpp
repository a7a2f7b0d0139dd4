// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach has said before: the part of the library that reads it back from the cues that went out, as the coach
// has changed it since.
#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/library/borrowed_cues.h"
#include "core/library/library_impl.h"

namespace jib::library {
namespace {

using Json = nlohmann::json;
using Key = std::pair<std::string, std::string>;  // finding, and the words as they went out

struct Change {
  std::string wording, drill;
  bool put_away = false;
};

std::map<Key, Change> changesFrom(const std::string& text) {
  std::map<Key, Change> changes;
  const Json j = Json::parse(text, nullptr, false);
  if (!j.is_array()) return changes;
  for (const Json& one : j) {
    const auto string = [&](const char* key) {
      const auto it = one.find(key);
      return it != one.end() && it->is_string() ? it->get<std::string>() : std::string();
    };
    if (!one.is_object() || string("as_said").empty()) continue;
    const auto away = one.find("put_away");
    changes[{string("finding"), string("as_said")}] = {string("wording"), string("drill"),
                                                       away != one.end() && away->is_boolean() && away->get<bool>()};
  }
  return changes;
}

std::string changesTo(const std::map<Key, Change>& changes) {
  Json j = Json::array();
  for (const auto& [key, change] : changes)
    j.push_back({{"finding", key.first},
                 {"as_said", key.second},
                 {"wording", change.wording},
                 {"drill", change.drill},
                 {"put_away", change.put_away}});
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

std::map<Key, Change> changesIn(SQLite::Database& database) {
  SQLite::Statement s(database, "SELECT json FROM setting WHERE name = 'book'");
  return s.executeStep() ? changesFrom(s.getColumn(0).getString()) : std::map<Key, Change>();
}

// To whom each wording was said most often.
std::map<Key, std::string> mostTo(SQLite::Database& database) {
  std::map<Key, std::string> most;
  SQLite::Statement s(database,
                      "SELECT finding, wording, athlete.name FROM cue_thread JOIN athlete ON athlete.id = athlete "
                      "WHERE wording <> '' GROUP BY finding, wording, athlete ORDER BY count(*) DESC, athlete.name");
  while (s.executeStep())
    most.emplace(Key{s.getColumn(0).getString(), s.getColumn(1).getString()}, s.getColumn(2).getString());
  return most;
}

// Two wordings that the coach has made the same are one.
void add(std::vector<Library::SaidBefore>& all, Library::SaidBefore said) {
  const auto same = std::find_if(all.begin(), all.end(), [&](const Library::SaidBefore& s) {
    return s.finding == said.finding && s.wording == said.wording && s.put_away == said.put_away;
  });
  if (same == all.end()) return all.push_back(std::move(said));
  same->times += said.times;
  same->helped += said.helped;
  same->times_here += said.times_here;
  same->last_on = std::max(same->last_on, said.last_on);
  same->as_said.insert(same->as_said.end(), said.as_said.begin(), said.as_said.end());
}

std::vector<Library::SaidBefore> all(SQLite::Database& database, const fs::path& folder, AthleteId athlete) {
  const auto changes = changesIn(database);
  const auto most = mostTo(database);
  std::vector<Library::SaidBefore> said;
  SQLite::Statement s(database,
                      "SELECT finding, max(title), wording, max(drill), count(*) AS times, "
                      "sum(state IN ('met', 'better')) AS helped, sum(athlete = ?) AS here, max(asked_on) "
                      "FROM cue_thread WHERE wording <> '' GROUP BY finding, wording "
                      "ORDER BY finding, here > 0 DESC, helped DESC, times DESC, wording");
  s.bind(1, athlete.number);
  while (s.executeStep()) {
    const Key key{s.getColumn(0).getString(), s.getColumn(2).getString()};
    Library::SaidBefore one{key.first,
                            s.getColumn(1).getString(),
                            key.second,
                            s.getColumn(3).getString(),
                            s.getColumn(4).getInt(),
                            s.getColumn(5).getInt(),
                            s.getColumn(6).getInt(),
                            {key.second},
                            s.getColumn(7).getString()};
    if (const auto to = most.find(key); to != most.end()) one.most_to = to->second;
    if (const auto change = changes.find(key); change != changes.end()) {
      one.wording = change->second.wording;
      one.drill = change->second.drill;
      one.put_away = change->second.put_away;
    }
    add(said, std::move(one));
  }
  // What another coach handed on comes after what was said here.
  for (const BorrowedCue& b : borrowedCues(folder)) {
    Library::SaidBefore one{b.finding, b.title, b.wording, b.drill, 0, 0, 0, {b.wording}, {}};
    if (const auto change = changes.find({b.finding, b.wording}); change != changes.end()) {
      one.wording = change->second.wording;
      one.drill = change->second.drill;
      one.put_away = change->second.put_away;
    }
    add(said, std::move(one));
  }
  return said;
}

}  // namespace

Result<std::vector<Library::SaidBefore>> Library::saidBefore(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<SaidBefore>> {
    auto said = all(*impl_->database, impl_->folder, athlete);
    std::erase_if(said, [](const SaidBefore& s) { return s.put_away; });
    return said;
  });
}

Result<std::vector<Library::SaidBefore>> Library::book() {
  return impl_->guarded(
      [&]() -> Result<std::vector<SaidBefore>> { return all(*impl_->database, impl_->folder, AthleteId(0)); });
}

Result<bool> Library::setBookEntry(const SaidBefore& entry) {
  return impl_->guarded([&]() -> Result<bool> {
    auto changes = changesIn(*impl_->database);
    for (const std::string& said : entry.as_said)
      changes[{entry.finding, said}] = {entry.wording, entry.drill, entry.put_away};
    SQLite::Statement s(*impl_->database,
                        "INSERT INTO setting(name, json) VALUES('book', ?) "
                        "ON CONFLICT(name) DO UPDATE SET json = excluded.json");
    s.bind(1, changesTo(changes));
    return s.exec() == 1;
  });
}

}  // namespace jib::library
