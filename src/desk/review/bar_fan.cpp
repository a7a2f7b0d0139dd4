// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/bar_fan.h"

#include <qcustomplot.h>

#include <QHBoxLayout>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "desk/theme.h"
#include "desk/widgets/chart.h"

namespace jib::desk {

BarFan::BarFan(ReviewDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName(QStringLiteral("barFan"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  path_ = makePlot(QStringLiteral("pathPlot"), tr("bar path, cm from mid-foot"), tr("cm"));
  speed_ = makePlot(QStringLiteral("speedHeightPlot"), tr("speed up, m/s, by height"), tr("cm"));
  row->addWidget(path_);
  row->addWidget(speed_);
  connect(&document_, &ReviewDocument::analysisChanged, this, &BarFan::refill);
  refill();
}

QCustomPlot* BarFan::makePlot(const QString& name, const QString& along, const QString& up) {
  auto* plot = new QCustomPlot(this);
  plot->setObjectName(name);
  styleChart(*plot);
  plot->xAxis->setLabel(along);
  plot->yAxis->setLabel(up);
  plot->setToolTip(tr("Every rep of the set; the one you are in stands out. Click to go there"));
  connect(plot, &QCustomPlot::mousePress, this, [this, plot](QMouseEvent* e) {
    if (const auto t = timeAt(*plot, e->position().toPoint())) emit timeRequested(*t);
  });
  return plot;
}

void BarFan::refill() {
  reps_.clear();
  const auto a = document_.analysis();
  const bool shows = a && !a->reps.empty() && !a->trace.front;
  setVisible(shows);
  if (!shows) return;
  const auto& m = a->motion;
  const auto& bar = m.path(tracing::Landmark::Bar).at;
  const bool over_foot = m.calibration.floor_known && !document_.lift().body.lying;
  path_->xAxis->setLabel(over_foot ? tr("bar path, cm from mid-foot") : tr("bar path, cm from its start"));
  for (const motion::Rep& rep : a->reps) {
    std::vector<Moment> moments;
    std::optional<double> from_x;
    for (std::size_t i = m.frameAt(rep.start_t()); i <= m.frameAt(rep.end_t()) && i < bar.size(); ++i) {
      if (!bar[i]) continue;
      if (!from_x) from_x = over_foot ? 0 : bar[i]->x;
      Moment now{m.times_s[i], 100 * (bar[i]->x - *from_x), 100 * bar[i]->z, {}};
      if (rep.raised().holds(now.t_s) && m.bar_vz_mps[i]) now.up_mps = *m.bar_vz_mps[i];
      moments.push_back(now);
    }
    reps_.push_back(std::move(moments));
  }
  shown_ = repAt(head_s_);
  draw();
}

std::size_t BarFan::repAt(double t) const {
  for (std::size_t i = reps_.size(); i-- > 0;)
    if (!reps_[i].empty() && reps_[i].front().t_s <= t + 1e-6) return i;
  return 0;
}

// Those behind first, the one that stands out last.
void BarFan::draw() {
  for (QCustomPlot* plot : {path_, speed_}) plot->clearPlottables();
  const auto curve = [](QCustomPlot* plot, const QPen& pen) {
    auto* c = new QCPCurve(plot->xAxis, plot->yAxis);
    c->setPen(pen);
    c->setAntialiased(true);
    return c;
  };
  const auto add = [&](std::size_t rep, bool out) {
    const QPen behind(colours().faint, 1.2);
    auto* down = curve(path_, out ? QPen(drawing::kDescentColour.darker(115), 2.2) : behind);
    auto* up = curve(path_, out ? QPen(drawing::kAscentColour.darker(110), 2.2) : behind);
    auto* speed = curve(speed_, out ? QPen(drawing::kAscentColour.darker(110), 2.2) : behind);
    for (const Moment& now : reps_[rep]) {
      (now.up_mps ? up : down)->addData(now.x_cm, now.z_cm);
      if (now.up_mps) speed->addData(*now.up_mps, now.z_cm);
    }
  };
  for (std::size_t i = 0; i < reps_.size(); ++i)
    if (i != shown_) add(i, false);
  if (shown_ < reps_.size()) add(shown_, true);
  for (auto [plot, dot] : {std::pair(path_, &path_dot_), std::pair(speed_, &speed_dot_)}) {
    *dot = plot->addGraph();
    (*dot)->setLineStyle(QCPGraph::lsNone);
    (*dot)->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, colours().ink, 7));
    plot->rescaleAxes();
    plot->yAxis->scaleRange(1.1, plot->yAxis->range().center());
  }
  // A path is narrow: stretched over the whole plot a centimetre would look like a swing.
  constexpr double kLeastWide_cm = 24;
  const auto range = path_->xAxis->range();
  if (range.size() < kLeastWide_cm) path_->xAxis->setRange(range.center(), kLeastWide_cm, Qt::AlignCenter);
  speed_->xAxis->setRangeLower(std::min(0.0, speed_->xAxis->range().lower));
  setPlayHead(head_s_);
}

void BarFan::setPlayHead(double t) {
  head_s_ = t;
  if (reps_.empty()) return;
  if (const std::size_t now = repAt(t); now != shown_) {
    shown_ = now;
    return draw();
  }
  path_dot_->data()->clear();
  speed_dot_->data()->clear();
  const auto& moments = reps_[shown_];
  const auto at =
      std::lower_bound(moments.begin(), moments.end(), t - 1e-6, [](const Moment& m, double s) { return m.t_s < s; });
  if (at != moments.end() && at->t_s < t + 0.1) {
    path_dot_->addData(at->x_cm, at->z_cm);
    if (at->up_mps) speed_dot_->addData(*at->up_mps, at->z_cm);
  }
  for (QCustomPlot* plot : {path_, speed_}) plot->replot(QCustomPlot::rpQueuedReplot);
}

std::optional<double> BarFan::timeAt(const QCustomPlot& plot, const QPoint& place) const {
  constexpr double kNear_px = 24;
  std::optional<double> t;
  double least = kNear_px;
  for (const auto& rep : reps_)
    for (const Moment& m : rep) {
      if (&plot == speed_ && !m.up_mps) continue;
      const QPointF at(plot.xAxis->coordToPixel(&plot == speed_ ? *m.up_mps : m.x_cm),
                       plot.yAxis->coordToPixel(m.z_cm));
      const double off = std::hypot(at.x() - place.x(), at.y() - place.y());
      if (off < least) {
        least = off;
        t = m.t_s;
      }
    }
  return t;
}

}  // namespace jib::desk
