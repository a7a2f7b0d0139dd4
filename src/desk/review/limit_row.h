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

// A limit to be moved or put back, under its finding; a line beside the verdict says where it is and opens this.
class LimitRow : public QWidget {
  Q_OBJECT

 public:
  using WouldSay = std::function<QString(const coaching::Limit& limit, double moved_to)>;
  LimitRow(const coaching::Limit& limit, const lifts::MeasureDefinition& kind, const QString& style, WouldSay would_say,
           QWidget* parent = nullptr);
  void setOpen(bool open);
  // The line that opens it, for whoever has room for it.
  QWidget* opener() const { return opener_; }

 signals:
  void opened(bool open);
  void moved(std::optional<double> to);  // in the limit's own unit; nullopt: where the style has it

 private:
  void addButtons(QHBoxLayout& row, const QString& back);
  void tell();

  coaching::Limit limit_;
  double per_ = 1;  // what is read, for one of the limit's unit: centimetres for metres
  WouldSay would_say_;
  QWidget *mover_, *opener_ = nullptr;
  QDoubleSpinBox* value_;
  QLabel* would_;
};

}  // namespace jib::desk
