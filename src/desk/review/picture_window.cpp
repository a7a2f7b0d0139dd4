// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/picture_window.h"

#include <QAction>
#include <QCloseEvent>
#include <QCoreApplication>
#include <QScreen>
#include <QSettings>
#include <QVBoxLayout>

namespace jib::desk {
namespace {

const QString kPlace = QStringLiteral("pictureWindow");

}  // namespace

PictureWindow::PictureWindow(QWidget* pictures, const QList<QAction*>& keys, QWidget* parent)
    : QWidget(parent, Qt::Window) {
  setObjectName(kPlace);
  setWindowTitle(tr("The clip – Jagged Jib"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->addWidget(pictures);
  addActions(keys);
  if (restoreGeometry(QSettings().value(kPlace).toByteArray())) return;
  // The first time it goes to the other monitor, where there is one.
  const QScreen* here = parent->screen();
  const auto beside = here->virtualSiblings();
  const auto other = std::find_if(beside.begin(), beside.end(), [here](const QScreen* s) { return s != here; });
  setGeometry(
      (other != beside.end() ? (*other)->availableGeometry() : here->availableGeometry()).adjusted(60, 60, -60, -60));
}

void PictureWindow::closeEvent(QCloseEvent* event) {
  QSettings().setValue(kPlace, saveGeometry());
  emit closed();
  event->accept();
}

void PictureWindow::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_F11) return isFullScreen() ? showNormal() : showFullScreen();
  if (event->key() == Qt::Key_Escape && isFullScreen()) return showNormal();
  // Escape goes back a step here as it does beside the clip.
  QCoreApplication::sendEvent(parentWidget(), event);
}

}  // namespace jib::desk
