// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "drawing/palette.h"

class QApplication;

namespace jib::desk {

enum class Theme { Day, Night };

// Colours, fonts and the style sheet of the whole program.
void applyTheme(QApplication& application, Theme theme);
const drawing::Palette& colours();  // of the theme in force
Theme themeInForce();

// How large the desk's text is, in points; kept in the settings. Everything follows when applyTheme() is called again.
inline constexpr double kLeastText_pt = 9, kUsualText_pt = 10.5, kMostText_pt = 16;
double textSize_pt();
void keepTextSize(double pt);
// A length that goes with the text: what is `usual_px` at the usual size.
double textPx(double usual_px);
inline int textPx(int usual_px) {
  return static_cast<int>(textPx(static_cast<double>(usual_px)) + 0.5);
}

}  // namespace jib::desk
