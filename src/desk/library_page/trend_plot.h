// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>
#include <string>
#include <vector>

#include "core/coaching/style.h"
#include "core/library/trend.h"

class QCustomPlot;

namespace jib::desk {

// What was asked, and when, or a meet: a mark on the chart's time.
struct AskedThen {
  std::string on;  // ISO date
  QString words;
  bool meet = false;
};

// The course of one measure over an athlete's clips, by date or by load, each point with its ±: points that are alike
// are joined, the others stand alone and pale. The style's limit is a dashed line; what was asked stands at its day. A
// click on a point opens its clip at the frame that shows the number.
class TrendPlot : public QWidget {
  Q_OBJECT

 public:
  enum class Across { Date, Load };

  explicit TrendPlot(QWidget* parent = nullptr);
  void show(const lifts::MeasureDefinition& kind, const std::vector<library::TrendPoint>& points,
            const std::optional<coaching::Limit>& limit, const std::vector<AskedThen>& asked, Across across);
  // Which of the points shown is at a place of this widget, within a finger's width; nullopt where none is.
  std::optional<std::size_t> pointAt(const QPoint& place) const;
  QPoint placeOf(std::size_t point) const;

 signals:
  void opened(qlonglong submission, double t_s);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  QPointF coordinates(std::size_t point) const;

  QCustomPlot* plot_;
  std::vector<library::TrendPoint> points_;
  const lifts::MeasureDefinition* kind_ = nullptr;
  Across across_ = Across::Date;
};

}  // namespace jib::desk
