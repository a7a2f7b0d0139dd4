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
    : ReviewCommand(document), key_(key), value_(to), gesture_(gesture) {
  const QString name = q(tracing::titleOf(key.point));
  setText((to ? QCoreApplication::translate("PlacePoint", "place %1")
              : QCoreApplication::translate("PlacePoint", "unpin %1"))
              .arg(name));
}

bool PlacePoint::mergeWith(const QUndoCommand* next) {
  const auto* later = static_cast<const PlacePoint*>(next);
  // value_ already holds what was there before the gesture; the later command's effect stands in the document.
  return later->gesture_ == gesture_ && later->key_ == key_;
}

}  // namespace jib::desk
