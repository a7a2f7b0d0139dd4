// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/tracing/front/bar_search.h"

namespace jib::tracing {

// What the plates tell that are seen edge on, on both sides of the bar, from two grey pictures that show it high and
// low. Beside the collar, rows in which the two differ reach from the upper edge of the plate in the one to its lower
// edge in the other: that is one plate and the way between, however much of it the two plates cover alike. Frame
// displayed pixels

// The bar's line as the plates on it say, instead of the hands, which the network places worst from the head's end.
// Returns how large a metre looks by them; nullopt, and the line as it is, where the plates are not made out.
std::optional<double> levelByPlates(Apart& apart, const cv::Mat& high, const cv::Mat& low, double metre_px,
                                    double rim_m);

struct PlateSeen {
  PixelPoint hub;   // where the bar is high
  double metre_px;  // how large a metre looks there, by a plate of that size
  double wide_m;    // of all plates of that size, side by side
};
struct PlatesSeen {
  double metre_px;                               // of both sides
  std::array<std::optional<PlateSeen>, 2> side;  // the picture's left, right
};
std::optional<PlatesSeen> platesAlong(const std::array<BarSearch, 2>& search, const cv::Mat& high, const cv::Mat& low,
                                      double metre_px, double rim_m);

}  // namespace jib::tracing
