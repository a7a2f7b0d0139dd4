// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>
#include <optional>

#include "core/coaching/style.h"
#include "core/lifts/measure.h"

class QDoubleSpinBox;
class QLabel;
class QHBoxLayout;

namespace jib::desk {

// A limit under its finding: a line that says where it is, and opens to move it or to put it back.
class LimitRow : public QWidget {
  Q_OBJECT

 public:
  using WouldSay = std::function<QString(const coaching::Limit& limit, double moved_to)>;
  LimitRow(const coaching::Limit& limit, const lifts::MeasureDefinition& kind, const QString& style, WouldSay would_say,
           QWidget* parent = nullptr);
  void setOpen(bool open);

 signals:
  void opened(bool open);
  void moved(std::optional<double> to);  // in the limit's own unit; nullopt: where the style has it

 private:
  void addButtons(QHBoxLayout& row, const QString& back);
  void tell();

  coaching::Limit limit_;
  double per_ = 1;  // what is read, for one of the limit's unit: centimetres for metres
  WouldSay would_say_;
  QWidget* mover_;
  QDoubleSpinBox* value_;
  QLabel* would_;
};

}  // namespace jib::desk
