// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/cannot_open.h"

#include <QMessageBox>

namespace jib::desk {

void tellCannotOpen(const QString& folder, const QString& sentence) {
  QMessageBox box(QMessageBox::Critical, QObject::tr("Jagged Jib"), {}, QMessageBox::Close);
  box.setObjectName(QStringLiteral("cannotOpen"));
  box.setTextFormat(Qt::PlainText);
  box.setText(QObject::tr("The library in %1 can't be opened.").arg(folder));
  box.setInformativeText(sentence);
  box.exec();
}

}  // namespace jib::desk
