// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/load_speed_plot.h"

#include <qcustomplot.h>

#include <QVBoxLayout>
#include <algorithm>

#include "core/base/quantity.h"
#include "core/coaching/finding.h"
#include "desk/theme.h"
#include "desk/widgets/chart.h"

namespace jib::desk {
namespace {

constexpr int kHeight = 170;

}  // namespace

LoadSpeedPlot::LoadSpeedPlot(const std::vector<coaching::LoadedSet>& sets,
                             const std::optional<coaching::LoadSpeedLine>& line, QWidget* parent)
    : QWidget(parent) {
  setObjectName(QStringLiteral("loadSpeed"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  auto* plot = new QCustomPlot;
  styleChart(*plot);
  plot->setFixedHeight(kHeight);
  const bool pounds = displayUnits().mass == MassUnit::Pounds;
  const double shown = pounds ? kPoundsPerKilogram : 1;  // of a kilogram
  plot->xAxis->setLabel(pounds ? tr("load, lb") : tr("load, kg"));
  plot->yAxis->setLabel(tr("bar speed, m/s"));
  column->addWidget(plot);
  const auto& c = colours();
  QVector<double> loads, speeds, sigmas;
  double heaviest = 0, lightest = 1e9, fastest = 0;
  for (const auto& s : sets) {
    loads << s.load_kg * shown;
    speeds << s.mps;
    sigmas << coaching::kSureSigmas * s.sigma_mps;
    heaviest = std::max(heaviest, s.load_kg);
    lightest = std::min(lightest, s.load_kg);
    fastest = std::max(fastest, s.mps);
  }
  if (line) {
    heaviest = std::max(heaviest, line->best_kg.high);
    // Where a best would be: a pale band, edged, from the lightest load the line carries to the heaviest.
    auto* band = new QCPItemRect(plot);
    band->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
    band->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
    band->topLeft->setCoords(line->best_kg.low * shown, 0);
    band->bottomRight->setCoords(line->best_kg.high * shown, 1);
    band->setBrush(c.shallow);
    band->setPen(QPen(c.line, 1, Qt::DashLine));
    auto* name = new QCPItemText(plot);
    name->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
    name->position->setCoords((line->best_kg.low + line->best_kg.high) / 2 * shown, 0.04);
    name->setPositionAlignment(Qt::AlignHCenter | Qt::AlignTop);
    name->setText(tr("max"));
    name->setFont(chartFont(font()));
    name->setColor(c.ink);
    auto* graph = plot->addGraph();
    graph->setPen(QPen(c.ink, 1.4));
    const double to = (line->best_kg.low + line->best_kg.high) / 2;
    graph->setData({lightest * shown, to * shown}, {line->speedAt(lightest), line->speedAt(to)});
  }
  auto* dots = plot->addGraph();
  dots->setLineStyle(QCPGraph::lsNone);
  dots->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDiamond, c.ink, c.raised, 9));
  dots->setData(loads, speeds);
  auto* errors = new QCPErrorBars(plot->xAxis, plot->yAxis);
  errors->setDataPlottable(dots);
  errors->setPen(QPen(c.faint, 1));
  errors->setData(sigmas);
  const double room = std::max(5.0, 0.08 * (heaviest - lightest));
  plot->xAxis->setRange((lightest - room) * shown, (heaviest + room) * shown);
  plot->yAxis->setRange(0, 1.15 * fastest);
}

}  // namespace jib::desk
