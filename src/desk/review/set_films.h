// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

#include "core/coaching/clip_check.h"
#include "core/library/library.h"
#include "desk/jobs/job_runner.h"
#include "desk/review/review_document.h"

namespace jib::desk {

class OtherView;

// The other films of the set under review: one of them is shown beside the clip, and what they show of the set is
// judged with it.
class SetFilms : public QObject {
  Q_OBJECT

 public:
  struct Film {
    library::SetFilm is;
    std::shared_ptr<const coaching::Analysis> analysis = nullptr;  // what was traced there; null: not yet, or nothing
    bool tried = false;
  };

  SetFilms(library::Library& library, ReviewDocument& document, OtherView& view, QObject* parent = nullptr);

  // From the library, if clips were put together.
  void open();
  const std::vector<Film>& films() const { return films_; }
  bool empty() const { return films_.empty(); }
  JobRunner& jobs() { return jobs_; }
  void showNext();
  // The one that is shown is so much later.
  void shift(double offset_s);
  // What the others show is judged with this clip: from their stored tracing, or traced now, one after the other.
  void judge();
  // Where a drawing shows in another film, that one is shown, with it. False: this clip shows it.
  bool showEvidence(lifts::Drawing drawing);
  // Claims that no other film of the set carries either.
  std::vector<coaching::Claim> openClaims(std::vector<coaching::Claim> claims);

 signals:
  void shown(double offset_s);  // another film is in the view
  void joined();                // what a film shows is judged with this clip now
  void said(const QString& sentence, bool is_trouble);

 private:
  void show(std::size_t which);
  void traced(std::size_t which, coaching::Analysis other, bool fresh);
  void give();

  library::Library& library_;
  ReviewDocument& document_;
  OtherView& view_;
  JobRunner jobs_{Lane::Replace};
  std::vector<Film> films_;
  std::size_t shown_ = 0;  // in the view
};

}  // namespace jib::desk
