// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/shape_painter.h"

#include <QFontMetricsF>
#include <QLineF>
#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "core/base/angle.h"
#include "core/coaching/back_line.h"
#include "core/coaching/wanted_pose.h"
#include "drawing/palette.h"

namespace jib::drawing {
namespace {

using coaching::ShapeKind;

const QColor kShapeEdge(0x0b, 0x12, 0x20);

QRectF seenRoom(const QPainter& painter) {
  return painter.hasClipping() ? painter.clipBoundingRect() : QRectF(painter.viewport());
}

// What of a line lies in the picture, give or take its width: a stroke costs by its length, seen or not.
std::optional<QLineF> seenPart(QLineF line, const QRectF& room) {
  double from = 0, to = 1;
  const QPointF d = line.p2() - line.p1();
  const auto cut = [&](double start, double along, double least, double most) {
    if (std::abs(along) < 1e-9) return start >= least && start <= most;
    const double a = (least - start) / along, b = (most - start) / along;
    from = std::max(from, std::min(a, b));
    to = std::min(to, std::max(a, b));
    return from <= to;
  };
  if (!cut(line.x1(), d.x(), room.left(), room.right()) || !cut(line.y1(), d.y(), room.top(), room.bottom()))
    return std::nullopt;
  return QLineF(line.pointAt(from), line.pointAt(to));
}

// Lines on any picture: the colour over a dark edge. Each is a solid line with square ends, which Qt fills several
// times faster than what its general stroker makes of a path with round ones.
void stroke(QPainter& painter, const std::vector<QLineF>& lines, const QColor& colour, Qt::PenStyle style,
            double scale) {
  constexpr double kEdge = 5.5, kLine = 3, kDash = 9, kGap = 6.6;
  const double wide = kEdge * scale;
  const QRectF room = seenRoom(painter).adjusted(-wide, -wide, wide, wide);
  QVector<QLineF> whole, dashes;
  const double dash = kDash * scale, step = (kDash + kGap) * scale;
  double along = 0;  // since the first dash of this chain of lines
  QPointF end;
  for (const QLineF& line : lines) {
    if (line.p1() != end) along = 0;
    end = line.p2();
    const double from = along;
    along += line.length();
    const auto seen = seenPart(line, room);
    if (!seen) continue;
    whole << *seen;
    const double length = seen->length();
    if (style != Qt::DashLine || length == 0) continue;
    // From the last dash that began before this line.
    for (double at = -std::fmod(from, step); at < length; at += step)
      if (at + dash > 0)
        dashes << QLineF(seen->pointAt(std::max(0.0, at / length)), seen->pointAt(std::min(1.0, (at + dash) / length)));
  }
  painter.setPen(QPen(kShapeEdge, wide, Qt::SolidLine, Qt::SquareCap));
  painter.drawLines(whole);
  painter.setPen(QPen(colour, kLine * scale, Qt::SolidLine, style == Qt::DashLine ? Qt::FlatCap : Qt::SquareCap));
  painter.drawLines(style == Qt::DashLine ? dashes : whole);
}

// A part of a circle as chords that stay within a quarter of a pixel of it; angles as QPainterPath counts them.
void arc(std::vector<QLineF>& lines, QPointF middle, double radius, double from_deg, double sweep_deg) {
  const int chords = std::max(2, static_cast<int>(std::ceil(std::abs(radians(sweep_deg)) * std::sqrt(radius / 2))));
  const auto at = [&](int k) {
    const double angle = radians(from_deg + sweep_deg * k / chords);
    return middle + QPointF(radius * std::cos(angle), -radius * std::sin(angle));
  };
  for (int k = 0; k < chords; ++k) lines.emplace_back(at(k), at(k + 1));
}

void head(QPainter& painter, QPointF from, QPointF to, const QColor& colour, double scale) {
  const double angle = std::atan2(to.y() - from.y(), to.x() - from.x()), size = 15 * scale;
  QPolygonF tip{to};
  for (double side : {-0.42, 0.42}) tip << to - QPointF(std::cos(angle + side) * size, std::sin(angle + side) * size);
  painter.setPen(QPen(kShapeEdge, 1.2 * scale));
  painter.setBrush(colour);
  painter.drawPolygon(tip);
}

void label(QPainter& painter, QPointF beside, const QString& text, const QColor& colour, double scale,
           bool to_the_left = false) {
  if (text.isEmpty()) return;
  QFont font(QStringLiteral("Cabin"));
  font.setPixelSize(static_cast<int>(std::lround(17 * scale)));
  font.setBold(true);
  painter.setFont(font);
  const QFontMetricsF metrics(font);
  QRectF plate = metrics.boundingRect(text).adjusted(-6 * scale, -3 * scale, 6 * scale, 3 * scale);
  plate.moveTopLeft(beside + QPointF(10 * scale, -plate.height() - 6 * scale));
  // Inside what can be seen.
  const QRectF room = seenRoom(painter);
  if (to_the_left || plate.right() > room.right()) plate.moveRight(beside.x() - 10 * scale);
  if (plate.left() < room.left()) plate.moveLeft(std::max(room.left(), beside.x() + 10 * scale));
  if (plate.top() < room.top()) plate.moveTop(beside.y() + 8 * scale);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x0b, 0x12, 0x20, 205));
  painter.drawRoundedRect(plate, 4 * scale, 4 * scale);
  painter.setPen(colour);
  painter.drawText(plate, Qt::AlignCenter, text);
}

