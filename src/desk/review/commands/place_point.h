// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Sets or takes away one point on one frame.
class PlacePoint : public ReviewCommand {
 public:
  PlacePoint(ReviewDocument& document, PinKey key, std::optional<PixelPoint> to, GestureId gesture);
  void redo() override { value_ = exchangePin(key_, value_); }
  void undo() override { redo(); }  // a swap is its own inverse
  int id() const override { return static_cast<int>(CommandId::PlacePoint); }
  bool mergeWith(const QUndoCommand* next) override;

 private:
  const PinKey key_;
  std::optional<PixelPoint> value_;
  const GestureId gesture_;
};

}  // namespace jib::desk
