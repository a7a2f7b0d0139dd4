// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

class QCustomPlot;
class QFont;

namespace jib::desk {

// Gives a plot the look all charts of the program share: deep water, hairlines, small faint numbers.
void styleChart(QCustomPlot& plot);

// The font of numbers and notes on charts.
QFont chartFont(const QFont& base);

}  // namespace jib::desk
