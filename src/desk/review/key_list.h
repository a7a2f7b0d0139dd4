// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAction>
#include <QFrame>

namespace jib::desk {

// All keys of the actions it is given, over the page; shown by "?", gone with the next key or click.
class KeyList : public QFrame {
  Q_OBJECT

 public:
  KeyList(const QList<QAction*>& actions, QWidget* parent);

 protected:
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
};

}  // namespace jib::desk
