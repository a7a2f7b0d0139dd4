// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/coaching/change.h"

namespace jib::desk {

// One change as a coach says it: what, from what, to what.
class ChangeRow : public QWidget {
  Q_OBJECT

 public:
  ChangeRow(const lifts::LiftDefinition& lift, coaching::Change change, QWidget* parent = nullptr);

 signals:
  void changed(const jib::coaching::Change& to);
  void removed();

 private:
  void addNumbers(class QHBoxLayout& row);
  void addWords(class QHBoxLayout& row);
  coaching::Change change_;
};

}  // namespace jib::desk
