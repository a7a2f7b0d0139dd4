// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QUndoCommand>

#include "desk/review/review_document.h"

namespace jib::desk {

enum class CommandId { PlacePoint = 1, ChangeCues, ChangeSetUp, ChangeSketch, ChangeReps, ChangeBookmarks };

// Edits within one gesture (one drag, one field being typed in) merge; edits of different gestures do not.
using GestureId = int;
GestureId newGesture();

// Base of all edits of a review; the only way to its Editor functions.
class ReviewCommand : public QUndoCommand {
 public:
  explicit ReviewCommand(ReviewDocument& document) : document_(document) {}

 protected:
  // Swaps in a value and gives back the old one.
  template <class Value>
  Value exchange(Value to) {
    return document_.exchange(std::move(to));
  }

 private:
  ReviewDocument& document_;  // owns the stack that owns this
};

}  // namespace jib::desk
