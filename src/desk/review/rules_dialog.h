// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <filesystem>
#include <vector>

#include "core/coaching/rule_book.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace jib::desk {

// The rules of a federation as the coach reads them: what is asked, from which value on, and sets of one's own. Kept in
// the library's folder (coaching::RuleBook::keep); what came with the program can be put back.
class RulesDialog : public QDialog {
  Q_OBJECT

 public:
  RulesDialog(std::filesystem::path library_folder, const QString& id, QWidget* parent = nullptr);
  void accept() override;

 private:
  // One thing a meet may ask for.
  struct Row {
    coaching::RuleCheck check;
    QCheckBox* asked;
    QDoubleSpinBox* limit;  // in the unit people read
    double per;             // that unit, a unit of the measure
  };
  void open(const QString& id);
  void addRow(QGridLayout& grid, const coaching::RuleCheck& check, bool asked);
  void copy();
  void giveBack();
  void complain(const QString& sentence);
  coaching::RuleSet edited() const;

  const std::filesystem::path folder_;
  coaching::RuleBook book_;
  coaching::RuleSet set_;  // as it was opened
  std::vector<Row> rows_;
  QComboBox* which_;
  QLineEdit *title_, *version_, *kit_;
  QWidget* checks_ = nullptr;
  QLabel* told_;
  QPushButton* back_;
};

}  // namespace jib::desk
