// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/drill_picture.h"

#include <QBuffer>
#include <QPainter>
#include <QSvgRenderer>

namespace jib::drawing {

QImage drillPicture(const coaching::DrillCard& card, const coaching::Limbs& limbs, QSize room) {
  if (!card.jpeg.empty())
    if (const QImage own = QImage::fromData(QByteArray::fromStdString(card.jpeg)); !own.isNull())
      return own.scaled(room, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  // In a page it needs no name space; alone it does.
  QByteArray svg = QByteArray::fromStdString(coaching::drillSvg(card.posture, limbs, card.title));
  svg.replace("<svg ", "<svg xmlns='http://www.w3.org/2000/svg' ");
  QSvgRenderer figure(svg);
  QImage out(figure.defaultSize().scaled(room, Qt::KeepAspectRatio), QImage::Format_RGB32);
  if (out.isNull()) return out;
  out.fill(Qt::white);
  QPainter painter(&out);
  figure.render(&painter);
  return out;
}

std::string cardJpeg(const QImage& picture) {
  if (picture.isNull()) return {};
  QImage small = picture.convertToFormat(QImage::Format_RGB32);
  if (std::max(small.width(), small.height()) > kCardPixels)
    small = small.scaled(kCardPixels, kCardPixels, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  constexpr int kQuality = 85;
  return small.save(&buffer, "JPEG", kQuality) ? bytes.toStdString() : std::string();
}

}  // namespace jib::drawing
