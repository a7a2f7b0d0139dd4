// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QUndoCommand>
#include <functional>

namespace jib::desk {

// The clip's picture was turned, mirrored or stretched, and the clip opened anew. Taking it back opens it once more, so
// this is the first thing on the new review's stack.
class TurnPicture : public QUndoCommand {
 public:
  TurnPicture(const QString& text, std::function<void()> back) : back_(std::move(back)) { setText(text); }
  void redo() override {}
  void undo() override { back_(); }

 private:
  const std::function<void()> back_;
};

}  // namespace jib::desk
