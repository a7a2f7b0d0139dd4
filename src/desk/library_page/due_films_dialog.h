// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <vector>

#include "core/library/library.h"

class QFrame;
class QLabel;
class QPushButton;
class QTreeWidget;

namespace jib::desk {

// Clips that have been kept as long as was agreed. The coach ticks those that go; a second press deletes them. Numbers,
// cues and notes stay.
class DueFilmsDialog : public QDialog {
  Q_OBJECT

 public:
  explicit DueFilmsDialog(library::Library& library, QWidget* parent = nullptr);
  bool changed() const { return changed_; }

 private:
  void refresh();
  void ask();
  void keep();
  void remove();
  void tell(const QString& sentence, bool is_trouble = false);
  std::vector<library::SubmissionId> ticked() const;

  library::Library& library_;
  QTreeWidget* list_;
  QPushButton *ask_, *keep_;
  QFrame* sure_;
  QLabel *goes_, *told_;
  bool changed_ = false;
};

}  // namespace jib::desk
