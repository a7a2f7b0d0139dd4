// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLayout>
#include <QScrollArea>
#include <QStyle>
#include <QVBoxLayout>

namespace jib::desk {

// A label that shows its text as it is, tags and all. Left to itself Qt would take a stranger's name for a page, and
// open the files that it names; `scripts/lint` allows no other label.
inline QLabel* plainLabel(const QString& text = {}, QWidget* parent = nullptr) {
  auto* label = new QLabel(parent);
  label->setTextFormat(Qt::PlainText);
  label->setText(text);
  return label;
}

// Text that wraps, in the secondary colour when faint.
inline QLabel* words(const QString& text, bool faint = false, QWidget* parent = nullptr) {
  auto* label = plainLabel(text, parent);
  label->setWordWrap(true);
  label->setProperty("faint", faint);
  return label;
}

// What a label means, told by its colour beside its mark: "bad", "warn", "good", or "" for nothing.
inline void setTone(QLabel* label, const char* tone) {
  label->setProperty("tone", QString::fromLatin1(tone));
  label->style()->unpolish(label);
  label->style()->polish(label);
}

inline QLabel* heading(const QString& text, QWidget* parent = nullptr) {
  auto* label = plainLabel(text, parent);
  label->setObjectName(QStringLiteral("heading"));
  return label;
}

// Takes everything out of a layout and deletes it once control is back with the event loop.
inline void clearLayout(QLayout* layout) {
  while (QLayoutItem* item = layout->takeAt(0)) {
    if (QWidget* w = item->widget()) {
      w->hide();
      w->deleteLater();
    }
    if (QLayout* inner = item->layout()) clearLayout(inner);
    delete item;
  }
}

// Makes a panel that scrolls down and never sideways; gives the column its parts go into.
inline QVBoxLayout* scrolledColumn(QScrollArea& panel) {
  panel.setWidgetResizable(true);
  panel.setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* content = new QWidget;
  auto* column = new QVBoxLayout(content);
  column->setContentsMargins(10, 8, 10, 10);
  column->setSpacing(6);
  panel.setWidget(content);
  return column;
}

}  // namespace jib::desk
