// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Sets or takes away points on one frame: one, or a foot's two together.
class PlacePoint : public ReviewCommand {
 public:
  PlacePoint(ReviewDocument& document, PinKey key, std::optional<PixelPoint> to, GestureId gesture);
  PlacePoint(ReviewDocument& document, const QString& text, PinValues values, GestureId gesture);
  void redo() override { values_ = exchange(values_); }
  void undo() override { redo(); }  // a swap is its own inverse
  int id() const override { return static_cast<int>(CommandId::PlacePoint); }
  bool mergeWith(const QUndoCommand* next) override;

 private:
  PinValues values_;
  const GestureId gesture_;
};

}  // namespace jib::desk
