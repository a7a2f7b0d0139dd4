// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/shape_painter.h"

#include <QFontMetricsF>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/coaching/wanted_pose.h"
#include "drawing/palette.h"

namespace jib::drawing {
namespace {

using coaching::ShapeKind;

// A line on any picture: the colour over a dark edge.
void stroke(QPainter& painter, const QPainterPath& path, const QColor& colour, Qt::PenStyle style, double scale) {
  painter.setBrush(Qt::NoBrush);
  painter.setPen(QPen(QColor(0x0b, 0x12, 0x20, 190), 5.5 * scale, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  painter.drawPath(path);
  QPen pen(colour, 3 * scale, style, Qt::RoundCap, Qt::RoundJoin);
  if (style == Qt::DashLine) pen.setDashPattern({3, 2.2});
  painter.setPen(pen);
  painter.drawPath(path);
}

void head(QPainter& painter, QPointF from, QPointF to, const QColor& colour, double scale) {
  const double angle = std::atan2(to.y() - from.y(), to.x() - from.x()), size = 15 * scale;
  QPolygonF tip{to};
  for (double side : {-0.42, 0.42}) tip << to - QPointF(std::cos(angle + side) * size, std::sin(angle + side) * size);
  painter.setPen(QPen(QColor(0x0b, 0x12, 0x20, 190), 1.2 * scale));
  painter.setBrush(colour);
  painter.drawPolygon(tip);
}

void label(QPainter& painter, QPointF beside, const QString& text, const QColor& colour, double scale) {
  if (text.isEmpty()) return;
  QFont font(QStringLiteral("Cabin"));
  font.setPixelSize(static_cast<int>(std::lround(17 * scale)));
  font.setBold(true);
  painter.setFont(font);
  const QFontMetricsF metrics(font);
  QRectF plate = metrics.boundingRect(text).adjusted(-6 * scale, -3 * scale, 6 * scale, 3 * scale);
  plate.moveTopLeft(beside + QPointF(10 * scale, -plate.height() - 6 * scale));
  // Inside what can be seen.
  const QRectF room = painter.hasClipping() ? painter.clipBoundingRect() : QRectF(painter.viewport());
  if (plate.right() > room.right()) plate.moveRight(beside.x() - 10 * scale);
  if (plate.top() < room.top()) plate.moveTop(beside.y() + 8 * scale);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x0b, 0x12, 0x20, 205));
  painter.drawRoundedRect(plate, 4 * scale, 4 * scale);
  painter.setPen(colour);
  painter.drawText(plate, Qt::AlignCenter, text);
}

void paintOne(QPainter& painter, const coaching::Shape& shape, const coaching::ShapeOnFrame& here,
              const QTransform& view, double scale) {
  const bool wanted = shape.sense == coaching::Sense::AsWanted;
  const QColor colour = wanted ? kWantedColour : kCoachColour;
  const Qt::PenStyle style = wanted ? Qt::DashLine : Qt::SolidLine;
  const auto at = [&](PixelPoint p) { return view.map(QPointF(p.x, p.y)); };
  std::vector<QPointF> p;
  for (const PixelPoint anchor : here.anchors) p.push_back(at(anchor));
  QPainterPath path;
  QPointF beside = p.front();
  switch (shape.kind) {
    case ShapeKind::Line:
    case ShapeKind::Arrow:
    case ShapeKind::Distance:
      path.moveTo(p[0]);
      path.lineTo(p[1]);
      beside = (p[0] + p[1]) / 2;
      break;
    case ShapeKind::Angle: {
      path.moveTo(p[0]);
      path.lineTo(p[1]);
      path.lineTo(p[2]);
      const double r = std::min({34 * scale, 0.6 * std::hypot(p[0].x() - p[1].x(), p[0].y() - p[1].y()),
                                 0.6 * std::hypot(p[2].x() - p[1].x(), p[2].y() - p[1].y())});
      const double from = degrees(std::atan2(p[1].y() - p[0].y(), p[0].x() - p[1].x()));
      double sweep = degrees(std::atan2(p[1].y() - p[2].y(), p[2].x() - p[1].x())) - from;
      sweep = std::remainder(sweep, 360.0);
      const QRectF circle(p[1].x() - r, p[1].y() - r, 2 * r, 2 * r);
      path.arcMoveTo(circle, from);
      path.arcTo(circle, from, sweep);
      beside = p[1];
      break;
    }
    case ShapeKind::Ring: {
      const double r = std::hypot(p[1].x() - p[0].x(), p[1].y() - p[0].y());
      path.addEllipse(p[0], r, r);
      beside = p[0] + QPointF(0.7 * r, -0.7 * r);
      break;
    }
    case ShapeKind::Plumb:
    case ShapeKind::Level:
      path.moveTo(at(here.line[0]));
      path.lineTo(at(here.line[1]));
      break;
    case ShapeKind::Pose:
      path.moveTo(p[coaching::kPoseAnkle]);
      for (std::size_t k : {coaching::kPoseKnee, coaching::kPoseHip, coaching::kPoseShoulder}) path.lineTo(p[k]);
      path.addEllipse(p[coaching::kPoseBar], 9 * scale, 9 * scale);
      beside = p[coaching::kPoseShoulder];
      break;
    case ShapeKind::Text:
      break;
  }
  if (!path.isEmpty()) stroke(painter, path, colour, style, scale);
  if (shape.kind == ShapeKind::Arrow) head(painter, p[0], p[1], colour, scale);
  if (shape.kind == ShapeKind::Distance) {
    head(painter, p[0], p[1], colour, 0.7 * scale);
    head(painter, p[1], p[0], colour, 0.7 * scale);
  }
  label(painter, beside, QString::fromStdString(here.label), colour, scale);
}

}  // namespace

void paintShapes(QPainter& painter, const coaching::Sketch& sketch, const coaching::Analysis& analysis,
                 std::size_t frame, const QTransform& view, double scale) {
  if (sketch.empty()) return;
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  for (const coaching::ShapeOnFrame& here : coaching::shapesOn(sketch, analysis, frame))
    paintOne(painter, sketch.shapes[here.shape], here, view, scale);
  painter.restore();
}

void paintHandles(QPainter& painter, const std::vector<PixelPoint>& ends, const QTransform& view, double scale) {
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(QColor(0x0b, 0x12, 0x20), 1.5 * scale));
  painter.setBrush(QColor(0xf7, 0xf1, 0xe1));
  for (const PixelPoint end : ends) painter.drawEllipse(view.map(QPointF(end.x, end.y)), 5 * scale, 5 * scale);
  painter.restore();
}

}  // namespace jib::drawing
