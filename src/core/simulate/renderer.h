// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <vector>

#include "core/simulate/lift_script.h"
#include "core/simulate/pinhole.h"
#include "core/simulate/room.h"

namespace jib::simulate {

// Makes pictures of a scripted set as a phone would film it: shaded solids, cloth pattern, contact shadow, motion blur
// over the exposure, hand shake and sensor noise.
// Thread  render() uses OpenCV's thread pool inside; one render() at a time
class Renderer {
 public:
  Renderer(const ClipSpec& spec, const LiftScript& script);

  // 8-bit blue-green-red of the frame whose exposure is centred on t_s.
  cv::Mat render(double t_s, int frame_number) const;

 private:
  struct Tile;
  struct Background {
    cv::Mat_<cv::Vec3f> colour;
    cv::Mat_<float> distance;
    cv::Mat_<float> floor_x, floor_y;  // huge where the pixel shows no floor
  };
  struct FloorShade;
  Background backgroundFor(const Pinhole& camera, PixelPoint jitter) const;
  FloorShade floorShade(const std::vector<Solid>& solids) const;
  Paint shade(const std::vector<Solid>& solids, const std::vector<int>& among, int which, Vec3f p, Vec3f ray) const;
  void renderSample(cv::Mat_<cv::Vec3f>& sum, const std::vector<Solid>& solids, const FloorShade& shade,
                    const Pinhole& camera, PixelPoint jitter, const Background& background) const;

  ClipSpec spec_;
  const LiftScript& script_;
  Room room_;
  Handheld camera_;
  std::vector<Background> still_;  // one a sample; empty when the camera shakes
};

}  // namespace jib::simulate
