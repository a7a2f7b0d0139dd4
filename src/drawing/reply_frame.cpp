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

constexpr int kStrip = ReplyFrame::kWidth - ReplyFrame::kPicture;
constexpr int kMargin = 30;

// `extent` with a margin, as wide to its height as the film's picture, inside the clip as far as it goes.
QRect frameAround(QRectF extent, int width, int height) {
  const QRectF whole(0, 0, width, height);
  if (extent.isEmpty()) extent = whole;
  const double margin = 0.05 * std::max(extent.width(), extent.height());
  extent = extent.adjusted(-margin, -margin, margin, margin) & whole;
  constexpr double kAspect = static_cast<double>(ReplyFrame::kPicture) / ReplyFrame::kHeight;
  double w = extent.width(), h = extent.height();
  (w < h * kAspect ? w : h) = w < h * kAspect ? h * kAspect : w / kAspect;
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
  const QRectF room(kMargin, top, kStrip - 2 * kMargin, ReplyFrame::kHeight);
  painter.setFont(font);
  painter.setPen(colour);
  QRectF used;
  painter.drawText(room, Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop, text, &used);
  return used.bottom();
}

}  // namespace

ReplyFrame::ReplyFrame(const coaching::Analysis& analysis, const coaching::Sketch& sketch)
    : analysis_(analysis),
      sketch_(sketch),
      shown_(frameAround(lifterExtent(analysis), analysis.clip.width, analysis.clip.height)) {
  const double scale =
      std::min(static_cast<double>(kPicture) / shown_.width(), static_cast<double>(kHeight) / shown_.height());
  const QSize size(static_cast<int>(std::lround(shown_.width() * scale)),
                   static_cast<int>(std::lround(shown_.height() * scale)));
  place_ = QRect(QPoint((kPicture - size.width()) / 2, (kHeight - size.height()) / 2), size);
}

QTransform ReplyFrame::clipToFilm() const {
  QTransform t;
  t.translate(place_.left(), place_.top());
  t.scale(static_cast<double>(place_.width()) / shown_.width(), static_cast<double>(place_.height()) / shown_.height());
  t.translate(-shown_.left(), -shown_.top());
  return t;
}

const QImage& ReplyFrame::panel(const PanelWords& words) {
  const QString key = words.counter + QLatin1Char('\n') + words.title + QLatin1Char('\n') + words.text;
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
    lines.push_back({kTrunkColour, Qt::SolidLine, QObject::tr("trunk")});
    lines.push_back({kThighColour, Qt::SolidLine, QObject::tr("thigh")});
    lines.push_back({kShinColour, Qt::SolidLine, QObject::tr("shin")});
    if (analysis_.trace.body->feet_seen) lines.push_back({kBarColour, Qt::DashLine, QObject::tr("over mid-foot")});
  }
  const auto drew = [&](coaching::Sense sense) {
    return std::any_of(sketch_.shapes.begin(), sketch_.shapes.end(),
                       [&](const coaching::Shape& s) { return s.sense == sense; });
  };
  if (drew(coaching::Sense::AsItIs)) lines.push_back({kCoachColour, Qt::SolidLine, QObject::tr("as it is")});
  if (drew(coaching::Sense::AsWanted)) lines.push_back({kWantedColour, Qt::DashLine, QObject::tr("as wanted")});
  if (lines.empty()) return;
  // On a dark field, as the lines were chosen to be seen on pictures.
  constexpr int kRow = 30, kPad = 14;
  const int rows = (static_cast<int>(lines.size()) + 1) / 2;
  const QRectF field(kMargin, bottom - rows * kRow - 2 * kPad, kStrip - 2 * kMargin, rows * kRow + 2 * kPad);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x1c, 0x2b, 0x45));
  painter.drawRoundedRect(field, 5, 5);
  painter.setFont(fontOf("Cabin", 19, false, false));
  for (std::size_t i = 0; i < lines.size(); ++i) {
    const qreal x = field.left() + kPad + (i % 2 == 0 ? 0 : field.width() / 2 - kPad / 2);
    const qreal y = field.top() + kPad + static_cast<int>(i / 2) * kRow + kRow / 2.0;
    painter.setPen(QPen(lines[i].colour, 4, lines[i].style, Qt::FlatCap));
    painter.drawLine(QPointF(x, y), QPointF(x + 28, y));
    painter.setPen(QColor(0xf0, 0xea, 0xd8));
    painter.drawText(QRectF(x + 38, y - kRow / 2.0, field.width() / 2, kRow), Qt::AlignLeft | Qt::AlignVCenter,
                     lines[i].text);
  }
}

QImage ReplyFrame::painted(const PanelWords& words) const {
  const Palette& p = day();
  QImage strip(kStrip, kHeight, QImage::Format_RGB32);
  strip.fill(p.paper);
  QPainter painter(&strip);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(QRectF(0, 0, 1, kHeight), p.line);
  qreal y = paintWords(painter, words.head, fontOf("Vollkorn", 38, true, false), p.ink, 22);
  y = paintWords(painter, words.line, fontOf("Cabin", 22, false, false), p.faint, y + 2);
  painter.fillRect(QRectF(kMargin, y + 14, kStrip - 2 * kMargin, 1), p.line);
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
  const bool signed_off = !words.sign.isEmpty();
  paintLegend(painter, kHeight - (signed_off ? 62 : 26));
  if (signed_off) {
    painter.setFont(fontOf("Vollkorn", 22, true, false));
    painter.setPen(p.faint);
    painter.drawText(QRectF(kMargin, kHeight - 50, kStrip - 2 * kMargin, 30), Qt::AlignLeft | Qt::AlignVCenter,
                     words.sign);
  }
  return strip;
}

}  // namespace jib::drawing
