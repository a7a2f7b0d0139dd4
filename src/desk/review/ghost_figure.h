// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>

#include "core/coaching/analysis.h"

namespace jib::desk {

// Where the six points are to be expected on a frame: where the program sees them, else an average lifter standing
// under the traced bar, pulled to the points that are already placed. Only a help for the eye; nothing is measured from
// it.
std::array<std::optional<PixelPoint>, tracing::kLandmarks> ghostFigure(
    const coaching::Analysis& analysis, std::size_t frame,
    const std::array<std::optional<PixelPoint>, tracing::kLandmarks>& placed);

}  // namespace jib::desk
