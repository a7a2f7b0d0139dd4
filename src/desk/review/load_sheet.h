// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "core/coaching/plan.h"
#include "core/review/session.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace jib::desk {

class MassBox;

// The arithmetic of loads for one athlete and lift: sets as they are typed become loads and plates of this gym's rack.
// Warm-ups, ramps, ladders, back-off sets and attempts are typed at a press. Nothing of a max for anybody sore or under
// 18.
class LoadSheet : public QDialog {
  Q_OBJECT

 public:
  explicit LoadSheet(const review::Session& session, QWidget* parent = nullptr);
  // Sets to begin with, as typed.
  void setTyped(const QString& sets);

 signals:
  void taken(const QString& sets);  // "3 x 3 at 125 kg (276 lb)"

 private:
  void addMax(class QVBoxLayout& column, const review::Session& session);
  void addMakers(class QVBoxLayout& column);
  void make(const Result<coaching::Plan>& plan);
  void refresh();
  void show(const coaching::Plan& plan, QStringList notes);
  std::optional<double> max() const;
  double top() const;  // the heaviest set typed, else the film's load

  bool gentle_ = false;
  coaching::Rack rack_;
  double filmed_kg_ = 0;
  MassBox* max_ = nullptr;
  QLineEdit* typed_ = nullptr;
  QTableWidget* table_ = nullptr;
  QLabel* notes_ = nullptr;
  QPushButton* take_ = nullptr;
  std::vector<QPushButton*> of_a_max_;  // makers that need one
  coaching::Plan plan_;
};

}  // namespace jib::desk
