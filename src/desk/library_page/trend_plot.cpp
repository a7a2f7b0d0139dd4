// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/trend_plot.h"

#include <qcustomplot.h>

#include <QMouseEvent>
#include <QToolTip>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/base/quantity.h"
#include "core/coaching/finding.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/chart.h"

namespace jib::desk {
namespace {

constexpr int kHeight = 190, kReach_px = 12;
constexpr double kDay_s = 86400;

double secondsOf(const std::string& iso) {
  return QCPAxisTickerDateTime::dateTimeToKey(QDateTime(QDate::fromString(q(iso), Qt::ISODate), QTime(12, 0)));
}

}  // namespace

TrendPlot::TrendPlot(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("trend"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  plot_ = new QCustomPlot;
  styleChart(*plot_);
  plot_->setFixedHeight(kHeight);
  plot_->setMouseTracking(true);
  plot_->installEventFilter(this);
  column->addWidget(plot_);
}

QPointF TrendPlot::coordinates(std::size_t i) const {
  const library::TrendPoint& p = points_[i];
  const double up = lifts::shown(*kind_, p.measured).value;
  if (across_ == Across::Date) return {secondsOf(p.on), up};
  return {p.as.load_kg.value_or(0) * (displayUnits().mass == MassUnit::Pounds ? kPoundsPerKilogram : 1), up};
}

void TrendPlot::show(const lifts::MeasureDefinition& kind, const std::vector<library::TrendPoint>& points,
                     const std::optional<coaching::Limit>& limit, const std::vector<AskedThen>& asked, Across across) {
  kind_ = &kind;
  across_ = across;
  points_.clear();
  for (const auto& p : points)
    if (across == Across::Date || p.as.load_kg) points_.push_back(p);
  plot_->clearPlottables();
  plot_->clearItems();
  const auto& c = colours();
  if (points_.empty()) return plot_->replot();
  const int latest = points_.back().group;
  double left = 1e18, right = -1e18, low = 1e18, high = -1e18;
  std::map<int, std::vector<std::size_t>> groups;
  for (std::size_t i = 0; i < points_.size(); ++i) {
    groups[points_[i].group].push_back(i);
    const QPointF at = coordinates(i);
    const double reach = lifts::shown(kind, points_[i].measured).plus_minus;
    left = std::min(left, at.x());
    right = std::max(right, at.x());
    low = std::min(low, at.y() - reach);
    high = std::max(high, at.y() + reach);
  }
  for (const auto& [group, members] : groups) {
    // The latest like ones are what the coach asks about; what was filmed or lifted otherwise is there, and paler.
    const QColor ink = group == latest ? c.ink : c.faint;
    QVector<double> x, y, sigma;
    for (const std::size_t i : members) {
      x << coordinates(i).x();
      y << coordinates(i).y();
      sigma << lifts::shown(kind, points_[i].measured).plus_minus;
    }
    auto* graph = plot_->addGraph();
    graph->setPen(QPen(ink, 1.4));
    // Across loads the order of days is no order.
    graph->setLineStyle(members.size() > 1 && across == Across::Date ? QCPGraph::lsLine : QCPGraph::lsNone);
    graph->setScatterStyle(QCPScatterStyle(group == latest ? QCPScatterStyle::ssDiamond : QCPScatterStyle::ssCircle,
                                           ink, c.raised, group == latest ? 9 : 6));
    graph->setData(x, y);
    auto* errors = new QCPErrorBars(plot_->xAxis, plot_->yAxis);
    errors->setDataPlottable(graph);
    errors->setPen(QPen(c.faint, 1));
    errors->setData(sigma);
  }
  if (limit) {
    const double at = lifts::shown(kind, {limit->limit, 0, 0}).value;
    for (const double line : limit->side == coaching::Side::Beyond ? std::vector{at, -at} : std::vector{at}) {
      if (line < low - (high - low) || line > high + (high - low)) continue;
      low = std::min(low, line);
      high = std::max(high, line);
      auto* dashed = new QCPItemStraightLine(plot_);
      dashed->setPen(QPen(c.line, 1.2, Qt::DashLine));
      dashed->point1->setCoords(0, line);
      dashed->point2->setCoords(1, line);
    }
  }
  const double wide = std::max(right - left, across == Across::Date ? 20 * kDay_s : 10.0);
  const double tall = std::max(high - low, 1e-6);
  left -= 0.06 * wide;
  right += 0.06 * wide;
  if (across == Across::Date) {
    QSharedPointer<QCPAxisTickerDateTime> ticker(new QCPAxisTickerDateTime);
    ticker->setDateTimeFormat(QStringLiteral("d MMM"));
    ticker->setTickCount(4);
    plot_->xAxis->setTicker(ticker);
    plot_->xAxis->setLabel(QString());
    int row = 0;
    for (const AskedThen& a : asked) {
      const double at = secondsOf(a.on);
      if (at < left || at > right) continue;
      auto* line = new QCPItemStraightLine(plot_);
      line->setPen(QPen(a.meet ? c.ink : c.coach, 1, a.meet ? Qt::SolidLine : Qt::DotLine));
      line->point1->setCoords(at, 0);
      line->point2->setCoords(at, 1);
      auto* name = new QCPItemText(plot_);
      name->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
      name->position->setCoords(at, 0.02 + 0.11 * (row++ % 3));
      name->setPositionAlignment((at > (left + right) / 2 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop);
      name->setText(a.words);
      name->setFont(chartFont(font()));
      name->setColor(a.meet ? c.ink : c.coach);
      name->setPadding(QMargins(4, 0, 4, 0));
    }
  } else {
    plot_->xAxis->setTicker(QSharedPointer<QCPAxisTicker>(new QCPAxisTicker));
    plot_->xAxis->setLabel(displayUnits().mass == MassUnit::Pounds ? tr("load, lb") : tr("load, kg"));
  }
  const auto unit = lifts::shown(kind, points_.back().measured).unit;
  plot_->yAxis->setLabel(q(unit));
  plot_->xAxis->setRange(left, right);
  plot_->yAxis->setRange(low - 0.1 * tall, high + (asked.empty() ? 0.1 : 0.3) * tall);
  plot_->replot();
}

QPoint TrendPlot::placeOf(std::size_t point) const {
  const QPointF at = coordinates(point);
  return plot_->mapTo(const_cast<TrendPlot*>(this), QPoint(static_cast<int>(plot_->xAxis->coordToPixel(at.x())),
                                                           static_cast<int>(plot_->yAxis->coordToPixel(at.y()))));
}

std::optional<std::size_t> TrendPlot::pointAt(const QPoint& place) const {
  std::optional<std::size_t> nearest;
  int least = kReach_px;
  for (std::size_t i = 0; i < points_.size(); ++i)
    if (const int off = (placeOf(i) - place).manhattanLength(); off <= least) {
      least = off;
      nearest = i;
    }
  return nearest;
}

bool TrendPlot::eventFilter(QObject* watched, QEvent* event) {
  const auto* mouse = event->type() == QEvent::MouseMove || event->type() == QEvent::MouseButtonRelease
                          ? static_cast<QMouseEvent*>(event)
                          : nullptr;
  if (watched != plot_ || !mouse || points_.empty()) return QWidget::eventFilter(watched, event);
  const auto at = pointAt(plot_->mapTo(this, mouse->pos()));
  plot_->setCursor(at ? Qt::PointingHandCursor : Qt::ArrowCursor);
  if (!at) {
    QToolTip::hideText();
    return false;
  }
  const library::TrendPoint& p = points_[*at];
  if (event->type() == QEvent::MouseButtonRelease) {
    if (mouse->button() == Qt::LeftButton) emit opened(p.submission.number, p.measured.t_s);
    return false;
  }
  QStringList lines{tr("%1: %2").arg(q(library::spoken(p.on)), q(lifts::textWithSigma(*kind_, p.measured)))};
  if (p.as.load_kg) lines << q(massText(*p.as.load_kg));
  if (const auto* lift = lifts::liftNamed(p.as.lift); lift && !p.as.variant.empty())
    lines << q(lifts::titleOf(*lift, p.as.variant));
  if (p.group != points_.back().group) lines << tr("not comparable with the latest");
  lines << tr("Click to open the clip there");
  QToolTip::showText(
      mouse->globalPosition().toPoint(),
      lines.join(QStringLiteral("\n")).toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")), plot_);
  return false;
}

}  // namespace jib::desk
