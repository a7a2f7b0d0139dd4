// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QWidget>

#include "core/library/own_best.h"
#include "core/motion/key_moments.h"
#include "desk/jobs/job_runner.h"
#include "desk/review/review_document.h"

namespace jib::desk {

// The frames by which each rep is known, side by side: ready, half-way, turn, sticking, lockout, framed on the lifter.
// Over each rep stands how near it comes to the best of the set, and where that is sure, whether it is off the
// athlete's own best of earlier sets or better: in words and colour. A click goes there. Longer sets slide so that the
// rep under the play head is in sight.
class KeyStrip : public QWidget {
  Q_OBJECT

 public:
  explicit KeyStrip(ReviewDocument& document, QWidget* parent = nullptr);

  void setPlayHead(double t_s);
  // The athlete's best rep of earlier sets, which these are held against as well.
  void setOwnBest(std::optional<library::OwnBest> best);
  // What stands over a rep.
  QString wordsOver(std::size_t rep) const;
  // Of one rep, in order; empty until the clip is traced.
  struct Shot {
    std::size_t rep = 0;  // counted from 0
    motion::KeyFrame key;
    QImage picture;  // empty until it is decoded
  };
  const std::vector<Shot>& shots() const { return shots_; }
  // Where a shot lies now.
  QRectF place(std::size_t shot) const;
  bool busy() const { return jobs_.busy(); }
  QSize sizeHint() const override;

 signals:
  void timeRequested(double t_s);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void refresh();
  void decode();
  void slideTo(double x);
  double wholeWidth() const;
  double shotWidth() const;
  std::optional<std::size_t> shotAt(QPointF at) const;
  std::size_t shown() const;  // the shot nearest to the play head
  QString nameOf(motion::KeyMoment moment) const;
  void paintRep(QPainter& painter, std::size_t rep, const QRectF& over) const;
  void paintShot(QPainter& painter, std::size_t shot) const;

  ReviewDocument& document_;
  JobRunner jobs_{Lane::Replace};
  std::vector<Shot> shots_;
  std::vector<double> off_best_;  // of each rep, in usual faults; empty of a single rep
  std::optional<library::OwnBest> own_best_;
  std::vector<std::optional<lifts::Measured>> behind_own_;  // of each rep
  QString ownBestTip(std::size_t rep) const;
  QRectF lifter_;  // in the clip's displayed pixels
  double head_s_ = 0, slid_ = 0;
};

}  // namespace jib::desk
