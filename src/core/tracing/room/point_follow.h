// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "core/base/geometry.h"
#include "core/base/result.h"
#include "core/base/task.h"

namespace jib::tracing {

// Where a spot of the picture went, one entry a frame from `first`; nullopt from where it was lost on.
struct FollowedPoint {
  std::size_t first = 0;
  std::vector<std::optional<PixelPoint>> places;
};

// Follows whatever the picture shows at `at` on `frame`, both ways, as far as `first` and `last`. It is lost, and stays
// so, where following it back does not lead to where it came from, or where the spot no longer looks like it did.
// Frame   displayed pixels
// Source  Lucas and Kanade 1981, on a pyramid; Kalal, Mikolajczyk and Matas 2010 for the way forth and back
// Errors  ClipUnreadable; Cancelled
// Thread  any
Result<FollowedPoint> followPoint(const std::filesystem::path& clip, PixelPoint at, std::size_t frame,
                                  std::size_t first, std::size_t last, Task& task);

}  // namespace jib::tracing
