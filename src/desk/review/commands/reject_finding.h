// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// The coach does not share a finding, and says why; or shares it again.
class RejectFinding : public ReviewCommand {
 public:
  RejectFinding(ReviewDocument& document, const QString& text, std::map<std::string, std::string, std::less<>> to)
      : ReviewCommand(document), value_(std::move(to)) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }

 private:
  std::map<std::string, std::string, std::less<>> value_;
};

}  // namespace jib::desk
