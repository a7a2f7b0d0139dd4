// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/plots.h"

#include <qcustomplot.h>

#include <QHBoxLayout>
#include <QMouseEvent>
#include <limits>

#include "desk/review/bar_fan.h"
#include "desk/theme.h"
#include "desk/widgets/chart.h"

namespace jib::desk {

Plots::Plots(ReviewDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName(QStringLiteral("plots"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  speed_ = makePlot(QStringLiteral("speedPlot"), tr("bar speed, m/s"));
  angles_ = makePlot(QStringLiteral("anglePlot"), tr("torso angle, °"));
  row->addWidget(speed_);
  row->addWidget(angles_);
  fan_ = new BarFan(document_);
  connect(fan_, &BarFan::timeRequested, this, &Plots::timeRequested);
  row->addWidget(fan_);
  // Two plots over time, two over height.
  row->setStretch(0, 1);
  row->setStretch(1, 1);
  row->setStretch(2, 2);
  note_ = new QCPItemText(angles_);
  note_->position->setType(QCPItemPosition::ptAxisRectRatio);
  note_->position->setCoords(0.02, 0.02);
  note_->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
  note_->setColor(colours().faint);
  note_->setFont(chartFont(font()));
  setMinimumHeight(120);
  connect(&document_, &ReviewDocument::analysisChanged, this, &Plots::refill);
  refill();
}

QCustomPlot* Plots::makePlot(const QString& name, const QString& axis) {
  auto* plot = new QCustomPlot(this);
  plot->setObjectName(name);
  styleChart(*plot);
  plot->yAxis->setLabel(axis);
  auto* head = new QCPItemStraightLine(plot);
  head->setPen(QPen(colours().ink, 1.6));
  head->point1->setCoords(0, 0);
  head->point2->setCoords(0, 1);
  (heads_[0] ? heads_[1] : heads_[0]) = head;
  connect(plot, &QCustomPlot::mousePress, this,
          [this, plot](QMouseEvent* e) { emit timeRequested(plot->xAxis->pixelToCoord(e->position().x())); });
  connect(plot, &QCustomPlot::mouseMove, this, [this, plot](QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) emit timeRequested(plot->xAxis->pixelToCoord(e->position().x()));
  });
  return plot;
}

void Plots::refill() {
  for (QCustomPlot* p : {speed_, angles_}) p->clearGraphs();
  const auto a = document_.analysis();
  for (QCustomPlot* p : {speed_, angles_}) {
    // Empty panes until there is something to read off.
    for (QCPAxis* axis : {p->xAxis, p->yAxis}) {
      axis->setTickLabels(a != nullptr);
      axis->setTicks(a != nullptr);
    }
  }
  if (!a) {
    note_->setText(QString());
    for (QCustomPlot* p : {speed_, angles_}) p->replot();
    return;
  }
  const auto& m = a->motion;
  const double none = std::numeric_limits<double>::quiet_NaN();  // the plot's own sign for a gap
  QVector<double> t(static_cast<qsizetype>(m.times_s.size())), down(t.size(), none), up(t.size(), none),
      v(t.size(), none), shin(t.size(), none), trunk(t.size(), none);
  for (qsizetype i = 0; i < t.size(); ++i) {
    const auto k = static_cast<std::size_t>(i);
    t[i] = m.times_s[k];
    v[i] = m.bar_vz_mps[k].value_or(none);
    shin[i] = m.angles[k].shin_deg.value_or(none);
    trunk[i] = m.angles[k].torso_deg.value_or(none);
    for (const auto& rep : a->reps) {
      if (const auto lowered = rep.lowered(); lowered && lowered->holds(t[i])) down[i] = v[i];
      if (rep.raised().holds(t[i])) up[i] = v[i];
    }
  }
  const auto add = [&](QCustomPlot* plot, const QVector<double>& values, const QPen& pen) {
    plot->addGraph();
    plot->graph()->setPen(pen);
    plot->graph()->setAntialiased(true);
    plot->graph()->setData(t, values, true);
  };
  add(speed_, v, QPen(colours().faint, 1));
  add(speed_, down, QPen(drawing::kDescentColour.darker(115), 2));
  add(speed_, up, QPen(drawing::kAscentColour.darker(110), 2));
  add(angles_, trunk, QPen(drawing::kTrunkColour.darker(130), 2));
  add(angles_, shin, QPen(drawing::kShinColour.darker(130), 2, Qt::DashLine));
  speed_->yAxis->rescale();
  angles_->yAxis->rescale();
  angles_->setVisible(!document_.lift().body.lying && !a->trace.front);  // lean of trunk and shin: of who stands
  note_->setText(a->trace.body ? tr("torso —   shin - -") : tr("torso angle appears once the points are placed"));
  for (QCustomPlot* p : {speed_, angles_}) p->replot();
}

void Plots::setPlayHead(double t) {
  for (int i = 0; i < 2; ++i) {
    heads_[i]->point1->setCoords(t, 0);
    heads_[i]->point2->setCoords(t, 1);
  }
  speed_->replot(QCustomPlot::rpQueuedReplot);
  angles_->replot(QCustomPlot::rpQueuedReplot);
  fan_->setPlayHead(t);
}

void Plots::setSpan(double from, double to) {
  for (QCustomPlot* p : {speed_, angles_}) {
    p->xAxis->setRange(from, to);
    p->replot(QCustomPlot::rpQueuedReplot);
  }
}

}  // namespace jib::desk
