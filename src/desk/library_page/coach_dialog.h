// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <map>
#include <string>

#include "core/library/library.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace jib::desk {

// Who the coach is: the name and address letters come from, whether every message is acknowledged by itself, and how
// athletes are judged for whom nothing else is chosen.
class CoachDialog : public QDialog {
  Q_OBJECT

 public:
  explicit CoachDialog(library::Library& library, QWidget* parent = nullptr);
  void accept() override;

 private:
  library::Library& library_;
  QLineEdit* name_;
  QLineEdit* address_;
  QCheckBox* receipts_;
  QComboBox* styles_;
  std::map<std::string, QComboBox*> topics_;
  QLabel* trouble_;
};

}  // namespace jib::desk
