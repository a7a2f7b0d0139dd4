// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <map>
#include <string>

#include "core/review/coaching_file.h"

class QCheckBox;
class QLabel;

namespace jib::desk {

// What another coach handed on, part by part; what is ticked is taken over.
class TakeOverDialog : public QDialog {
  Q_OBJECT

 public:
  TakeOverDialog(library::Library& library, review::CoachingFile file, QWidget* parent = nullptr);
  void accept() override;
  bool tookSides() const { return took_sides_; }

 private:
  library::Library& library_;
  const review::CoachingFile file_;
  QCheckBox *cues_, *sides_;
  std::map<std::string, QCheckBox*> files_;
  QLabel* told_;
  bool took_sides_ = false;
};

}  // namespace jib::desk
