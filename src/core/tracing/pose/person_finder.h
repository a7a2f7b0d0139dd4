// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <vector>

#include "core/base/geometry.h"
#include "core/tracing/network/network.h"
#include "core/tracing/pose/pose_region.h"

namespace jib::tracing {

struct Person {
  PoseRegion region;
  double score = 0;  // 0..1
  // The box the detector is sure by: the face, or where it would be of who looks away.
  PixelPoint face;
  double face_px = 0;  // its longer side
};

// Finds the people in a picture, each as the region the landmark network wants to see.
// Frame   displayed pixels
// Limits  a person smaller than about a quarter of the picture is found only in the second, tiled look
// Errors  BadData when the file is not the detector
// Thread  one thread at a time
// Source  single-shot detection with anchors: Liu et al. 2016; overlapping finds blended by score
class PersonFinder {
 public:
  static Result<PersonFinder> make(const NetworkFile& detector);
  // `picture`: 8-bit blue-green-red. Best score first; looks again in tiles when the whole shows nobody.
  Result<std::vector<Person>> find(const cv::Mat& picture);
  // Everybody, small and large: the whole and its tiles. Ten times the work of find().
  Result<std::vector<Person>> findAll(const cv::Mat& picture);

 private:
  explicit PersonFinder(Network network) : network_(std::move(network)) {}
  Result<std::vector<Person>> findIn(const cv::Mat& picture);
  Result<bool> addFromTiles(const cv::Mat& picture, std::vector<Person>& people);

  Network network_;
};

}  // namespace jib::tracing
