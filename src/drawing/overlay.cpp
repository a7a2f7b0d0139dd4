// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/overlay.h"

#include <QPainterPath>
#include <QTextDocument>
#include <cmath>

#include "core/base/angle.h"
#include "drawing/palette.h"

namespace jib::drawing {
namespace {

using tracing::Landmark;
using tracing::Origin;

constexpr double kHalo = 2.2;  // of a dark edge under every line, so that it shows on any picture

const QColor kHaloColour(0x08, 0x12, 0x24, 150);

}  // namespace

std::optional<MidFootLine> midFootLine(const coaching::Analysis& analysis, std::size_t frame) {
  const auto& trace = analysis.trace.trace;
  const auto toe = trace.place(frame, Landmark::Toe), heel = trace.place(frame, Landmark::Heel);
  const auto bar = trace.place(frame, Landmark::Bar);
  if (!toe || !heel || !bar || analysis.trace.model.lying) return std::nullopt;
  // Upright in the room: a rolled camera sees it leaning. The bar is nearer than the foot, so the line is where a bar
  // right over mid-foot would be seen.
  constexpr double kOverBar_m = 0.15;
  const auto& camera = analysis.trace.camera;
  const PixelPoint foot = (*toe + *heel) * 0.5;
  const MetrePoint high{camera.toPlane(foot, camera.ankle_m).x, camera.toPlane(*bar, camera.plate_m).z + kOverBar_m};
  return MidFootLine{foot, camera.toPicture(high, camera.ankle_m)};
}

OverlayPainter::OverlayPainter(QPainter& painter, const coaching::Analysis& analysis, const QTransform& view,
                               double scale)
    : painter_(painter), analysis_(analysis), view_(view), scale_(scale) {
  painter_.setRenderHint(QPainter::Antialiasing);
}

std::optional<QPointF> OverlayPainter::at(std::size_t frame, Landmark landmark) const {
  const auto p = analysis_.trace.trace.place(frame, landmark);
  return p ? std::optional(map(*p)) : std::nullopt;
}

void OverlayPainter::line(QPointF a, QPointF b, const QColor& colour, double width, Qt::PenStyle style) {
  painter_.setPen(QPen(kHaloColour, (width + kHalo) * scale_, Qt::SolidLine, Qt::RoundCap));
  painter_.drawLine(a, b);
  QPen pen(colour, width * scale_, style, Qt::RoundCap);
  painter_.setPen(pen);
  painter_.drawLine(a, b);
}

void OverlayPainter::label(QPointF place, const QString& text, const QColor& colour) {
  QFont font = painter_.font();
  font.setPixelSize(std::max(9, static_cast<int>(std::lround(13 * scale_))));
  font.setBold(true);
  painter_.setFont(font);
  const QFontMetricsF metrics(font);
  const QRectF box(place.x(), place.y() - metrics.height() * 0.8, metrics.horizontalAdvance(text) + 10 * scale_,
                   metrics.height() + 2 * scale_);
  painter_.setPen(Qt::NoPen);
  painter_.setBrush(QColor(0x0c, 0x18, 0x2c, 200));
  painter_.drawRoundedRect(box, 3 * scale_, 3 * scale_);
  painter_.setPen(colour);
  painter_.drawText(box, Qt::AlignCenter, text);
  painter_.setBrush(Qt::NoBrush);
}

void OverlayPainter::barPath(std::size_t frame) {
  // The rep under the play head, or the last one before it.
  const double t = analysis_.motion.times_s[frame];
  const motion::Rep* rep = nullptr;
  for (const auto& r : analysis_.reps)
    if (r.start_t() <= t + 0.01) rep = &r;
  if (!rep) return;
  // One stroke a stretch, not one a frame: a gap in the trace stays a gap.
  const auto stroke = [&](std::size_t from, std::size_t to, const QColor& colour, double width) {
    painter_.setPen(QPen(colour, width * scale_, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    QPolygonF path;
    for (std::size_t i = from; i <= to + 1; ++i) {
      const auto p = i <= to ? at(i, Landmark::Bar) : std::nullopt;
      if (p) {
        path << *p;
        continue;
      }
      if (path.size() > 1) painter_.drawPolyline(path);
      path.clear();
    }
  };
  const auto part = [&](const motion::Stretch& of, const QColor& colour, double width) {
    const std::size_t from = analysis_.motion.frameAt(of.from_t);
    const std::size_t to = std::min(frame, analysis_.motion.frameAt(of.to_t));
    if (to > from) stroke(from, to, colour, width);
  };
  part(rep->whole(), kHaloColour, 2.6 + kHalo);
  if (const auto lowered = rep->lowered()) part(*lowered, kDescentColour, 2.6);
  part(rep->raised(), kAscentColour, 2.6);
  if (const auto bar = at(frame, Landmark::Bar)) {
    painter_.setPen(QPen(kHaloColour, 3.2 * scale_));
    painter_.setBrush(Qt::NoBrush);
    painter_.drawEllipse(*bar, 6 * scale_, 6 * scale_);
    painter_.setPen(QPen(kBarColour, 1.8 * scale_));
    painter_.drawEllipse(*bar, 6 * scale_, 6 * scale_);
  }
}

void OverlayPainter::midFootLine(std::size_t frame) {
  const auto at = drawing::midFootLine(analysis_, frame);
  if (!at) return;
  const QPointF foot = map(at->foot), tick(7 * scale_, 0);
  line(foot, map(at->top), QColor(0xf4, 0xee, 0xdc, 210), 1.4, Qt::DashLine);
  line(foot - tick, foot + tick, QColor(0xf4, 0xee, 0xdc), 1.6);
}

void OverlayPainter::segments(std::size_t frame) {
  const std::pair<Landmark, Landmark> bones[] = {{Landmark::Heel, Landmark::Toe},
                                                 {Landmark::Ankle, Landmark::Knee},
                                                 {Landmark::Knee, Landmark::Hip},
                                                 {Landmark::Hip, Landmark::Shoulder}};
  for (std::size_t i = 0; i < 4; ++i) {
    const auto a = at(frame, bones[i].first), b = at(frame, bones[i].second);
    if (!a || !b) continue;
    // Worked out rather than seen: dashed.
    const auto& end = analysis_.trace.trace.frames[frame][tracing::at(bones[i].second)];
    line(*a, *b, partColour(static_cast<tracing::Part>(i)), 3.0,
         end->origin == Origin::Fitted ? Qt::DashLine : Qt::SolidLine);
  }
  const auto shoulder = at(frame, Landmark::Shoulder), elbow = at(frame, Landmark::Elbow);
  const auto wrist = at(frame, Landmark::Wrist);
  if (shoulder && elbow) line(*shoulder, *elbow, kTrunkColour, wrist ? 3.0 : 1.6, Qt::DashLine);
  if (elbow && wrist) line(*elbow, *wrist, kShinColour, 3.0, Qt::DashLine);
  points(frame);
}

void OverlayPainter::points(std::size_t frame) {
  for (Landmark l : {Landmark::Toe, Landmark::Heel, Landmark::Ankle, Landmark::Knee, Landmark::Hip, Landmark::Shoulder,
                     Landmark::Elbow, Landmark::Wrist}) {
    const auto& point = analysis_.trace.trace.frames[frame][tracing::at(l)];
    if (!point) continue;
    const QPointF p = map(point->place);
    if (point->origin == Origin::Pinned) {
      // The coach's own mark: magenta, a ring with a cross, unlike any measured point.
      painter_.setPen(QPen(QColor(255, 255, 255, 220), 3.4 * scale_));
      painter_.drawEllipse(p, 5.5 * scale_, 5.5 * scale_);
      painter_.setPen(QPen(kCoachColour, 2.2 * scale_));
      painter_.drawEllipse(p, 5.5 * scale_, 5.5 * scale_);
      painter_.drawLine(p - QPointF(3 * scale_, 0), p + QPointF(3 * scale_, 0));
      painter_.drawLine(p - QPointF(0, 3 * scale_), p + QPointF(0, 3 * scale_));
      continue;
    }
    painter_.setPen(QPen(kHaloColour, 1.2 * scale_));
    painter_.setBrush(point->origin == Origin::Fitted ? QBrush(Qt::NoBrush) : QBrush(kBarColour));
    if (point->origin == Origin::Fitted) painter_.setPen(QPen(kBarColour, 1.4 * scale_, Qt::DotLine));
    painter_.drawEllipse(p, 4 * scale_, 4 * scale_);
    painter_.setBrush(Qt::NoBrush);
  }
}

// The network looks some eight times a second: the sighting nearest to the frame, faint when it is of another frame.
// With the outline it took for the person's. What it hardly saw is left out; to the fit it is a hint at most.
void OverlayPainter::sightings(std::size_t frame) {
  const auto& all = analysis_.trace.sightings;
  if (!all || all->empty()) return;
  constexpr double kNear_s = tracing::kRestingLooks_s / 2 + 0.02, kSeen = 0.5;  // give or take half a frame
  const auto away = [&](const tracing::Sighting& s) {
    return std::abs(analysis_.motion.times_s[s.frame] - analysis_.motion.times_s[frame]);
  };
  const auto& s =
      *std::min_element(all->begin(), all->end(), [&](const auto& a, const auto& b) { return away(a) < away(b); });
  if (away(s) > kNear_s) return;
  const auto side = analysis_.trace.camera.forward > 0 ? tracing::BodySide::Right : tracing::BodySide::Left;
  const QColor faint(0xf6, 0xc8, 0x6a, s.frame == frame ? 200 : 110);
  QPolygonF outline;
  for (const PixelPoint& p : s.reading.outline) outline << map(p);
  painter_.setBrush(Qt::NoBrush);
  painter_.setPen(QPen(faint, 1.2 * scale_, Qt::DashLine));
  painter_.drawPolygon(outline);
  const double arm = 5 * scale_;
  using tracing::PoseMark;
  for (PoseMark mark :
       {PoseMark::Shoulder, PoseMark::Hip, PoseMark::Knee, PoseMark::Ankle, PoseMark::Heel, PoseMark::Toe}) {
    if (s.reading.sure(mark, side) < kSeen) continue;
    const QPointF p = map(s.reading.place(mark, side));
    const QColor colour(0xf6, 0xc8, 0x6a, s.frame == frame ? 255 : 140);
    line(p - QPointF(arm, arm), p + QPointF(arm, arm), colour, 1.6);
    line(p - QPointF(arm, -arm), p + QPointF(arm, -arm), colour, 1.6);
  }
}

void OverlayPainter::leanWedge(std::size_t frame, Landmark lower, Landmark upper, const QColor& colour) {
  const auto a = at(frame, lower), b = at(frame, upper);
  if (!a || !b) return;
  const auto& angles = analysis_.motion.angles[frame];
  const auto value = lower == Landmark::Ankle ? angles.shin_deg : angles.torso_deg;
  if (!value) return;
  const double l = std::hypot(b->x() - a->x(), b->y() - a->y());
  line(*a, *a - QPointF(0, 0.55 * l), QColor(0xf4, 0xee, 0xdc, 170), 1.0, Qt::DotLine);
  const double r = 0.4 * l;
  const double direction = degrees(std::atan2(a->y() - b->y(), b->x() - a->x()));
  painter_.setPen(QPen(colour, 1.8 * scale_));
  painter_.drawArc(QRectF(a->x() - r, a->y() - r, 2 * r, 2 * r), 90 * 16,
                   static_cast<int>(std::lround((direction - 90) * 16)));
  const bool toLeft = b->x() < a->x();
  const QString text = QString::number(*value, 'f', 0) + QChar(0x00b0);
  const double width = QFontMetricsF(painter_.font()).horizontalAdvance(text) + 14 * scale_;
  label(*a + QPointF(toLeft ? 6 * scale_ : -width - 6 * scale_, -r), text, colour);
}

void OverlayPainter::angleLabels(std::size_t frame) {
  leanWedge(frame, Landmark::Ankle, Landmark::Knee, kShinColour);
  leanWedge(frame, Landmark::Hip, Landmark::Shoulder, kTrunkColour);
}

void OverlayPainter::depthLine(std::size_t frame) {
  const auto crease = at(frame, Landmark::HipCrease), top = at(frame, Landmark::KneeTop);
  if (!crease || !top) return;
  const double left = std::min(crease->x(), top->x()) - 26 * scale_,
               right = std::max(crease->x(), top->x()) + 26 * scale_;
  // The level of the knee's top is the waterline; the hip crease is a sounding above or below it.
  line({left, top->y()}, {right, top->y()}, QColor(0xbf, 0xe6, 0xee), 1.6);
  const bool below = crease->y() > top->y();
  const QColor colour = below ? QColor(0x7c, 0xc4, 0xf5) : QColor(0xf6, 0xc8, 0x6a);
  line({crease->x(), top->y()}, *crease, colour, 2.4);
  painter_.setPen(Qt::NoPen);
  painter_.setBrush(colour);
  const double s = 5 * scale_;
  painter_.drawPolygon(
      QPolygonF{*crease + QPointF(0, below ? s : -s), *crease + QPointF(-s, 0), *crease + QPointF(s, 0)});
  painter_.setBrush(Qt::NoBrush);
}

void OverlayPainter::heel(std::size_t frame) {
  const auto heel = at(frame, Landmark::Heel), toe = at(frame, Landmark::Toe);
  if (!heel || !toe) return;
  const double floor_y = std::max(heel->y(), toe->y());
  line({std::min(heel->x(), toe->x()) - 20 * scale_, floor_y}, {std::max(heel->x(), toe->x()) + 20 * scale_, floor_y},
       QColor(0xbf, 0xe6, 0xee), 1.4);
  line(*heel, {heel->x(), floor_y}, QColor(0xf6, 0xc8, 0x6a), 2.6);
}

void OverlayPainter::kneeMarks(std::size_t frame) {
  // Where the knee was at this rep's bottom, and where it is now.
  const double t = analysis_.motion.times_s[frame];
  const motion::Rep* rep = nullptr;
  for (const auto& r : analysis_.reps)
    if (r.start_t() <= t + 0.01) rep = &r;
  const auto now = at(frame, Landmark::Knee);
  if (!rep || !now) return;
  const auto then = at(analysis_.motion.frameAt(rep->bottom_t()), Landmark::Knee);
  if (!then) return;
  const double h = 36 * scale_;
  line({then->x(), then->y() - h}, {then->x(), then->y() + h}, QColor(0xbf, 0xe6, 0xee), 1.4, Qt::DashLine);
  line({now->x(), now->y() - h}, {now->x(), now->y() + h}, kShinColour, 2.0);
  if (std::abs(now->x() - then->x()) > 3) line({then->x(), now->y() - h}, {now->x(), now->y() - h}, kAscentColour, 2.2);
}

// The forearm against the upright through the elbow.
void OverlayPainter::forearm(std::size_t frame) {
  const auto elbow = at(frame, Landmark::Elbow), hand = at(frame, Landmark::Wrist);
  if (!elbow || !hand) return;
  const double l = std::hypot(hand->x() - elbow->x(), hand->y() - elbow->y());
  line(*elbow, *elbow - QPointF(0, 1.25 * l), QColor(0xbf, 0xe6, 0xee), 1.6, Qt::DashLine);
  line(*elbow, *hand, kAscentColour, 3.0);
}

// Where the hip lay when the rep began, and where it is now.
void OverlayPainter::seat(std::size_t frame) {
  const double t = analysis_.motion.times_s[frame];
  const motion::Rep* rep = nullptr;
  for (const auto& r : analysis_.reps)
    if (r.start_t() <= t + 0.01) rep = &r;
  const auto now = at(frame, Landmark::Hip);
  if (!rep || !now) return;
  const std::size_t began = analysis_.motion.frameAt(rep->start_t());
  const auto& rise = analysis_.motion.seat_rise_m;
  double up_px = 0;
  if (frame < rise.size() && rise[frame] && rise[began])
    up_px = (*rise[frame] - *rise[began]) * analysis_.trace.camera.pixelsPerMetre(analysis_.trace.camera.hip_m);
  const double level = now->y() + std::max(0.0, up_px) * view_.m22(), reach = 60 * scale_;
  line({now->x() - reach, level}, {now->x() + reach, level}, QColor(0xbf, 0xe6, 0xee), 1.6, Qt::DashLine);
  line({now->x(), level}, *now, kAscentColour, 2.6);
}

// Both sides of a body that is seen from the front or the rear: legs from hip to ankle, the lines of hips and
// shoulders, and the bar from end to end.
void OverlayPainter::sides(std::size_t frame) {
  using tracing::BodySide;
  const auto& front = analysis_.trace.front;
  if (!front || frame >= front->frames.size()) return;
  const auto place = [&](BodySide side, Landmark l) -> std::optional<QPointF> {
    const auto& p = front->frames[frame].at(side, l);
    return p ? std::optional(map(p->place)) : std::nullopt;
  };
  const auto bone = [&](const std::optional<QPointF>& a, const std::optional<QPointF>& b, const QColor& colour,
                        double width) {
    if (a && b) line(*a, *b, colour, width);
  };
  for (BodySide side : {BodySide::Left, BodySide::Right}) {
    bone(place(side, Landmark::Ankle), place(side, Landmark::Knee), kShinColour, 3.0);
    bone(place(side, Landmark::Knee), place(side, Landmark::Hip), kThighColour, 3.0);
    bone(place(side, Landmark::Hip), place(side, Landmark::Shoulder), kTrunkColour, 2.0);
    if (front->lies) {
      bone(place(side, Landmark::Shoulder), place(side, Landmark::Elbow), kThighColour, 3.0);
      bone(place(side, Landmark::Elbow), place(side, Landmark::Wrist), kShinColour, 3.0);
    }
    // The knee over the foot is what is looked at.
    if (const auto ankle = place(side, Landmark::Ankle), hip = place(side, Landmark::Hip); ankle && hip)
      line(*ankle, {ankle->x(), hip->y()}, QColor(0xbf, 0xe6, 0xee), 1.2, Qt::DashLine);
  }
  for (const auto& [l, colour] :
       {std::pair{Landmark::Hip, kTrunkColour}, {Landmark::Shoulder, kTrunkColour}, {Landmark::Bar, kBarColour}})
    bone(place(BodySide::Left, l), place(BodySide::Right, l), colour, l == Landmark::Bar ? 1.6 : 2.4);
  for (BodySide side : {BodySide::Left, BodySide::Right})
    for (Landmark l : {Landmark::Bar, Landmark::Shoulder, Landmark::Elbow, Landmark::Wrist, Landmark::Hip,
                       Landmark::Knee, Landmark::Ankle, Landmark::Heel, Landmark::Toe})
      if (const auto p = place(side, l)) {
        painter_.setPen(QPen(kHaloColour, 1.2 * scale_));
        painter_.setBrush(kBarColour);
        painter_.drawEllipse(*p, 4 * scale_, 4 * scale_);
        painter_.setBrush(Qt::NoBrush);
      }
}

void OverlayPainter::paint(std::size_t frame, const OverlayChoice& choice) {
  if (analysis_.trace.front) {
    painter_.save();
    if (choice.segments) sides(frame);
    painter_.restore();
    return;
  }
  const bool lying = lifts::definition(analysis_.request.lift).body.lying;
  painter_.save();
  if (choice.mid_foot && !lying) midFootLine(frame);
  if (choice.bar_path) barPath(frame);
  if (choice.depth && lifts::definition(analysis_.request.lift).draws(lifts::Drawing::Depth)) {
    // Only near the bottom, where it means something.
    const double t = analysis_.motion.times_s[frame];
    for (const auto& r : analysis_.reps)
      if (std::abs(t - r.bottom_t()) < 0.35 * analysis_.motion.slow_factor) depthLine(frame);
  }
  if (choice.segments) segments(frame);
  if (choice.seen) sightings(frame);
  if (choice.angles && !lying) angleLabels(frame);
  painter_.restore();
}

void OverlayPainter::paintEvidence(std::size_t frame, lifts::Drawing drawing) {
  using lifts::Drawing;
  painter_.save();
  switch (drawing) {
    case Drawing::Depth:
      segments(frame);
      depthLine(frame);
      break;
    case Drawing::MidFoot:
      midFootLine(frame);
      barPath(frame);
      break;
    case Drawing::Trunk:
      segments(frame);
      leanWedge(frame, Landmark::Hip, Landmark::Shoulder, kTrunkColour);
      break;
    case Drawing::Shin:
      segments(frame);
      leanWedge(frame, Landmark::Ankle, Landmark::Knee, kShinColour);
      break;
    case Drawing::Knee:
      segments(frame);
      kneeMarks(frame);
      break;
    case Drawing::Heel:
      segments(frame);
      heel(frame);
      break;
    case Drawing::BarPath:
      barPath(frame);
      break;
    case Drawing::Sides:
      sides(frame);
      break;
    case Drawing::Forearm:
      segments(frame);
      forearm(frame);
      break;
    case Drawing::Seat:
      segments(frame);
      seat(frame);
      break;
    case Drawing::Chain:
      barPath(frame);
      segments(frame);
      angleLabels(frame);
      break;
    case Drawing::None:
      break;
  }
  painter_.restore();
}

void paintCaption(QPainter& painter, const QRectF& picture, const QString& title, const QString& text, double scale) {
  painter.save();
  const double margin = 18 * scale, pad = 12 * scale;
  QTextDocument document;
  QFont font(QStringLiteral("Cabin"));
  font.setPixelSize(std::max(10, static_cast<int>(std::lround(19 * scale))));
  document.setDefaultFont(font);
  document.setDocumentMargin(0);
  document.setDefaultStyleSheet(QStringLiteral("body{color:#162a4d}"));
  document.setHtml(
      QStringLiteral(
          "<body><div style='font-family:Vollkorn;font-style:italic;font-size:%1px'>%2</div><div>%3</div></body>")
          .arg(static_cast<int>(std::lround(17 * scale)))
          .arg(title.toHtmlEscaped(), text.toHtmlEscaped()));
  document.setTextWidth(picture.width() - 2 * margin - 2 * pad - 6 * scale);
  const double height = document.size().height() + 2 * pad;
  const QRectF plate(picture.left() + margin, picture.bottom() - margin - height, picture.width() - 2 * margin, height);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0xf7, 0xf1, 0xe1, 236));
  painter.drawRoundedRect(plate, 4 * scale, 4 * scale);
  painter.setBrush(kCoachColour);
  painter.drawRect(QRectF(plate.left(), plate.top(), 5 * scale, plate.height()));
  painter.translate(plate.left() + pad + 6 * scale, plate.top() + pad);
  document.drawContents(&painter);
  painter.restore();
}

}  // namespace jib::drawing
