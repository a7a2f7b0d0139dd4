// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Changes which reps there are and when their moments come; nullopt goes back to those that were found. One drag is one
// edit.
class ChangeReps : public ReviewCommand {
 public:
  ChangeReps(ReviewDocument& document, const QString& text, std::optional<motion::HeldReps> to, GestureId gesture)
      : ReviewCommand(document), value_(std::move(to)), gesture_(gesture) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }
  int id() const override { return static_cast<int>(CommandId::ChangeReps); }
  bool mergeWith(const QUndoCommand* next) override {
    return static_cast<const ChangeReps*>(next)->gesture_ == gesture_;
  }

 private:
  std::optional<motion::HeldReps> value_;
  const GestureId gesture_;
};

}  // namespace jib::desk
