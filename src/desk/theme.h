// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "drawing/palette.h"

class QApplication;

namespace jib::desk {

enum class Theme { Day, Night };

// Colours, fonts and the style sheet of the whole program.
void applyTheme(QApplication& application, Theme theme);
const drawing::Palette& colours();  // of the theme in force

}  // namespace jib::desk
