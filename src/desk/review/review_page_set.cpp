// SPDX-License-Identifier: GPL-3.0-or-later
// The other films of the same set: shown beside this one, and judged together with it.
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/coaching/two_films.h"
#include "core/exchange/intake/prepare.h"
#include "core/tracing/trace_store.h"
#include "desk/review/other_view.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "desk/text.h"
#include "drawing/lifter_extent.h"

namespace jib::desk {

// The same set from other sides, if clips were put together.
void ReviewPage::openSet() {
  auto films = library_.filmsOfSet(document_->submission().id);
  if (!films) return say(q(films.error().sentence()), true);
  set_films_.clear();
  for (library::SetFilm& film : *films)
    if (!film.film.clip_hash.empty()) set_films_.push_back({std::move(film), nullptr});
  if (set_films_.empty()) return;
  showFilm(0);
  other_->setVisible(other_view_->isOpen());
}

void ReviewPage::showFilm(std::size_t which) {
  film_shown_ = which;
  const FilmOfSet& film = set_films_[which];
  QString title = q(film.is.film.clip_name);
  if (set_films_.size() > 1) title += tr(" (%1 of %2)").arg(which + 1).arg(set_films_.size());
  other_view_->open(library_.clipFile(film.is.film), title, film.is.offset_s);
  other_view_->setAnalysis(film.analysis);
  other_view_->setEvidence(std::nullopt);
  other_view_->setCrop(film.analysis ? drawing::lifterExtent(*film.analysis) : QRectF());
  other_view_->follow(player_.time());
}

void ReviewPage::showNextFilm() {
  if (set_films_.size() < 2)
    return say(tr("No third clip of this set is known; put them together in the list."), false);
  other_->setChecked(true);
  showFilm((film_shown_ + 1) % set_films_.size());
}

// One of the films is so much later.
void ReviewPage::shiftFilm(double offset_s) {
  const auto& mine = document_->submission();
  if (auto kept = library_.setOffset(mine.id, set_films_[film_shown_].is.film.id, offset_s); !kept)
    return say(q(kept.error().sentence()), true);
  // What hangs on it has moved along.
  const auto films = library_.filmsOfSet(mine.id);
  if (!films) return say(q(films.error().sentence()), true);
  for (FilmOfSet& known : set_films_)
    for (const library::SetFilm& now : *films)
      if (now.film.id == known.is.film.id) known.is.offset_s = now.offset_s;
  if (const auto row = library_.submission(mine.id)) document_->setPairOffset(row->details.pair_offset_s);
  giveOthers();
}

// What the other films show of the set is judged with this one: from their stored tracing, or traced now, one after the
// other, once this clip is done.
void ReviewPage::judgeWithSet() {
  const auto film =
      std::find_if(set_films_.begin(), set_films_.end(), [](const FilmOfSet& f) { return !f.analysis && !f.tried; });
  if (film == set_films_.end() || other_jobs_.busy()) return;
  film->tried = true;
  const auto& s = document_->submission();
  auto review = library_.review(film->is.film.id);
  auto stored = library_.tracing(film->is.film.id);
  if (!review || !stored) return judgeWithSet();  // the next one may be readable
  // It is the same lift, whatever was said of it.
  library::Submission as = film->is.film;
  as.lift = s.lift;
  as.variant = s.variant;
  const auto request = exchange::requestFor(as, *review, document_->athlete().profile);
  other_jobs_.start<coaching::Analysis>(
      tr("Tracing the other film of the set…"),
      [clip = library_.clipFile(film->is.film), request, json = *stored, style = document_->style(),
       book = document_->book()](Task& task) -> Result<coaching::Analysis> {
        auto reader = footage::FrameReader::open(clip);
        if (!reader) return fail(reader.error());
        if (!json.empty())
          if (auto again = exchange::restored(reader->info(), request, json, style, book)) return again;
        return coaching::analyse(*reader, request, style, book, task);
      },
      [this, which = static_cast<std::size_t>(film - set_films_.begin()),
       traced = stored->empty()](Result<coaching::Analysis> other) {
        // Nothing to measure there is no fault of this review: the film can still be looked at.
        if (other) {
          filmTraced(which, std::move(*other), traced);
        } else {
          if (other.error().code == ErrorCode::Cancelled) return;
          say(tr("The other film of the set is only shown (O), not measured: %1").arg(q(other.error().what)), false);
        }
        judgeWithSet();
      });
}

void ReviewPage::filmTraced(std::size_t which, coaching::Analysis other, bool fresh) {
  FilmOfSet& film = set_films_[which];
  if (fresh)
    if (auto kept = library_.saveTracing(film.is.film.id, tracing::traceToJson(other.trace).dump()); !kept)
      say(q(kept.error().sentence()), true);
  film.analysis = std::make_shared<const coaching::Analysis>(std::move(other));
  if (which == film_shown_) {
    other_view_->setAnalysis(film.analysis);
    other_view_->setCrop(drawing::lifterExtent(*film.analysis));
  }
  giveOthers();
  const auto a = document_->analysis();
  if (!a || !coaching::isJoined(*a)) return;
  showClaims();
  QStringList from;
  for (const coaching::OtherFilm& joined : a->others)
    if (!joined.joined.empty()) from << q(coaching::filmedFrom(*joined.analysis));
  say((from.size() > 1 ? tr("Three films, one review: what this view cannot show is taken from the films %1.")
                       : tr("Two films, one review: what this view cannot show is taken from the film %1."))
          .arg(from.join(tr(" and "))),
      false);
}

void ReviewPage::giveOthers() {
  std::vector<coaching::OtherFilm> others;
  for (const FilmOfSet& film : set_films_)
    if (film.analysis) others.push_back({film.analysis, film.is.offset_s, {}});
  document_->setOthers(std::move(others));
}

// The film of the set a drawing is shown in; nullopt: this clip.
std::optional<std::size_t> ReviewPage::filmFor(lifts::Drawing drawing) const {
  const auto a = document_->analysis();
  const coaching::OtherFilm* film = a && other_view_->isOpen() ? coaching::filmToDrawOn(*a, drawing) : nullptr;
  if (!film) return std::nullopt;
  const auto at = std::find_if(set_films_.begin(), set_films_.end(),
                               [&](const FilmOfSet& f) { return f.analysis == film->analysis; });
  return at == set_films_.end() ? std::nullopt : std::optional<std::size_t>(at - set_films_.begin());
}

// Small, in a corner of the stage; large, beside it.
void ReviewPage::setOtherLarge(bool large) {
  other_large_ = large;
  if (large) {
    pictures_->addWidget(other_view_, 2);
  } else {
    pictures_->removeWidget(other_view_);
    other_view_->setParent(stage_);
  }
  other_view_->setVisible(other_->isChecked());
  placeOtherView();
  other_view_->follow(player_.time());
}

}  // namespace jib::desk
