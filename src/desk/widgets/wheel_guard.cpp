// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/wheel_guard.h"

#include <QAbstractSpinBox>
#include <QComboBox>
#include <QEvent>
#include <QFocusEvent>
#include <QKeyEvent>
#include <QLineEdit>

namespace jib::desk {
namespace {

constexpr const char* kClicked = "clickedInto";

// The box a widget is, or is the line of.
QWidget* boxOf(QObject* object) {
  auto* widget = qobject_cast<QWidget*>(object);
  if (qobject_cast<QLineEdit*>(widget)) widget = widget->parentWidget();
  return qobject_cast<QComboBox*>(widget) || qobject_cast<QAbstractSpinBox*>(widget) ? widget : nullptr;
}

bool types(const QKeyEvent& key) {
  const bool plain = !(key.modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier));
  return plain && !key.text().isEmpty() && key.text().at(0).isPrint() && key.key() != Qt::Key_Space;
}

}  // namespace

bool WheelGuard::eventFilter(QObject* watched, QEvent* event) {
  switch (event->type()) {
    case QEvent::MouseButtonPress:
      if (auto* box = boxOf(watched)) box->setProperty(kClicked, true);
      break;
    case QEvent::FocusOut:
      // Its own list takes the focus for a moment and gives it back.
      if (auto* box = boxOf(watched); box && static_cast<QFocusEvent*>(event)->reason() != Qt::PopupFocusReason)
        box->setProperty(kClicked, false);
      break;
    case QEvent::KeyPress:
      // A closed list takes no letters: "2" is a key of the page, and no plate of 280 mm.
      if (auto* list = qobject_cast<QComboBox*>(watched);
          list && !list->isEditable() && types(*static_cast<QKeyEvent*>(event))) {
        event->ignore();  // the page has it
        return true;
      }
      break;
    case QEvent::Wheel:
      if (auto* box = boxOf(watched); box && !(box->hasFocus() && box->property(kClicked).toBool())) {
        event->ignore();  // what lies around it scrolls
        return true;
      }
      break;
    default:
      break;
  }
  return QObject::eventFilter(watched, event);
}

}  // namespace jib::desk
