// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QUndoCommand>
#include <functional>
#include <optional>

namespace jib::desk {

// A limit of the coach's style, moved for every clip; undo puts it back where it was.
class MoveLimit : public QUndoCommand {
 public:
  using Move = std::function<void(std::optional<double> to)>;
  MoveLimit(const QString& text, std::optional<double> from, std::optional<double> to, Move move)
      : QUndoCommand(text), from_(from), to_(to), move_(std::move(move)) {}
  void redo() override { move_(to_); }
  void undo() override { move_(from_); }

 private:
  std::optional<double> from_, to_;
  Move move_;
};

}  // namespace jib::desk
