// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that lets the coach say how a clip's picture is to be taken: set right by hand, and from
// where.
#include <cmath>

#include "core/base/angle.h"
#include "core/library/library_impl.h"
#include "core/library/review_store.h"

namespace jib::library {
namespace {

void carry(Review& review, const std::function<PixelPoint(PixelPoint)>& along, bool mirrored) {
  for (tracing::PlacedFrame& frame : review.placed) {
    for (const tracing::PointName& name : tracing::allPointNames())
      if (auto& point = frame.at(name)) point = along(*point);
    // What was the left knee on a mirrored film is the right one.
    if (mirrored) std::swap(frame.sides[0], frame.sides[1]);
  }
  for (coaching::Shape& shape : review.sketch.shapes)
    for (coaching::Anchor& anchor : shape.anchors) {
      anchor.place = along(anchor.place);
      if (mirrored && anchor.rides && anchor.rides->side)
        anchor.rides->side = tracing::kSides[anchor.rides->side == tracing::BodySide::Left ? 1 : 0];
      for (auto& went : anchor.followed)
        if (went) went = along(*went);
    }
}

void forgetTraced(SQLite::Database& database, SubmissionId id) {
  for (const char* table : {"tracing", "finding_seen", "measured", "set_speed"}) {
    SQLite::Statement gone(database, std::string("DELETE FROM ") + table + " WHERE submission = ?");
    gone.bind(1, id.number);
    gone.exec();
  }
}

void forgetLooks(SQLite::Database& database, const std::string& clip_hash, std::initializer_list<const char*> tables) {
  for (const char* table : tables) {
    SQLite::Statement gone(database, std::string("DELETE FROM ") + table + " WHERE clip_hash = ?");
    gone.bind(1, clip_hash);
    gone.exec();
  }
}

}  // namespace

Result<bool> Library::tellAnew(SubmissionId id, const std::function<void(SubmissionDetails&)>& tell) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto here = submission(id);
    if (!here) return fail(here.error());
    tell(here->details);
    impl_->update(*here);
    forgetTraced(*impl_->database, id);
    forgetLooks(*impl_->database, here->clip_hash, {"clip_check"});
    whole.commit();
    return true;
  });
}

Result<bool> Library::setSeenFrom(SubmissionId id, const std::string& view) {
  return tellAnew(id, [&](SubmissionDetails& details) { details.seen_from = view; });
}

Result<bool> Library::setLifter(SubmissionId id, const std::optional<tracing::PointedAt>& lifter) {
  return tellAnew(id, [&](SubmissionDetails& details) { details.lifter = lifter; });
}

Result<bool> Library::setUpright(SubmissionId id, const footage::Upright& upright, footage::PictureSize as_it_came) {
  return impl_->guarded([&]() -> Result<bool> {
    auto here = submission(id);
    if (!here) return fail(here.error());
    const fs::path clip = clipFile(*here);
    const footage::Upright before = footage::uprightOf(clip);
    const auto along = [&](PixelPoint p) { return footage::carried(p, before, upright, as_it_came); };
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    SQLite::Statement holders(*impl_->database, "SELECT id FROM submission WHERE clip_hash = ?");
    holders.bind(1, here->clip_hash);
    while (holders.executeStep()) {
      const SubmissionId holder(holders.getColumn(0).getInt64());
      if (const std::string json = impl_->json("review", holder); !json.empty()) {
        auto review = reviewFromJson(json);
        if (!review) return fail(review.error());
        carry(*review, along, before.mirror != upright.mirror);
        if (auto kept = impl_->saveReview(holder, *review, std::nullopt); !kept) return fail(kept.error());
      }
      auto row = submission(holder);
      if (!row) return fail(row.error());
      if (auto& lifter = row->details.lifter) lifter->at = along(lifter->at);
      // Seen in a mirror, the athlete's left is their right.
      if (before.mirror != upright.mirror) row->details.seen_from = tracing::mirroredView(row->details.seen_from);
      // What was said to be vertical goes with the picture.
      if (auto& roll = row->details.roll_deg) {
        const PixelPoint down = along(PixelPoint{std::sin(radians(*roll)), std::cos(radians(*roll))}) - along({0, 0});
        roll = degrees(std::atan2(down.x, down.y));
      }
      impl_->update(*row);
      forgetTraced(*impl_->database, holder);
    }
    forgetLooks(*impl_->database, here->clip_hash, {"clip_check", "clip_attempt", "clip_pulse"});
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
