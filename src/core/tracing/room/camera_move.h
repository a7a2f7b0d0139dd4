// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/base/geometry.h"

namespace jib::tracing {

// Where one frame's picture shows the room that stands still, against the picture all others are held against: shifted,
// turned and grown, as a hand, a pan or a zoom does it. What parallax does to things at other distances is not in it.
// Frame   displayed pixels; the turn and the growth are about the picture's corner
struct CameraMove {
  double along = 1, across = 0;  // growth times cosine and sine of the turn, clockwise as seen
  PixelPoint shift;

  PixelPoint moved(PixelPoint still) const {
    return {along * still.x - across * still.y + shift.x, across * still.x + along * still.y + shift.y};
  }
  PixelPoint still(PixelPoint seen) const;
  double turn_rad() const;
};

// Of a moment between two others, `share` of the way from a to b: every place goes straight.
CameraMove between(const CameraMove& a, const CameraMove& b, double share);
// What `then` does to a picture that `first` has moved already.
CameraMove after(const CameraMove& first, const CameraMove& then);

// Watches corners of the room from frame to frame.
// Source  Lucas and Kanade 1981, on a pyramid; Fischler and Bolles 1981 (random sample consensus) for what most do
// Thread  one thread at a time
class RoomWatch {
 public:
  // `lifter`: places in displayed pixels around which things move by themselves; corners within are left out.
  struct Lifter {
    PixelPoint centre;
    double half_width, half_height;
  };
  explicit RoomWatch(std::vector<Lifter> lifter) : lifter_(std::move(lifter)) {}

  // Of the frame against the first one looked at; where too few corners agree, what it was last. Rising frames.
  CameraMove look(const cv::Mat& colour);

 private:
  struct Key {
    cv::Mat grey;
    std::vector<cv::Point2f> corners;
    CameraMove move;
  };
  cv::Mat small(const cv::Mat& colour);
  Key keyOf(cv::Mat grey, const CameraMove& move) const;
  std::optional<CameraMove> since(const Key& key, const cv::Mat& grey) const;

  std::vector<Lifter> lifter_;
  double scale_ = 1;
  Key key_, last_;  // last_: the frame before, as it was made out; its corners are looked for when they are needed
};

}  // namespace jib::tracing
