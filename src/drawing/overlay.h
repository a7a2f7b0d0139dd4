// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <QTransform>

#include "core/coaching/analysis.h"

namespace jib::drawing {

// What is shown over the clip; each can be switched.
struct OverlayChoice {
  bool bar_path = true;
  bool mid_foot = true;
  bool segments = true;
  bool angles = true;
  bool depth = true;
  bool seen = false;  // the network's own sightings, unfitted
};

// Where a bar right over mid-foot would be seen, from the floor up to a little over the bar; upright in the room.
struct MidFootLine {
  PixelPoint foot, top;
};
// nullopt where heel, toe or bar are not traced, and in a view of both sides.
std::optional<MidFootLine> midFootLine(const coaching::Analysis& analysis, std::size_t frame);

// Paints overlays from core types. The stage, the stills and the annotated clip all call it, so what the coach sees is
// what is sent.
// Frame   displayed pixels of the clip; `view` takes them to the painter's. `scale` is the size of a line's unit in the
//         painter's pixels (1 for a stage about 800 wide)
class OverlayPainter {
 public:
  OverlayPainter(QPainter& painter, const coaching::Analysis& analysis, const QTransform& view, double scale);

  void paint(std::size_t frame, const OverlayChoice& choice);
  // The drawing that belongs to a measure, on its evidence frame.
  void paintEvidence(std::size_t frame, lifts::Drawing drawing);

 private:
  QPointF map(PixelPoint p) const { return view_.map(QPointF(p.x, p.y)); }
  std::optional<QPointF> at(std::size_t frame, tracing::Landmark landmark) const;
  void line(QPointF a, QPointF b, const QColor& colour, double width, Qt::PenStyle style = Qt::SolidLine);
  void barPath(std::size_t frame);
  void midFootLine(std::size_t frame);
  void segments(std::size_t frame);
  void points(std::size_t frame);
  void angleLabels(std::size_t frame);
  void depthLine(std::size_t frame);
  void sightings(std::size_t frame);
  void leanWedge(std::size_t frame, tracing::Landmark lower, tracing::Landmark upper, const QColor& colour);
  void heel(std::size_t frame);
  void kneeMarks(std::size_t frame);
  void forearm(std::size_t frame);
  void seat(std::size_t frame);
  void sides(std::size_t frame);
  void label(QPointF place, const QString& text, const QColor& colour);

  QPainter& painter_;
  const coaching::Analysis& analysis_;
  QTransform view_;
  double scale_;
};

// A caption over the lower edge of a picture, as chart notes are set: paper plate, navy ink, magenta rule.
void paintCaption(QPainter& painter, const QRectF& picture, const QString& title, const QString& text, double scale);

}  // namespace jib::drawing
