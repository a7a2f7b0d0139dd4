// SPDX-License-Identifier: GPL-3.0-or-later
// The other film of the same set: shown beside this one, and judged together with it.
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
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

// The same set from another side, if the two were put together.
void ReviewPage::openPair() {
  const auto& s = document_->submission();
  if (!s.pair) return;
  auto pair = library_.submission(*s.pair);
  if (!pair) return;
  other_view_->open(library_.clipFile(*pair), q(pair->clip_name), s.details.pair_offset_s.value_or(0));
  other_->setVisible(other_view_->isOpen());
}

// What the other film shows of the set is judged with this one: from its stored tracing, or traced now, once this clip
// is done.
void ReviewPage::judgeWithPair() {
  const auto& s = document_->submission();
  if (!s.pair || !other_view_->isOpen() || other_jobs_.busy()) return;
  auto pair = library_.submission(*s.pair);
  auto review = pair ? library_.review(pair->id) : Result<library::Review>(fail(pair.error()));
  auto stored = pair ? library_.tracing(pair->id) : Result<std::string>(fail(pair.error()));
  if (!review || !stored) return;
  // It is the same lift, whatever was said of it.
  library::Submission as = *pair;
  as.lift = s.lift;
  as.variant = s.variant;
  const auto request = exchange::requestFor(as, *review, document_->athlete().profile);
  other_jobs_.start<coaching::Analysis>(
      tr("Tracing the other film of the set…"),
      [clip = library_.clipFile(*pair), request, json = *stored, style = document_->style(),
       book = document_->book()](Task& task) -> Result<coaching::Analysis> {
        auto reader = footage::FrameReader::open(clip);
        if (!reader) return fail(reader.error());
        if (!json.empty())
          if (auto again = exchange::restored(reader->info(), request, json, style, book)) return again;
        return coaching::analyse(*reader, request, style, book, task);
      },
      [this, id = pair->id, traced = stored->empty()](Result<coaching::Analysis> other) {
        // Nothing to measure there is no fault of this review: the film can still be looked at.
        if (!other) {
          if (other.error().code != ErrorCode::Cancelled)
            say(tr("The other film of the set is only shown (O), not measured: %1").arg(q(other.error().what)), false);
          return;
        }
        if (traced)
          if (auto kept = library_.saveTracing(id, tracing::traceToJson(other->trace).dump()); !kept)
            say(q(kept.error().sentence()), true);
        pairTraced(std::move(*other));
      });
}

void ReviewPage::pairTraced(coaching::Analysis other) {
  auto shared = std::make_shared<const coaching::Analysis>(std::move(other));
  other_view_->setAnalysis(shared);
  other_view_->setCrop(drawing::lifterExtent(*shared));
  document_->setOther(shared);
  const auto a = document_->analysis();
  if (!a || !a->other || a->other->joined.empty()) return;
  showClaims();
  say(tr("Two films, one review: what this view cannot show is taken from the film %1.")
          .arg(q(coaching::filmedFrom(*shared))),
      false);
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
