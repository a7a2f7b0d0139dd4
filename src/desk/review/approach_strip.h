// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <map>
#include <string>

#include "desk/review/review_document.h"

class QComboBox;

namespace jib::desk {

// What good coaches disagree about, one box a topic: where this athlete's coach stands. Shown on demand under the
// header; each change is an edit that can be undone.
class ApproachStrip : public QFrame {
  Q_OBJECT

 public:
  explicit ApproachStrip(ReviewDocument& document, QWidget* parent = nullptr);

 private:
  void refresh();
  void choose(const std::string& topic, const std::string& choice);

  ReviewDocument& document_;
  std::map<std::string, QComboBox*> boxes_;  // by topic
  bool refreshing_ = false;
};

}  // namespace jib::desk
