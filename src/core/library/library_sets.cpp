// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that knows which films show the same set. A submission is linked to at most one other; a
// set's films are all that can be reached by links, in either direction.
#include <algorithm>

#include "core/library/library_impl.h"

namespace jib::library {
namespace {

struct Reached {
  SubmissionId id, from;
  double offset_s;
};

struct Link {
  SubmissionId id, to;
  double offset_s;
};

// Links of a submission and to it.
std::vector<Link> linksAt(SQLite::Database& database, SubmissionId id) {
  SQLite::Statement s(database,
                      "SELECT id, pair, details FROM submission WHERE pair IS NOT NULL AND (id = ?1 OR pair = ?1)");
  s.bind(1, id.number);
  std::vector<Link> links;
  while (s.executeStep())
    links.push_back({SubmissionId(s.getColumn(0).getInt64()), SubmissionId(s.getColumn(1).getInt64()),
                     detailsFromJson(s.getColumn(2).getString()).pair_offset_s.value_or(0)});
  return links;
}

// All films of a set, the one asked about first.
std::vector<Reached> reachedFrom(SQLite::Database& database, SubmissionId id) {
  std::vector<Reached> found{{id, id, 0}};
  for (std::size_t i = 0; i < found.size(); ++i)
    for (const Link& link : linksAt(database, found[i].id)) {
      const bool forth = link.id == found[i].id;
      const SubmissionId next = forth ? link.to : link.id;
      if (std::any_of(found.begin(), found.end(), [&](const Reached& r) { return r.id == next; })) continue;
      found.push_back({next, found[i].id, found[i].offset_s + (forth ? link.offset_s : -link.offset_s)});
    }
  return found;
}

}  // namespace

Result<std::vector<SetFilm>> Library::filmsOfSet(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::vector<SetFilm>> {
    std::vector<SetFilm> films;
    for (const Reached& r : reachedFrom(*impl_->database, id)) {
      if (r.id == id) continue;
      auto film = submission(r.id);
      if (!film) return fail(film.error());
      films.push_back({std::move(*film), r.offset_s});
    }
    return films;
  });
}

Result<bool> Library::joinSet(SubmissionId a, SubmissionId b, std::optional<double> offset_s) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto first = submission(a), second = submission(b);
    if (!first) return fail(first.error());
    if (!second) return fail(second.error());
    if (first->pair && second->pair)
      return fail(ErrorCode::BadData, "Both clips belong to other sets.", "Take one of them out of its set first.");
    if (!first->pair) {
      first->pair = b;
      first->details.pair_offset_s = offset_s;
      impl_->update(*first);
    }
    if (!second->pair) {
      second->pair = a;
      second->details.pair_offset_s = offset_s ? std::optional(-*offset_s) : std::nullopt;
      impl_->update(*second);
    }
    whole.commit();
    return true;
  });
}

Result<bool> Library::leaveSet(SubmissionId id) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    for (const Link& link : linksAt(*impl_->database, id)) {
      auto linked = submission(link.id);
      if (!linked) return fail(linked.error());
      linked->pair.reset();
      linked->details.pair_offset_s.reset();
      impl_->update(*linked);
    }
    whole.commit();
    return true;
  });
}

Result<bool> Library::setOffset(SubmissionId id, SubmissionId other, double offset_s) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    const auto films = reachedFrom(*impl_->database, id);
    const auto film = std::find_if(films.begin(), films.end(), [&](const Reached& r) { return r.id == other; });
    if (film == films.end() || other == id)
      return fail(ErrorCode::BadData, "The two clips are not of one set.", "Put them together in the list first.");
    const double more_s = offset_s - film->offset_s;
    for (const Link& link : linksAt(*impl_->database, other)) {
      const bool forth = link.id == film->from && link.to == other, back = link.id == other && link.to == film->from;
      if (!forth && !back) continue;
      auto linked = submission(link.id);
      if (!linked) return fail(linked.error());
      linked->details.pair_offset_s = link.offset_s + (forth ? more_s : -more_s);
      impl_->update(*linked);
    }
    whole.commit();
    return true;
  });
}

}  // namespace jib::library
