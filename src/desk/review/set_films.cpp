// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/set_films.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/coaching/two_films.h"
#include "core/exchange/intake/prepare.h"
#include "core/tracing/trace_store.h"
#include "desk/review/other_view.h"
#include "desk/text.h"
#include "drawing/lifter_extent.h"

namespace jib::desk {

SetFilms::SetFilms(library::Library& library, ReviewDocument& document, OtherView& view, QObject* parent)
    : QObject(parent), library_(library), document_(document), view_(view) {
  connect(&view_, &OtherView::offsetChanged, this, &SetFilms::shift);
}

void SetFilms::open() {
  auto films = library_.filmsOfSet(document_.submission().id);
  if (!films) return emit said(q(films.error().sentence()), true);
  films_.clear();
  for (library::SetFilm& film : *films)
    if (!film.film.clip_hash.empty()) films_.push_back({std::move(film), nullptr});
  if (films_.empty()) return;
  show(0);
}

void SetFilms::show(std::size_t which) {
  shown_ = which;
  const Film& film = films_[which];
  QString title = q(film.is.film.clip_name);
  if (films_.size() > 1) title += tr(" (%1 of %2)").arg(which + 1).arg(films_.size());
  view_.open(library_.clipFile(film.is.film), title, film.is.offset_s);
  view_.setAnalysis(film.analysis);
  view_.setEvidence(std::nullopt);
  view_.setCrop(film.analysis ? drawing::lifterExtent(*film.analysis) : QRectF());
  emit shown(film.is.offset_s);
}

void SetFilms::showNext() {
  if (films_.size() < 2) return emit said(tr("No third clip of this set yet. Pair them in the queue."), false);
  show((shown_ + 1) % films_.size());
}

// One of the films is so much later.
void SetFilms::shift(double offset_s) {
  const auto& mine = document_.submission();
  if (auto kept = library_.setOffset(mine.id, films_[shown_].is.film.id, offset_s); !kept)
    return emit said(q(kept.error().sentence()), true);
  // What hangs on it has moved along.
  const auto films = library_.filmsOfSet(mine.id);
  if (!films) return emit said(q(films.error().sentence()), true);
  for (Film& known : films_)
    for (const library::SetFilm& now : *films)
      if (now.film.id == known.is.film.id) known.is.offset_s = now.offset_s;
  if (const auto row = library_.submission(mine.id)) document_.setPairOffset(row->details.pair_offset_s);
  give();
}

// What the other films show of the set is judged with this one: from their stored tracing, or traced now, one after the
// other, once this clip is done.
void SetFilms::judge() {
  const auto film = std::find_if(films_.begin(), films_.end(), [](const Film& f) { return !f.analysis && !f.tried; });
  if (film == films_.end() || jobs_.busy()) return;
  film->tried = true;
  const auto& s = document_.submission();
  auto review = library_.review(film->is.film.id);
  auto stored = library_.tracing(film->is.film.id);
  if (!review || !stored) return judge();  // the next one may be readable
  // It is the same lift, whatever was said of it.
  library::Submission as = film->is.film;
  as.lift = s.lift;
  as.variant = s.variant;
  const auto request = exchange::requestFor(as, *review, document_.athlete().profile);
  jobs_.start<coaching::Analysis>(
      tr("Tracking the second camera…"),
      [clip = library_.clipFile(film->is.film), request, json = *stored, style = document_.style(),
       book = document_.book()](Task& task) -> Result<coaching::Analysis> {
        auto reader = footage::FrameReader::open(clip);
        if (!reader) return fail(reader.error());
        if (!json.empty())
          if (auto again = exchange::restored(reader->info(), request, json, style, book)) return again;
        return coaching::analyse(*reader, request, style, book, task);
      },
      [this, which = static_cast<std::size_t>(film - films_.begin()),
       fresh = stored->empty()](Result<coaching::Analysis> other) {
        // Nothing to measure there is no fault of this review: the film can still be looked at.
        if (other) {
          traced(which, std::move(*other), fresh);
        } else {
          if (other.error().code == ErrorCode::Cancelled) return;
          emit said(tr("The second camera is only shown (O), not measured: %1").arg(q(other.error().what)), false);
        }
        judge();
      });
}

void SetFilms::traced(std::size_t which, coaching::Analysis other, bool fresh) {
  Film& film = films_[which];
  if (fresh)
    if (auto kept = library_.saveTracing(film.is.film.id, tracing::traceToJson(other.trace).dump()); !kept)
      emit said(q(kept.error().sentence()), true);
  film.analysis = std::make_shared<const coaching::Analysis>(std::move(other));
  if (which == shown_) {
    view_.setAnalysis(film.analysis);
    view_.setCrop(drawing::lifterExtent(*film.analysis));
  }
  give();
  const auto a = document_.analysis();
  if (!a || !coaching::isJoined(*a)) return;
  emit joined();
  QStringList from;
  for (const coaching::OtherFilm& joined : a->others)
    if (!joined.joined.empty()) from << q(coaching::filmedFrom(*joined.analysis));
  emit said((from.size() > 1 ? tr("Three clips, one review: what this angle can't show comes %1.")
                             : tr("Two clips, one review: what this angle can't show comes %1."))
                .arg(from.join(tr(" and "))),
            false);
}

void SetFilms::give() {
  std::vector<coaching::OtherFilm> others;
  for (const Film& film : films_)
    if (film.analysis) others.push_back({film.analysis, film.is.offset_s, {}});
  document_.setOthers(std::move(others));
}

bool SetFilms::showEvidence(lifts::Drawing drawing) {
  const auto a = document_.analysis();
  const coaching::OtherFilm* film = a && view_.isOpen() ? coaching::filmToDrawOn(*a, drawing) : nullptr;
  const auto at =
      std::find_if(films_.begin(), films_.end(), [&](const Film& f) { return film && f.analysis == film->analysis; });
  if (at == films_.end()) {
    view_.setEvidence(std::nullopt);
    return false;
  }
  if (const auto which = static_cast<std::size_t>(at - films_.begin()); which != shown_) show(which);
  view_.setEvidence(drawing);
  return true;
}

std::vector<coaching::Claim> SetFilms::openClaims(std::vector<coaching::Claim> claims) {
  const auto a = document_.analysis();
  if (!a || !coaching::isJoined(*a)) return claims;
  for (const Film& film : films_) {
    const auto json = library_.checkOf(film.is.film.clip_hash);
    if (!film.analysis || !json || json->empty()) continue;
    const auto check = coaching::checkFromJson(*json);
    if (!check) continue;
    std::erase_if(claims, [&](const coaching::Claim& mine) {
      const auto* theirs = check->claim(mine.id);
      return mine.can == coaching::Can::No && theirs && theirs->can != coaching::Can::No;
    });
  }
  return claims;
}

}  // namespace jib::desk
