// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStyleOptionToolButton>
#include <QStylePainter>
#include <QToolButton>

namespace jib::desk {

// A button whose words end in an ellipsis where there is no room for all of them, instead of being cut on both sides.
class ElidedButton : public QToolButton {
 public:
  using QToolButton::QToolButton;
  QSize minimumSizeHint() const override { return {fontMetrics().averageCharWidth() * 12, sizeHint().height()}; }

 protected:
  void paintEvent(QPaintEvent*) override {
    QStylePainter painter(this);
    QStyleOptionToolButton option;
    initStyleOption(&option);
    constexpr int kRounding_px = 3;  // a style rounds its paddings
    const int room = width() - (sizeHint().width() - fontMetrics().horizontalAdvance(text())) + kRounding_px;
    option.text = fontMetrics().elidedText(text(), Qt::ElideRight, room);
    painter.drawComplexControl(QStyle::CC_ToolButton, option);
  }
};

}  // namespace jib::desk
