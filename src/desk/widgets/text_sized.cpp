// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/text_sized.h"

#include <QEvent>
#include <QWidget>

#include "desk/theme.h"

namespace jib::desk {
namespace {

class Watch : public QObject {
 public:
  Watch(QWidget* widget, std::function<void()> size) : QObject(widget), size_(std::move(size)) {
    widget->installEventFilter(this);
    size_();
  }
  bool eventFilter(QObject* watched, QEvent* event) override {
    if (event->type() == QEvent::FontChange || event->type() == QEvent::ApplicationFontChange) size_();
    return QObject::eventFilter(watched, event);
  }

 private:
  const std::function<void()> size_;
};

}  // namespace

void keepSized(QWidget* widget, std::function<void()> size) {
  new Watch(widget, std::move(size));
}

void fixTextWidth(QWidget* widget, int usual_px) {
  keepSized(widget, [=] { widget->setFixedWidth(textPx(usual_px)); });
}

void fixTextHeight(QWidget* widget, int usual_px) {
  keepSized(widget, [=] { widget->setFixedHeight(textPx(usual_px)); });
}

void leastTextWidth(QWidget* widget, int usual_px) {
  keepSized(widget, [=] { widget->setMinimumWidth(textPx(usual_px)); });
}

}  // namespace jib::desk
