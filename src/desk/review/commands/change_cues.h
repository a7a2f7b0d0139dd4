// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Changes what is said: cues chosen, taken away or reworded, the greeting, "change nothing".
class ChangeCues : public ReviewCommand {
 public:
  ChangeCues(ReviewDocument& document, const QString& text, CueChoice to, GestureId gesture)
      : ReviewCommand(document), value_(std::move(to)), gesture_(gesture) {
    value_.chosen = true;  // the coach's from now on
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }
  int id() const override { return static_cast<int>(CommandId::ChangeCues); }
  bool mergeWith(const QUndoCommand* next) override {
    return static_cast<const ChangeCues*>(next)->gesture_ == gesture_;
  }

 private:
  CueChoice value_;
  const GestureId gesture_;
};

}  // namespace jib::desk
