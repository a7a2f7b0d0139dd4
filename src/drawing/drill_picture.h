// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <string>

#include "core/coaching/drill.h"

namespace jib::drawing {

// What a drill card shows: the coach's picture, else the figure, on white; as large as fits into `room`, pixels.
QImage drillPicture(const coaching::DrillCard& card, const coaching::Limbs& limbs, QSize room);

// A picture as a card keeps it: at most kCardPixels to a side, a JPEG without what its camera wrote beside it. Empty
// where it is none.
inline constexpr int kCardPixels = 900;
std::string cardJpeg(const QImage& picture);

}  // namespace jib::drawing
