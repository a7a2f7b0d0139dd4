// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "desk/review/review_document.h"

class QCPItemStraightLine;
class QCPItemText;
class QCustomPlot;

namespace jib::desk {

class BarFan;

// Bar speed and body angles over time, and all reps over one another (bar_fan.h), tied to the play head. Clicking moves
// the play head.
class Plots : public QWidget {
  Q_OBJECT

 public:
  explicit Plots(ReviewDocument& document, QWidget* parent = nullptr);
  void setPlayHead(double t_s);
  void setSpan(double from_s, double to_s);  // what is shown: a rep, or the clip

 signals:
  void timeRequested(double t_s);

 private:
  QCustomPlot* makePlot(const QString& name, const QString& axis);
  void refill();

  ReviewDocument& document_;
  QCustomPlot* speed_;
  QCustomPlot* angles_;
  BarFan* fan_;
  QCPItemText* note_ = nullptr;
  QCPItemStraightLine* heads_[2] = {nullptr, nullptr};
};

}  // namespace jib::desk
