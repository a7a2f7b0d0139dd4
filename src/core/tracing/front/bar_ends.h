// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/base/geometry.h"

namespace jib::tracing {

// The ends of a bar that lies across the picture. `inwards`: +1 at the picture's left end, -1 at its right.
// Frame   displayed pixels, grey pictures

// The room without the bar about one of its ends: of two pictures that show the bar high and low, each gives the half
// in which the bar is not.
cv::Mat roomAbout(const cv::Mat& high, const cv::Mat& low, PixelPoint end, PixelPoint went);
// A place on the bar's line near its end, brought to the middle of the sleeve.
PixelPoint onTheSleeve(const cv::Mat& grey, const cv::Mat& room, PixelPoint end, double inwards, double metre_px);
// The same brought half-way between the sleeve's edges, and to its tip, by what stands before the room.
PixelPoint betweenItsEdges(const cv::Mat& grey, const cv::Mat& room, PixelPoint end, double inwards, double metre_px);
PixelPoint atTheTip(const cv::Mat& grey, const cv::Mat& room, PixelPoint end, double inwards, double metre_px);

// Follows one end by its own picture, about where it is expected: by what stands before the room, so that a line on the
// wall is never taken for the bar.
// Source  normalised cross-correlation with a parabola through the peak: Lewis 1995
class EndFollower {
 public:
  EndFollower(const cv::Mat& grey, cv::Mat room, PixelPoint end, double inwards, double metre_px);
  // Lit from above, a sleeve before a dark floor is another picture than one before a wall.
  void alsoLooksLike(const cv::Mat& grey, PixelPoint end);
  struct Found {
    PixelPoint place;
    double alike;  // to one of the ways it is known to look, up to 1
  };
  std::optional<Found> find(const cv::Mat& grey, PixelPoint expected) const;

 private:
  PixelPoint middle() const;
  cv::Mat before(const cv::Mat& grey, PixelPoint about, int width, int height) const;

  double inwards_, metre_px_;
  cv::Mat room_;
  int wide_ = 0, tall_ = 0;
  std::vector<cv::Mat> looks_;
};

// How long the bar looks, end to end, by how high it is in the picture.
struct LooksLong {
  double high_px = 0, a_pixel_down = 0, high_y = 0;
  double at(double y) const { return high_px + a_pixel_down * (y - high_y); }
};

// A sleeve looks the same all along, so where the room behind it changes a patch may slide inwards on it. The bar is as
// long as it was: the end that looks less like itself is put that far from the other.
void holdApart(std::array<std::optional<PixelPoint>, 2>& ends, const std::array<double, 2>& alike,
               const LooksLong& looks_long, double give_px);

}  // namespace jib::tracing
