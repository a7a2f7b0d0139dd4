// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Changes what is known about how the clip was made: variant, load, plate size, slow motion.
class ChangeSetUp : public ReviewCommand {
 public:
  ChangeSetUp(ReviewDocument& document, const QString& text, SetUp to, GestureId gesture)
      : ReviewCommand(document), value_(std::move(to)), gesture_(gesture) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }
  int id() const override { return static_cast<int>(CommandId::ChangeSetUp); }
  bool mergeWith(const QUndoCommand* next) override {
    return static_cast<const ChangeSetUp*>(next)->gesture_ == gesture_;
  }

 private:
  SetUp value_;
  const GestureId gesture_;
};

}  // namespace jib::desk