void paintOne(QPainter& painter, const coaching::Shape& shape, const coaching::ShapeOnFrame& here,
              const QTransform& view, double scale, bool faces_right, bool hangs) {
  const bool wanted = shape.sense == coaching::Sense::AsWanted;
  const QColor colour = wanted ? kWantedColour : kCoachColour;
  const Qt::PenStyle style = wanted || shape.proposed ? Qt::DashLine : Qt::SolidLine;
  const auto at = [&](PixelPoint p) { return view.map(QPointF(p.x, p.y)); };
  std::vector<QPointF> p;
  for (const PixelPoint anchor : here.anchors) p.push_back(at(anchor));
  std::vector<QLineF> lines;
  QPointF beside = p.front();
  switch (shape.kind) {
    case ShapeKind::Line:
    case ShapeKind::Arrow:
    case ShapeKind::Distance:
      lines = {QLineF(p[0], p[1])};
      beside = (p[0] + p[1]) / 2;
      break;
    case ShapeKind::Angle: {
      lines = {QLineF(p[0], p[1]), QLineF(p[1], p[2])};
      const double r = std::min({34 * scale, 0.6 * std::hypot(p[0].x() - p[1].x(), p[0].y() - p[1].y()),
                                 0.6 * std::hypot(p[2].x() - p[1].x(), p[2].y() - p[1].y())});
      const double from = degrees(std::atan2(p[1].y() - p[0].y(), p[0].x() - p[1].x()));
      double sweep = degrees(std::atan2(p[1].y() - p[2].y(), p[2].x() - p[1].x())) - from;
      sweep = std::remainder(sweep, 360.0);
      arc(lines, p[1], r, from, sweep);
      beside = p[1];
      break;
    }
    case ShapeKind::Blur:
    case ShapeKind::Ring: {
      const double r = std::hypot(p[1].x() - p[0].x(), p[1].y() - p[0].y());
      arc(lines, p[0], r, 0, 360);
      beside = p[0] + QPointF(0.7 * r, -0.7 * r);
      break;
    }
    case ShapeKind::Plumb:
    case ShapeKind::Level:
      lines = {QLineF(at(here.line[0]), at(here.line[1]))};
      break;
    case ShapeKind::Pose:
      lines = {QLineF(p[coaching::kPoseAnkle], p[coaching::kPoseKnee]),
               QLineF(p[coaching::kPoseKnee], p[coaching::kPoseHip]),
               QLineF(p[coaching::kPoseHip], p[coaching::kPoseShoulder])};
      if (hangs) lines.emplace_back(p[coaching::kPoseShoulder], p[coaching::kPoseBar]);
      arc(lines, p[coaching::kPoseBar], 9 * scale, 0, 360);
      beside = p[coaching::kPoseShoulder];
      break;
    case ShapeKind::Back:
      lines = {QLineF(p[0], p[1]), QLineF(p[1], p[2])};
      for (const QPointF& end : p) arc(lines, end, 6 * scale, 0, 360);
      beside = p[coaching::kUpperBack];  // the words behind the lifter, not over them
      break;
    case ShapeKind::Text:
      break;
  }
  if (!lines.empty()) stroke(painter, lines, colour, style, scale);
  if (shape.kind == ShapeKind::Arrow) head(painter, p[0], p[1], colour, scale);
  if (shape.kind == ShapeKind::Distance) {
    head(painter, p[0], p[1], colour, 0.7 * scale);
    head(painter, p[1], p[0], colour, 0.7 * scale);
  }
  label(painter, beside, QString::fromStdString(here.label), colour, scale,
        shape.kind == ShapeKind::Back && faces_right);
}

}  // namespace

void paintShapes(QPainter& painter, const coaching::Sketch& sketch, const coaching::Analysis& analysis,
                 std::size_t frame, const QTransform& view, double scale, Blurs blurs) {
  if (sketch.empty()) return;
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  for (const coaching::ShapeOnFrame& here : coaching::shapesOn(sketch, analysis, frame)) {
    if (blurs == Blurs::Unseen && sketch.shapes[here.shape].kind == ShapeKind::Blur) continue;
    paintOne(painter, sketch.shapes[here.shape], here, view, scale, analysis.trace.camera.forward > 0,
             analysis.trace.model.hangs());
  }
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
