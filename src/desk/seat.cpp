// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/seat.h"

#include <QCryptographicHash>
#include <QSettings>

#include "desk/text.h"

namespace jib::desk {
namespace {

// A folder's name holds what a settings key must not.
QString keyOf(const library::Library& library) {
  const auto path = QByteArray::fromStdString(std::filesystem::weakly_canonical(library.folder()).string());
  return QStringLiteral("seat/") +
         QString::fromLatin1(QCryptographicHash::hash(path, QCryptographicHash::Sha256).toHex().left(16));
}

}  // namespace

void takeSeat(library::Library& library) {
  library.seat(QSettings().value(keyOf(library)).toString().toStdString());
}

void keepSeat(library::Library& library, const std::string& coach) {
  QSettings().setValue(keyOf(library), q(coach));
  library.seat(coach);
}

}  // namespace jib::desk
