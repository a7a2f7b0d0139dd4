// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/base/geometry.h"

namespace jib::tracing {

// How a lens bends straight things: radial distortion about the picture's middle. 0 is a straight lens; negative is a
// barrel (wide lenses: what is straight bows outwards), positive a pincushion.
// Units   per square pixel
// Source  division model, p = q / (1 + bend |q|²) for a point seen at q: Fitzgibbon 2001, CVPR
struct LensBend {
  double per_px2 = 0;
  double sigma_per_px2 = 0;

  // Both from the picture's middle.
  PixelPoint straightened(PixelPoint seen) const;
  PixelPoint bent(PixelPoint straight) const;
  // How much longer a short thing at `seen` would be in the picture of a straight lens, on the mean of all directions.
  double growth(PixelPoint seen) const;
};

// The bend that most long edges of the room agree about: posts, door frames, skirting, the edges of a platform. nullopt
// when too few agree, or when what they agree about could as well be none.
// Source  straight lines must be straight (plumb lines): Brown 1971, Photogrammetric Engineering 37(8)
std::optional<LensBend> bendOfEdges(const cv::Mat& gray);

}  // namespace jib::tracing
