// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <vector>

#include "desk/review/review_document.h"

class QCPGraph;
class QCustomPlot;

namespace jib::desk {

// All reps of the set over one another: the bar's path about mid-foot, and its speed on the way up over its height. The
// rep under the play head stands out, with a dot where the bar is. A click goes to the nearest moment.
class BarFan : public QWidget {
  Q_OBJECT

 public:
  explicit BarFan(ReviewDocument& document, QWidget* parent = nullptr);
  void setPlayHead(double t_s);
  // What a click at a place of the path's or the speed's plot goes to; nullopt where no rep is near.
  std::optional<double> timeAt(const QCustomPlot& plot, const QPoint& place) const;

 signals:
  void timeRequested(double t_s);

 private:
  // A moment of a rep: how far forward, how high, how fast.
  struct Moment {
    double t_s, x_cm, z_cm;
    std::optional<double> up_mps;  // on the way up
  };
  QCustomPlot* makePlot(const QString& name, const QString& along, const QString& up);
  void refill();
  void draw();
  std::size_t repAt(double t_s) const;

  ReviewDocument& document_;
  QCustomPlot *path_, *speed_;
  QCPGraph *path_dot_ = nullptr, *speed_dot_ = nullptr;
  std::vector<std::vector<Moment>> reps_;
  std::size_t shown_ = 0;  // the rep that stands out
  double head_s_ = 0;
};

}  // namespace jib::desk
