// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>

namespace jib::tracing {

// By how much a dark picture (8-bit blue-green-red) is to be brightened before a network looks at it: networks learnt
// people from photographs that are well exposed, and guess at dark cloth in a dim gym. 1 when it is bright enough;
// black, as beyond a picture's edge, is not counted.
double brightening(const cv::Mat& picture);

}  // namespace jib::tracing
