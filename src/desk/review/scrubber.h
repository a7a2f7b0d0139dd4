// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "desk/review/review_document.h"

namespace jib::desk {

// The time line that is the bar's height: a tide curve with reps as stretches and events as marks. Click or drag moves
// the play head; hovering names the event; reps and their moments are put right here.
class Scrubber : public QWidget {
  Q_OBJECT

 public:
  explicit Scrubber(ReviewDocument& document, QWidget* parent = nullptr);

  void setPlayHead(double t_s);
  // Only time and bookmarks: the first look.
  void setBare(bool bare);
  void setDuration(double from_s, double to_s);
  // What can be done with the reps at a moment, as a menu: add, split, join, take away, name, leave out.
  void offerRepEdits(double t_s, QPoint at);
  // Nothing is measured from here on; the second time, up to here. Where nothing is measured already it is again.
  void leaveOutAt(double t_s);
  // What comes before a moment, or after it, is neither measured nor played; the file stays as it is.
  void trimBefore(double t_s);
  void trimAfter(double t_s);
  double timeAt(double x) const;
  double xAt(double t_s) const;
  QSize sizeHint() const override;

 signals:
  void timeRequested(double t_s);
  void jogged(int frames);  // the wheel: on, or back
  void said(const QString& sentence);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;

 private:
  void paintBookmarks(QPainter& painter, const QRectF& area);
  // Where a referee could have signalled, and what.
  struct Signal {
    double t_s = 0;
    QString title;
  };
  std::vector<Signal> signalsHeard() const;
  void paintSignals(QPainter& painter, const QRectF& area);
  void paintLeftOut(QPainter& painter, const QRectF& area);
  bool mayLeaveOut();  // says why not
  void changeLeftOut(const QString& text, tracing::LeftOuts to);
  void paintCurve(QPainter& painter, const QRectF& area);
  void paintCertainty(QPainter& painter, const QRectF& area);
  void paintEventMark(QPainter& painter, const QRectF& area, const motion::Event& event);
  void paintReps(QPainter& painter, const QRectF& area);
  QString eventNear(double x) const;
  // A moment of a rep that can be taken hold of at a place.
  struct Grip {
    std::size_t rep;
    motion::EventKind kind;
  };
  std::optional<Grip> gripAt(QPointF at) const;
  std::optional<std::size_t> repAt(double t_s) const;
  bool opensSet(const motion::Rep& rep) const;
  void put(const QString& text, std::optional<motion::HeldReps> to, int gesture);

  ReviewDocument& document_;
  bool bare_ = false;
  double jog_ = 0;  // of the wheel, not yet a frame
  double head_s_ = 0, from_s_ = 0, to_s_ = 1;
  std::optional<Grip> held_;
  std::optional<double> leaving_from_;  // where a part begins that is being left out
  bool leaving_by_drag_ = false;
  int gesture_ = 0;
};

}  // namespace jib::desk
