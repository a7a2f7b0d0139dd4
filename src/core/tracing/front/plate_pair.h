// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/front/edge_plates.h"

namespace jib::tracing {

using Hubs = std::optional<std::array<PixelPoint, 2>>;  // the picture's left, right; nullopt where they are not seen

// Follows both plates of one bar through a whole clip. They go up and down together and hardly aside: the frame of a
// window that looks like one of them does not move as the other, and of all ways they may have gone the one is taken
// that looks most like them from first to last, so that nothing is lost for good that was hidden for a moment.
// high     shows them where `plates` says; `low` somewhere else
// Returns  one entry a frame of the clip
// Errors   ClipUnreadable; Cancelled
// Source   the likeliest way through: Viterbi 1967; normalised cross-correlation: Lewis 1995
Result<std::vector<Hubs>> followPlates(footage::FrameReader& reader, const cv::Mat& high, const cv::Mat& low,
                                       const std::array<PlateSeen, 2>& plates, double rim_m, Task& task);

}  // namespace jib::tracing
