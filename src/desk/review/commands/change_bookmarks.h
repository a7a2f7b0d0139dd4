// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Drops a bookmark, words it, or takes it away. Typing one word is one edit.
class ChangeBookmarks : public ReviewCommand {
 public:
  ChangeBookmarks(ReviewDocument& document, const QString& text, coaching::Bookmarks to, GestureId gesture)
      : ReviewCommand(document), value_(std::move(to)), gesture_(gesture) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }
  int id() const override { return static_cast<int>(CommandId::ChangeBookmarks); }
  bool mergeWith(const QUndoCommand* next) override {
    return static_cast<const ChangeBookmarks*>(next)->gesture_ == gesture_;
  }

 private:
  coaching::Bookmarks value_;
  const GestureId gesture_;
};

}  // namespace jib::desk
