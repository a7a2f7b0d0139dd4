// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that lets a clip's picture be set right by hand.
#include "core/library/library_impl.h"
#include "core/library/review_store.h"

namespace jib::library {
namespace {

void carry(Review& review, const std::function<PixelPoint(PixelPoint)>& along) {
  for (tracing::PlacedFrame& frame : review.placed)
    for (auto& point : frame.points)
      if (point) point = along(*point);
  for (coaching::Shape& shape : review.sketch.shapes)
    for (coaching::Anchor& anchor : shape.anchors) {
      anchor.place = along(anchor.place);
      for (auto& went : anchor.followed)
        if (went) went = along(*went);
    }
}

}  // namespace

Result<bool> Library::setUpright(SubmissionId id, const footage::Upright& upright, footage::PictureSize as_it_came) {
  return impl_->guarded([&]() -> Result<bool> {
    auto here = submission(id);
    if (!here) return fail(here.error());
    const fs::path clip = clipFile(*here);
    const footage::Upright before = footage::uprightOf(clip);
    const auto along = [&](PixelPoint p) { return footage::carried(p, before, upright, as_it_came); };
    SQLite::Transaction whole(*impl_->database);
    SQLite::Statement holders(*impl_->database, "SELECT id FROM submission WHERE clip_hash = ?");
    holders.bind(1, here->clip_hash);
    while (holders.executeStep()) {
      const SubmissionId holder(holders.getColumn(0).getInt64());
      if (const std::string json = impl_->json("review", holder); !json.empty()) {
        auto review = reviewFromJson(json);
        if (!review) return fail(review.error());
        carry(*review, along);
        impl_->setJson("review", holder, reviewToJson(*review));
      }
      for (const char* table : {"tracing", "finding_seen", "measured", "set_speed"}) {
        SQLite::Statement gone(*impl_->database, std::string("DELETE FROM ") + table + " WHERE submission = ?");
        gone.bind(1, holder.number);
        gone.exec();
      }
    }
    for (const char* table : {"clip_check", "clip_attempt", "clip_pulse"}) {
      SQLite::Statement gone(*impl_->database, std::string("DELETE FROM ") + table + " WHERE clip_hash = ?");
      gone.bind(1, here->clip_hash);
      gone.exec();
    }
    SQLite::Statement again(*impl_->database,
                            "UPDATE submission SET state = 'new', reason = '' WHERE clip_hash = ? AND "
                            "state = 'needs_video' AND reason <> ''");
    again.bind(1, here->clip_hash);
    again.exec();
    if (auto kept = footage::keepUpright(clip, upright); !kept) return kept;
    try {
      whole.commit();
    } catch (const SQLite::Exception&) {
      (void)footage::keepUpright(clip, before);
      throw;
    }
    impl_->disk->remove(pictureFile(here->clip_hash));
    return true;
  });
}

}  // namespace jib::library
