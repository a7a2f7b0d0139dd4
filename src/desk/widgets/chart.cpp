// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/chart.h"

#include <qcustomplot.h>

#include "desk/theme.h"

namespace jib::desk {

QFont chartFont(const QFont& base) {
  QFont small = base;
  small.setPixelSize(textPx(11));
  return small;
}

void styleChart(QCustomPlot& plot) {
  const auto& c = colours();
  plot.setBackground(QBrush(c.panel));
  plot.axisRect()->setBackground(QBrush(c.deep));
  plot.axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom);
  plot.axisRect()->setMargins(QMargins(0, 6, 6, 0));
  const QFont small = chartFont(plot.font());
  for (QCPAxis* a : {plot.xAxis, plot.yAxis}) {
    a->setBasePen(QPen(c.line));
    a->setTickPen(QPen(c.line));
    a->setSubTickPen(Qt::NoPen);
    a->setTickLabelColor(c.faint);
    a->setTickLabelFont(small);
    a->setLabelFont(small);
    a->setLabelColor(c.faint);
    a->grid()->setPen(QPen(c.line, 0.6, Qt::DotLine));
    a->grid()->setZeroLinePen(QPen(c.faint, 0.8));
    a->ticker()->setTickCount(4);
  }
}

}  // namespace jib::desk
