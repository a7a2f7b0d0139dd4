// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "desk/review/commands/review_command.h"

namespace jib::desk {

// Another style, or another side on a topic, for this athlete: limits, verdicts and words follow, measures do not.
class ChangeApproach : public ReviewCommand {
 public:
  ChangeApproach(ReviewDocument& document, const QString& text, Approach to)
      : ReviewCommand(document), value_(std::move(to)) {
    setText(text);
  }
  void redo() override { value_ = exchange(value_); }
  void undo() override { redo(); }

 private:
  Approach value_;
};

}  // namespace jib::desk
