// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Marks what only a person can judge: seen, fine, could not be seen, or not looked at again.
class MarkByEye : public ReviewCommand {
 public:
  MarkByEye(ReviewDocument& document, const QString& text, coaching::Marks to)
      : ReviewCommand(document), value_(std::move(to)) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }

 private:
  coaching::Marks value_;
};

}  // namespace jib::desk
