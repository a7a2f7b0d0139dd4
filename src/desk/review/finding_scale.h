// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/coaching/reading.h"

namespace jib::desk {

// A finding as a small scale: the limit, the side of it that is a fault, and every rep's value with what it is
// uncertain by, one under the other. A filled triangle is over the limit, a ring is too close to call, a dot is within.
// A click on a rep asks for its frame; so does Return, on the one that Up and Down have chosen.
class FindingScale : public QWidget {
  Q_OBJECT

 public:
  FindingScale(const coaching::Finding& finding, std::vector<coaching::Reading> readings, QWidget* parent = nullptr);

  // Where a rep's value stands, in the widget; counted as the readings are.
  QPointF place(std::size_t reading) const;
  std::size_t count() const { return readings_.size(); }
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override { return {160, sizeHint().height()}; }

 signals:
  void timeRequested(double t_s);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  double xOf(double value) const;
  double laneHeight() const;
  std::optional<std::size_t> readingAt(QPointF at) const;
  QString tellOf(std::size_t reading) const;
  void paintFaultSide(QPainter& painter, const QRectF& area) const;
  void paintReading(QPainter& painter, std::size_t i) const;

  std::vector<coaching::Reading> readings_;
  std::size_t chosen_ = 0;  // by keyboard
  const lifts::MeasureDefinition* kind_;
  double limit_;
  coaching::Side side_;
  double low_ = 0, high_ = 1;  // what the scale spans
};

}  // namespace jib::desk
