// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

namespace jib::desk {

// Keeps the wheel, and letters typed for the page, from changing what is only scrolled past: boxes and spin boxes take
// it when they were clicked into, and hand it on to what scrolls otherwise. Watches all widgets of the program it is
// installed on.
class WheelGuard : public QObject {
  Q_OBJECT

 public:
  explicit WheelGuard(QObject* parent = nullptr) : QObject(parent) {}

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
};

}  // namespace jib::desk
