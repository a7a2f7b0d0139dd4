// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QApplication>

namespace jib::desk {

// Stands around everything the window does by itself: an exception that comes out of a slot or an event is said in the
// window and written to standard error, and the work goes on. A bug of ours costs the action at hand, not the review.
class GuardedApplication : public QApplication {
  Q_OBJECT

 public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override;

 signals:
  void wentWrong(const QString& sentence);
};

}  // namespace jib::desk
