// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <QTransform>

#include "core/coaching/sketch.h"

namespace jib::drawing {

// Where something is blurred a ring shows it to whoever works on the clip; what leaves the house bears the blur alone.
enum class Blurs { Unseen, Ringed };

// Paints what the coach drew, as core places it on a frame. Stage, stills and film all call it.
// Frame   as OverlayPainter: displayed pixels of the clip; `view` takes them to the painter's, `scale` is a line's unit
void paintShapes(QPainter& painter, const coaching::Sketch& sketch, const coaching::Analysis& analysis,
                 std::size_t frame, const QTransform& view, double scale, Blurs blurs = Blurs::Unseen);

// One shape with its ends shown as handles; while it is being drawn it may have fewer ends than it needs.
void paintHandles(QPainter& painter, const std::vector<PixelPoint>& ends, const QTransform& view, double scale);

}  // namespace jib::drawing
