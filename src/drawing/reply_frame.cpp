// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/reply_frame.h"

#include <QPainter>
#include <QTextDocument>
#include <algorithm>
#include <cmath>

#include "drawing/lifter_extent.h"
#include "drawing/palette.h"

namespace jib::drawing {
namespace {

using tracing::Landmark;

constexpr int kMargin = 30;

// `extent` with a margin, as wide to its height as the film's picture, inside the clip as far as it goes.
QRect frameAround(QRectF extent, int width, int height, QSize picture) {
  const QRectF whole(0, 0, width, height);
  if (extent.isEmpty()) extent = whole;
  const double margin = 0.05 * std::max(extent.width(), extent.height());
  extent = extent.adjusted(-margin, -margin, margin, margin) & whole;
  const double aspect = static_cast<double>(picture.width()) / picture.height();
  double w = extent.width(), h = extent.height();
  (w < h * aspect ? w : h) = w < h * aspect ? h * aspect : w / aspect;
  w = std::min(w, whole.width());
  h = std::min(h, whole.height());
  double x = extent.center().x() - w / 2, y = extent.center().y() - h / 2;
  x = std::clamp(x, 0.0, whole.width() - w);
  y = std::clamp(y, 0.0, whole.height() - h);
  return QRectF(x, y, w, h).toRect() & whole.toRect();
}

QFont fontOf(const char* family, int px, bool italic, bool bold) {
  QFont font(QString::fromLatin1(family));
  font.setPixelSize(px);
  font.setItalic(italic);
  font.setBold(bold);
  return font;
}

// Words from `top` down; where they end.
qreal paintWords(QPainter& painter, const QString& text, const QFont& font, const QColor& colour, qreal top) {
  if (text.isEmpty()) return top;
  const QRectF room(kMargin, top, painter.device()->width() - 2 * kMargin, painter.device()->height());
  painter.setFont(font);
  painter.setPen(colour);
  QRectF used;
  painter.drawText(room, Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop, text, &used);
  return used.bottom();
}

}  // namespace

FilmLayout layoutOf(review::FilmShape shape) {
  switch (shape) {
    case review::FilmShape::Landscape:
      return {{1280, 720}, {0, 0, 780, 720}, {780, 0, 500, 720}};
    case review::FilmShape::Portrait:
      return {{720, 1280}, {0, 0, 720, 800}, {0, 800, 720, 480}};
    case review::FilmShape::Square:
      return {{1080, 1080}, {0, 0, 1080, 680}, {0, 680, 1080, 400}};
  }
  return layoutOf(review::FilmShape::Landscape);
}

ReplyFrame::ReplyFrame(const coaching::Analysis& analysis, const coaching::Sketch& sketch, review::FilmShape shape,
                       bool hide_faces)
    : analysis_(analysis),
      sketch_(sketch),
      blurred_(analysis, sketch, hide_faces),
      layout_(layoutOf(shape)),
      shown_(frameAround(lifterExtent(analysis), analysis.clip.width, analysis.clip.height, layout_.picture.size())) {
  const int width = layout_.picture.width(), height = layout_.picture.height();
  const double scale =
      std::min(static_cast<double>(width) / shown_.width(), static_cast<double>(height) / shown_.height());
  const QSize size(static_cast<int>(std::lround(shown_.width() * scale)),
                   static_cast<int>(std::lround(shown_.height() * scale)));
  place_ = QRect(QPoint((width - size.width()) / 2, (height - size.height()) / 2), size);
}

QTransform ReplyFrame::clipToFilm() const {
  QTransform t;
  t.translate(place_.left(), place_.top());
  t.scale(static_cast<double>(place_.width()) / shown_.width(), static_cast<double>(place_.height()) / shown_.height());
  t.translate(-shown_.left(), -shown_.top());
  return t;
}

const QImage& ReplyFrame::panel(const PanelWords& words) {
  const QString key = words.counter + QLatin1Char('\n') + words.title + QLatin1Char('\n') + words.text +
                      QLatin1Char('\n') + words.caption;
  const auto known = panels_.find(key);
  return known != panels_.end() ? known->second : panels_.emplace(key, painted(words)).first->second;
}

void ReplyFrame::paintLegend(QPainter& painter, qreal bottom) const {
  struct Line {
    QColor colour;
    Qt::PenStyle style;
    QString text;
  };
  std::vector<Line> lines;
  if (analysis_.trace.front)
    lines = {{kThighColour, Qt::SolidLine, QObject::tr("thigh")},
             {kShinColour, Qt::SolidLine, QObject::tr("shin")},
             {QColor(0xbf, 0xe6, 0xee), Qt::DashLine, QObject::tr("straight over the foot")}};
  else if (analysis_.isTraced())
    lines = {{kDescentColour, Qt::SolidLine, QObject::tr("bar going down")},
             {kAscentColour, Qt::SolidLine, QObject::tr("bar coming up")}};
  if (analysis_.trace.body) {
    lines.push_back({kTrunkColour, Qt::SolidLine, QObject::tr("torso")});
    lines.push_back({kThighColour, Qt::SolidLine, QObject::tr("thigh")});
    lines.push_back({kShinColour, Qt::SolidLine, QObject::tr("shin")});
    if (analysis_.trace.body->feet_seen) lines.push_back({kBarColour, Qt::DashLine, QObject::tr("over mid-foot")});
  }
  const auto drew = [&](coaching::Sense sense) {
    return std::any_of(sketch_.shapes.begin(), sketch_.shapes.end(),
                       [&](const coaching::Shape& s) { return s.sense == sense; });
  };
  if (drew(coaching::Sense::AsItIs)) lines.push_back({kCoachColour, Qt::SolidLine, QObject::tr("actual")});
  if (drew(coaching::Sense::AsWanted)) lines.push_back({kWantedColour, Qt::DashLine, QObject::tr("target")});
  if (lines.empty()) return;
  // On a dark field, as the lines were chosen to be seen on pictures.
  constexpr int kRow = 28, kPad = 10;
  const int columns = below() ? 3 : 2;
  const int rows = (static_cast<int>(lines.size()) + columns - 1) / columns;
  const QRectF field(kMargin, bottom - rows * kRow - 2 * kPad, layout_.words.width() - 2 * kMargin,
                     rows * kRow + 2 * kPad);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x1c, 0x2b, 0x45));
  painter.drawRoundedRect(field, 5, 5);
  painter.setFont(fontOf("Cabin", 18, false, false));
  for (std::size_t i = 0; i < lines.size(); ++i) {
    const int column = static_cast<int>(i) % columns, row = static_cast<int>(i) / columns;
    const qreal x = field.left() + kPad + column * (field.width() - kPad) / columns;
    const qreal y = field.top() + kPad + row * kRow + kRow / 2.0;
    painter.setPen(QPen(lines[i].colour, 4, lines[i].style, Qt::FlatCap));
    painter.drawLine(QPointF(x, y), QPointF(x + 28, y));
    painter.setPen(QColor(0xf0, 0xea, 0xd8));
    painter.drawText(QRectF(x + 38, y - kRow / 2.0, field.width() / columns, kRow), Qt::AlignLeft | Qt::AlignVCenter,
                     lines[i].text);
  }
}

