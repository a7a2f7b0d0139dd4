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
  PinValues exchangePins(const PinValues& to) { return document_.exchangePins(to); }
  SetUp exchangeSetUp(SetUp to) { return document_.exchangeSetUp(std::move(to)); }
  coaching::Marks exchangeMarks(coaching::Marks to) { return document_.exchangeMarks(std::move(to)); }
  coaching::Sketch exchangeSketch(coaching::Sketch to) { return document_.exchangeSketch(std::move(to)); }
  std::map<std::string, std::string, std::less<>> exchangeRejected(std::map<std::string, std::string, std::less<>> to) {
    return document_.exchangeRejected(std::move(to));
  }
  std::optional<motion::HeldReps> exchangeReps(std::optional<motion::HeldReps> to) {
    return document_.exchangeReps(std::move(to));
  }
  coaching::Bookmarks exchangeBookmarks(coaching::Bookmarks to) { return document_.exchangeBookmarks(std::move(to)); }
  Approach exchangeApproach(Approach to) { return document_.exchangeApproach(std::move(to)); }
  CueChoice exchangeChoice(CueChoice to) { return document_.exchangeChoice(std::move(to)); }

 private:
  ReviewDocument& document_;  // owns the stack that owns this
};

}  // namespace jib::desk
