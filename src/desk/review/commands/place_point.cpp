// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/commands/place_point.h"
#include "desk/text.h"

#include <QCoreApplication>

namespace jib::desk {

GestureId newGesture() {
  static GestureId last = 0;
  return ++last;
}

PlacePoint::PlacePoint(ReviewDocument& document, PinKey key, std::optional<PixelPoint> to, GestureId gesture)
    : PlacePoint(document, QString(), {{key, to}}, gesture) {
  const QString name = q(tracing::titleOf(key.point));
  setText((to ? QCoreApplication::translate("PlacePoint", "place %1")
              : QCoreApplication::translate("PlacePoint", "unpin %1"))
              .arg(name));
}

PlacePoint::PlacePoint(ReviewDocument& document, const QString& text, PinValues values, GestureId gesture)
    : ReviewCommand(document), values_(std::move(values)), gesture_(gesture) {
  setText(text);
}

bool PlacePoint::mergeWith(const QUndoCommand* next) {
  const auto* later = static_cast<const PlacePoint*>(next);
  // values_ already hold what was there before the gesture; the later command's effect stands in the document.
  return later->gesture_ == gesture_ &&
         std::equal(values_.begin(), values_.end(), later->values_.begin(), later->values_.end(),
                    [](const auto& a, const auto& b) { return a.first == b.first; });
}

}  // namespace jib::desk