// The meaning of the lines has what room the words leave.
constexpr qreal kLegendRoom = 220;

QImage ReplyFrame::painted(const PanelWords& words) const {
  const Palette& p = day();
  if (below()) return paintedBelow(words);
  QImage strip(layout_.words.size(), QImage::Format_RGB32);
  const int width = strip.width(), height = strip.height();
  strip.fill(p.paper);
  QPainter painter(&strip);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(QRectF(0, 0, 1, height), p.line);
  qreal y = paintWords(painter, words.head, fontOf("Vollkorn", 38, true, false), p.ink, 22);
  y = paintWords(painter, words.line, fontOf("Cabin", 22, false, false), p.faint, y + 2);
  painter.fillRect(QRectF(kMargin, y + 14, width - 2 * kMargin, 1), p.line);
  y += 34;
  if (!words.text.isEmpty()) {
    const qreal top = y;
    y = paintWords(painter, words.title, fontOf("Vollkorn", 26, true, false), p.faint, y);
    y = paintWords(painter, words.text, fontOf("Cabin", 40, false, true), p.ink, y + 6);
    y = paintWords(painter, words.below, fontOf("Cabin", 24, false, false), p.ink, y + 14);
    painter.fillRect(QRectF(kMargin - 16, top + 4, 5, y - top - 4), p.coach);
  } else {
    y = paintWords(painter, words.counter, fontOf("Vollkorn", 30, true, false), p.faint, y) + 22;
    for (qsizetype i = 0; i < words.to_come.size(); ++i) {
      const qreal top = y;
      y = paintWords(painter, words.to_come[i], fontOf("Cabin", 24, false, false), p.ink, y);
      painter.fillRect(QRectF(kMargin - 16, top + 2, 5, y - top - 2), p.coach);
      y += 20;
    }
  }
  if (!words.caption.isEmpty()) {
    painter.fillRect(QRectF(kMargin, y + 16, width - 2 * kMargin, 1), p.line);
    y = paintWords(painter, words.caption, fontOf("Cabin", 28, false, false), p.ink, y + 28);
  }
  const bool signed_off = !words.sign.isEmpty();
  if (words.caption.isEmpty() || y < height - kLegendRoom) paintLegend(painter, height - (signed_off ? 62 : 26));
  if (signed_off) {
    painter.setFont(fontOf("Vollkorn", 22, true, false));
    painter.setPen(p.faint);
    painter.drawText(QRectF(kMargin, height - 50, width - 2 * kMargin, 30), Qt::AlignLeft | Qt::AlignVCenter,
                     words.sign);
  }
  return strip;
}

