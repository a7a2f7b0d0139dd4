// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QUndoCommand>
#include <functional>

namespace jib::desk {

// A step of an undo stack made of what does it and what takes it back.
class Deed : public QUndoCommand {
 public:
  Deed(const QString& text, std::function<void()> redo, std::function<void()> undo)
      : redo_(std::move(redo)), undo_(std::move(undo)) {
    setText(text);
  }
  void redo() override { redo_(); }
  void undo() override { undo_(); }

 private:
  const std::function<void()> redo_, undo_;
};

}  // namespace jib::desk
