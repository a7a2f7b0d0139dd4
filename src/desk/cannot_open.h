// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace jib::desk {

// The library cannot be opened: says so in a window, which is all there is to see then, and waits until it is read.
void tellCannotOpen(const QString& folder, const QString& sentence);

}  // namespace jib::desk
