// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/guarded_application.h"

#include <cstdio>
#include <exception>

namespace jib::desk {

bool GuardedApplication::notify(QObject* receiver, QEvent* event) {
  QString why;
  try {
    return QApplication::notify(receiver, event);
  } catch (const std::exception& e) {
    why = QString::fromUtf8(e.what());
  } catch (...) {
    why = tr("unknown");
  }
  std::fprintf(stderr, "jagged-jib: Something went wrong inside the program: %s\n", qPrintable(why));
  emit wentWrong(
      tr("Something went wrong: %1. Your work so far is saved. You can carry on, or restart the program.").arg(why));
  return false;
}

}  // namespace jib::desk
