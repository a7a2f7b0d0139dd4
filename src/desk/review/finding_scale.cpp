// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/finding_scale.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "desk/text.h"
#include "desk/theme.h"

namespace jib::desk {
namespace {

// At the usual text size.
constexpr double kLeft_px = 22, kRight_px = 10, kTop_px = 3, kFoot_px = 15;
constexpr double kLane_px = 12, kThinLane_px = 7;
constexpr std::size_t kWideLanes = 6;  // of longer sets the lanes are thinner and carry no number

}  // namespace

FindingScale::FindingScale(const coaching::Finding& finding, std::vector<coaching::Reading> readings, QWidget* parent)
    : QWidget(parent), readings_(std::move(readings)), kind_(finding.kind), limit_(finding.limit), side_(finding.side) {
  setObjectName(QStringLiteral("scale_") + q(finding.id));
  setMouseTracking(true);
  setCursor(Qt::PointingHandCursor);
  setFocusPolicy(Qt::TabFocus);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  double low = limit_, high = limit_;
  if (side_ == coaching::Side::Beyond) low = -limit_;
  for (const auto& r : readings_) {
    const double reach = coaching::kSureSigmas * r.value.sigma;
    low = std::min(low, r.value.value - reach);
    high = std::max(high, r.value.value + reach);
  }
  const double room = std::max(0.12 * (high - low), 1e-6);
  low_ = low - room;
  high_ = high + room;
  QStringList told;
  for (std::size_t i = 0; i < readings_.size(); ++i) told << tellOf(i);
  setAccessibleName(told.join(QStringLiteral("; ")));
}

double FindingScale::laneHeight() const {
  return readings_.size() <= kWideLanes ? textPx(kLane_px) : textPx(kThinLane_px);
}

QSize FindingScale::sizeHint() const {
  return {300,
          static_cast<int>(textPx(kTop_px) + laneHeight() * static_cast<double>(readings_.size()) + textPx(kFoot_px))};
}

double FindingScale::xOf(double value) const {
  return textPx(kLeft_px) + (value - low_) / (high_ - low_) * (width() - textPx(kLeft_px) - textPx(kRight_px));
}

QPointF FindingScale::place(std::size_t i) const {
  return {xOf(readings_[i].value.value), textPx(kTop_px) + (static_cast<double>(i) + 0.5) * laneHeight()};
}

QString FindingScale::tellOf(std::size_t i) const {
  const auto& r = readings_[i];
  const QString value = q(lifts::textWithSigma(*kind_, r.value));
  const QString call = r.verdict == coaching::Verdict::Yes        ? tr("over the limit")
                       : r.verdict == coaching::Verdict::TooClose ? tr("too close to call")
                                                                  : tr("within the limit");
  return r.rep > 0 ? tr("Rep %1: %2, %3").arg(r.rep).arg(value, call) : tr("Set: %1, %2").arg(value, call);
}

// The part of the scale that is a fault: tinted and hatched, so that it shows without colours too.
void FindingScale::paintFaultSide(QPainter& painter, const QRectF& area) const {
  std::vector<QRectF> fault;
  const double x = xOf(limit_);
  if (side_ != coaching::Side::Below) fault.emplace_back(QPointF(x, area.top()), area.bottomRight());
  if (side_ == coaching::Side::Below) fault.emplace_back(area.topLeft(), QPointF(x, area.bottom()));
  if (side_ == coaching::Side::Beyond) fault.emplace_back(area.topLeft(), QPointF(xOf(-limit_), area.bottom()));
  QColor tint = colours().bad;
  tint.setAlpha(22);
  QColor hatch = colours().bad;
  hatch.setAlpha(46);
  for (const QRectF& part : fault) {
    painter.fillRect(part, tint);
    painter.fillRect(part, QBrush(hatch, Qt::BDiagPattern));
  }
  painter.setPen(QPen(colours().ink, 1.2));
  painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom() + 2));
  if (side_ == coaching::Side::Beyond)
    painter.drawLine(QPointF(xOf(-limit_), area.top()), QPointF(xOf(-limit_), area.bottom() + 2));
}

