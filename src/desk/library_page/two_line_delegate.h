// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStyledItemDelegate>

namespace jib::desk {

// Paints a cell and, in a second line under it, another column's words: in rows that are high enough for a picture two
// columns take the room of one.
class TwoLineDelegate : public QStyledItemDelegate {
  Q_OBJECT

 public:
  TwoLineDelegate(int second_column, QObject* parent) : QStyledItemDelegate(parent), second_(second_column) {}
  void setOn(bool on) { on_ = on; }
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;

 private:
  int second_;
  bool on_ = true;
};

}  // namespace jib::desk
