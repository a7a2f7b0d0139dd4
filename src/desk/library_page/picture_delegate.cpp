// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/picture_delegate.h"

#include <QPainter>
#include <QPixmap>

#include "desk/jobs/clip_pictures.h"
#include "desk/library_page/submissions_model.h"
#include "desk/theme.h"

namespace jib::desk {
namespace {

bool sameMessage(const QModelIndex& a, const QModelIndex& b) {
  const QVariant of = a.data(SubmissionsModel::MessageRole);
  return b.isValid() && of.isValid() && of == b.data(SubmissionsModel::MessageRole);
}

}  // namespace

void PictureDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
  QStyleOptionViewItem frame(option);
  initStyleOption(&frame, index);
  frame.icon = {};
  frame.text.clear();
  frame.widget->style()->drawControl(QStyle::CE_ItemViewItem, &frame, painter, frame.widget);
  constexpr int kBracket_px = 12;
  const QRect place(
      QPoint(option.rect.left() + kBracket_px, option.rect.center().y() - ClipPictures::kSize.height() / 2 + 1),
      ClipPictures::kSize);
  const auto picture = index.data(Qt::DecorationRole).value<QPixmap>();
  painter->save();
  if (!picture.isNull()) {
    painter->setRenderHint(QPainter::SmoothPixmapTransform);
    painter->drawPixmap(place, picture);
  } else {
    painter->fillRect(place, colours().deep);
    painter->setPen(colours().faint);
    painter->drawText(place, Qt::AlignCenter, index.data(Qt::DisplayRole).toString());
  }
  const bool above = sameMessage(index, index.siblingAtRow(index.row() - 1));
  const bool below = sameMessage(index, index.siblingAtRow(index.row() + 1));
  if (above || below) {
    painter->setPen(QPen(colours().faint, 1.6));
    const int x = option.rect.left() + kBracket_px / 2;
    const int top = above ? option.rect.top() : place.top() + 2,
              bottom = below ? option.rect.bottom() : place.bottom() - 2;
    painter->drawLine(x, top, x, bottom);
    if (!above) painter->drawLine(x, top, x + 4, top);
    if (!below) painter->drawLine(x, bottom, x + 4, bottom);
  }
  painter->restore();
}

}  // namespace jib::desk