void FindingScale::paintReading(QPainter& painter, std::size_t i) const {
  using coaching::Verdict;
  const auto& r = readings_[i];
  const QPointF at = place(i);
  const double reach = coaching::kSureSigmas * r.value.sigma;
  const QColor colour = r.verdict == Verdict::Yes        ? colours().bad
                        : r.verdict == Verdict::TooClose ? colours().warn
                                                         : colours().good;
  painter.setPen(QPen(colour, 1.6));
  painter.drawLine(QPointF(xOf(r.value.value - reach), at.y()), QPointF(xOf(r.value.value + reach), at.y()));
  const double s = readings_.size() <= kWideLanes ? 4.2 : 3;
  if (r.verdict == Verdict::TooClose) {
    painter.setBrush(colours().panel);
    painter.drawEllipse(at, s, s);
  } else {
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    if (r.verdict == Verdict::Yes)
      painter.drawPolygon(QPolygonF{at + QPointF(-s, s * 0.8), at + QPointF(s, s * 0.8), at + QPointF(0, -s)});
    else
      painter.drawEllipse(at, s * 0.85, s * 0.85);
  }
  painter.setBrush(Qt::NoBrush);
  if (readings_.size() > kWideLanes || r.rep == 0) return;
  painter.setPen(colours().faint);
  painter.drawText(QRectF(0, at.y() - textPx(kLane_px) / 2, textPx(kLeft_px) - 8, textPx(kLane_px)),
                   Qt::AlignRight | Qt::AlignVCenter, QString::number(r.rep));
}

void FindingScale::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  QFont small = font();
  small.setPixelSize(textPx(11));
  painter.setFont(small);
  const QRectF area(textPx(kLeft_px), textPx(kTop_px), width() - textPx(kLeft_px) - textPx(kRight_px),
                    height() - textPx(kTop_px) - textPx(kFoot_px));
  painter.fillRect(area, colours().deep);
  paintFaultSide(painter, area);
  for (std::size_t i = 0; i < readings_.size(); ++i) paintReading(painter, i);
  // Under the scale stands the limit and nothing else: values are read by hovering, and worst is in words beside it.
  const auto label = [&](double value) {
    const QString text = q(lifts::text(*kind_, {value, 0, 0}));
    const double wide = painter.fontMetrics().horizontalAdvance(text) + 4;
    const double left = std::clamp(xOf(value) - wide / 2, 0.0, width() - wide);
    painter.setPen(colours().faint);
    painter.drawText(QRectF(left, height() - textPx(kFoot_px) + 2, wide, textPx(kFoot_px) - 2), Qt::AlignCenter, text);
  };
  label(limit_);
  if (hasFocus() && chosen_ < readings_.size()) {
    painter.setPen(QPen(colours().ink, 1.4));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(
        QRectF(1, textPx(kTop_px) + static_cast<double>(chosen_) * laneHeight(), width() - 2, laneHeight()));
  }
  if (side_ == coaching::Side::Beyond && xOf(limit_) - xOf(-limit_) > 60) label(-limit_);
}

std::optional<std::size_t> FindingScale::readingAt(QPointF at) const {
  if (readings_.empty() || at.y() < textPx(kTop_px)) return std::nullopt;
  const auto lane = static_cast<std::size_t>((at.y() - textPx(kTop_px)) / laneHeight());
  return lane < readings_.size() ? std::optional(lane) : std::nullopt;
}

// Up and down choose a reading and say it, Return shows its frame.
void FindingScale::keyPressEvent(QKeyEvent* event) {
  if (readings_.empty()) return QWidget::keyPressEvent(event);
  const std::size_t last = readings_.size() - 1;
  switch (event->key()) {
    case Qt::Key_Up:
      chosen_ = chosen_ > 0 ? chosen_ - 1 : 0;
      break;
    case Qt::Key_Down:
      chosen_ = std::min(chosen_ + 1, last);
      break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
    case Qt::Key_Space:
      emit timeRequested(readings_[chosen_].value.t_s);
      return;
    default:
      return QWidget::keyPressEvent(event);
  }
  QToolTip::showText(mapToGlobal(place(chosen_).toPoint()), tellOf(chosen_), this);
  update();
}

void FindingScale::mousePressEvent(QMouseEvent* event) {
  if (const auto at = readingAt(event->position())) emit timeRequested(readings_[*at].value.t_s);
}

void FindingScale::mouseMoveEvent(QMouseEvent* event) {
  const auto at = readingAt(event->position());
  QToolTip::showText(event->globalPosition().toPoint(),
                     at ? tr("%1. Click to see the frame.").arg(tellOf(*at)) : QString(), this);
}

}  // namespace jib::desk
