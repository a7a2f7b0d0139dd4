// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace jib::desk {

class DeskWindow;

// Walks through the main views of the demo and writes each as a PNG of 1280x800. Returns the program's exit status.
int takeScreenshots(DeskWindow& window, const QString& folder);

}  // namespace jib::desk
