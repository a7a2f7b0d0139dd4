// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Changes what is drawn over the clip; one drag is one edit.
class ChangeSketch : public ReviewCommand {
 public:
  ChangeSketch(ReviewDocument& document, const QString& text, coaching::Sketch to, GestureId gesture)
      : ReviewCommand(document), value_(std::move(to)), gesture_(gesture) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }
  int id() const override { return static_cast<int>(CommandId::ChangeSketch); }
  bool mergeWith(const QUndoCommand* next) override {
    return static_cast<const ChangeSketch*>(next)->gesture_ == gesture_;
  }

 private:
  coaching::Sketch value_;
  const GestureId gesture_;
};

}  // namespace jib::desk
