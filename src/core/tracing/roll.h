// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

namespace jib::tracing {

// The camera's roll from upright edges of the room (rack, door frames, wall corners): positive when the picture must be
// turned counter-clockwise to stand upright. nullopt when too few long uprights agree.
// Source  line segments: von Gioi and others 2012, as in OpenCV
std::optional<double> rollFromUprights(const cv::Mat& gray);

}  // namespace jib::tracing
