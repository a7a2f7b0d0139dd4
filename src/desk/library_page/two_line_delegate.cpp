// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/two_line_delegate.h"

#include <QPainter>
#include <algorithm>

#include "desk/theme.h"

namespace jib::desk {

void TwoLineDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
  const QString second = on_ ? index.siblingAtColumn(second_).data().toString() : QString();
  if (second.isEmpty()) return QStyledItemDelegate::paint(painter, option, index);
  QStyleOptionViewItem frame(option);
  initStyleOption(&frame, index);
  const QString first = frame.text;
  frame.text.clear();
  const QStyle* style = frame.widget->style();
  style->drawControl(QStyle::CE_ItemViewItem, &frame, painter, frame.widget);
  const QRect room = option.rect.adjusted(4, 0, -4, 0);
  const QFontMetrics bold(frame.font);
  const int line = bold.lineSpacing(), lines = 1 + static_cast<int>(second.count(QLatin1Char('\n'))) + 1;
  const int top = room.center().y() - lines * line / 2;
  painter->save();
  painter->setFont(frame.font);
  painter->setPen(frame.palette.color(QPalette::Text));
  painter->drawText(QRect(room.left(), top, room.width(), line), Qt::AlignLeft | Qt::AlignVCenter,
                    bold.elidedText(first, Qt::ElideRight, room.width()));
  QFont plain(option.font);
  plain.setBold(false);
  painter->setFont(plain);
  painter->setPen(colours().faint);
  painter->drawText(QRect(room.left(), top + line, room.width(), (lines - 1) * line), Qt::AlignLeft | Qt::AlignTop,
                    second);
  painter->restore();
}

QSize TwoLineDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const {
  QSize size = QStyledItemDelegate::sizeHint(option, index);
  if (!on_) return size;
  constexpr int kMargins_px = 8;
  const QSize second = QStyledItemDelegate::sizeHint(option, index.siblingAtColumn(second_));
  size.setWidth(std::max(size.width(), second.width()) + kMargins_px);
  return size;
}

}  // namespace jib::desk
