// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

namespace jib::desk {

// A window that holds the picture of the clip, for a second monitor. Where it was, and whether it filled the screen, is
// remembered.
class PictureWindow : public QWidget {
  Q_OBJECT

 public:
  // `keys` act in it as they do beside the clip.
  PictureWindow(QWidget* pictures, const QList<QAction*>& keys, QWidget* parent);

 signals:
  void closed();

 protected:
  void closeEvent(QCloseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
};

}  // namespace jib::desk
