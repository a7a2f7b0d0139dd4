// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QRectF>
#include <optional>

#include "core/coaching/analysis.h"
#include "core/motion/events.h"

namespace jib::drawing {

// All of the lifter and the plate over the reps, or within `during`, in the clip's displayed pixels; it may reach past
// the picture's edge. Empty of a clip that is not traced.
QRectF lifterExtent(const coaching::Analysis& analysis, const std::optional<motion::Stretch>& during = std::nullopt);

}  // namespace jib::drawing
