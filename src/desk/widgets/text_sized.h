// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>

class QWidget;

namespace jib::desk {

// Runs `size` now and whenever the text grows or shrinks: for widths and heights that are set in pixels but hold words.
// `widget` owns what watches for it.
void keepSized(QWidget* widget, std::function<void()> size);

// The usual cases, in pixels at the usual text size.
void fixTextWidth(QWidget* widget, int usual_px);
void fixTextHeight(QWidget* widget, int usual_px);
void leastTextWidth(QWidget* widget, int usual_px);

}  // namespace jib::desk