// Under the picture, for a phone that is held upright: the cue first and largest, who it is for in one small line.
QImage ReplyFrame::paintedBelow(const PanelWords& words) const {
  const Palette& p = day();
  QImage strip(layout_.words.size(), QImage::Format_RGB32);
  strip.fill(p.paper);
  QPainter painter(&strip);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(QRectF(0, 0, strip.width(), 1), p.line);
  const QString head = words.head + (words.head.isEmpty() || words.line.isEmpty() ? QString() : QStringLiteral(" · ")) +
                       words.line + (words.sign.isEmpty() ? QString() : QStringLiteral(" · ") + words.sign);
  qreal y = paintWords(painter, head, fontOf("Cabin", 21, false, false), p.faint, 14) + 12;
  if (!words.text.isEmpty()) {
    const qreal top = y;
    y = paintWords(painter, words.title, fontOf("Vollkorn", 30, true, false), p.faint, y);
    y = paintWords(painter, words.text, fontOf("Cabin", 50, false, true), p.ink, y + 2);
    y = paintWords(painter, words.below, fontOf("Cabin", 28, false, false), p.ink, y + 8);
    painter.fillRect(QRectF(kMargin - 16, top + 4, 5, y - top - 4), p.coach);
  } else {
    y = paintWords(painter, words.counter, fontOf("Vollkorn", 34, true, false), p.faint, y) + 12;
    for (const QString& line : words.to_come) {
      const qreal top = y;
      y = paintWords(painter, line, fontOf("Cabin", 32, false, false), p.ink, y);
      painter.fillRect(QRectF(kMargin - 16, top + 2, 5, y - top - 2), p.coach);
      y += 12;
    }
  }
  if (!words.caption.isEmpty()) {
    painter.fillRect(QRectF(kMargin, y + 12, strip.width() - 2 * kMargin, 1), p.line);
    y = paintWords(painter, words.caption, fontOf("Cabin", 34, false, false), p.ink, y + 20);
  }
  constexpr qreal kLegend = 90;
  if (y < strip.height() - kLegend) paintLegend(painter, strip.height() - 14);
  return strip;
}

}  // namespace jib::drawing
