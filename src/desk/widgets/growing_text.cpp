// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/growing_text.h"

#include <QAbstractTextDocumentLayout>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace jib::desk {

GrowingText::GrowingText(const QString& text, QWidget* parent) : QPlainTextEdit(text, parent) {
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setTabChangesFocus(true);
  connect(document()->documentLayout(), &QAbstractTextDocumentLayout::documentSizeChanged, this, &GrowingText::grow);
  grow();
}

void GrowingText::grow() {
  // A plain text's height is counted in lines.
  const int lines = std::max(1, static_cast<int>(std::lround(document()->size().height())));
  const int around = 2 * (frameWidth() + static_cast<int>(document()->documentMargin())) + 4;
  if (const int wanted = lines * fontMetrics().lineSpacing() + around; wanted != height()) setFixedHeight(wanted);
}

void GrowingText::resizeEvent(QResizeEvent* event) {
  QPlainTextEdit::resizeEvent(event);
  grow();
}

void GrowingText::changeEvent(QEvent* event) {
  QPlainTextEdit::changeEvent(event);
  if (event->type() == QEvent::FontChange || event->type() == QEvent::StyleChange) grow();
}

void GrowingText::wheelEvent(QWheelEvent* event) {
  event->ignore();
}

}  // namespace jib::desk
