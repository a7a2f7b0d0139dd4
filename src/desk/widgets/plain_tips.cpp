// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/plain_tips.h"

#include <QApplication>
#include <QEvent>
#include <QLabel>

namespace jib::desk {
namespace {

// A tip is a label of Qt's own, which is polished before it is given its words.
class PlainTips : public QObject {
 public:
  using QObject::QObject;

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override {
    if (event->type() == QEvent::Polish && watched->inherits("QTipLabel"))
      static_cast<QLabel*>(watched)->setTextFormat(Qt::PlainText);
    return false;
  }
};

}  // namespace

void keepTipsPlain(QApplication& application) {
  application.installEventFilter(new PlainTips(&application));
}

}  // namespace jib::desk
