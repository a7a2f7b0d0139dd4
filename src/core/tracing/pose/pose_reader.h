// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <opencv2/core/mat.hpp>

#include "core/tracing/model/landmark.h"
#include "core/tracing/network/network.h"
#include "core/tracing/pose/body_outline.h"
#include "core/tracing/pose/pose_region.h"

namespace jib::tracing {

// The network's own landmarks that are of use here; the right side's number is one more than the left's.
enum class PoseMark : std::size_t {
  Shoulder = 11,
  Elbow = 13,
  Wrist = 15,
  Hip = 23,
  Knee = 25,
  Ankle = 27,
  Heel = 29,
  Toe = 31,
  Ear = 7
};
inline constexpr std::size_t kNose = 0;  // has no side
inline constexpr std::size_t kPoseMarks = 33;

struct PoseReading {
  std::array<PixelPoint, kPoseMarks> places;  // displayed pixels
  // Largest weight of the heatmap at the place: above 0.5 a landmark was seen; below, it was guessed.
  std::array<double, kPoseMarks> confidence{};
  double person = 0;  // probability that a person is there at all
  PoseRegion next;    // where to look in the frame that follows
  Outline outline;    // of the person; empty when it was not asked for

  std::size_t index(PoseMark mark, BodySide side) const {
    return static_cast<std::size_t>(mark) + static_cast<std::size_t>(side);
  }
  PixelPoint place(PoseMark mark, BodySide side) const { return places[index(mark, side)]; }
  // Somebody is there when the network says so, or when a hip and its knee are seen: behind a plate that hides head and
  // chest its own flag is often low.
  bool somebody() const {
    const auto leg = [&](BodySide side) {
      return sure(PoseMark::Hip, side) >= 0.5 && sure(PoseMark::Knee, side) >= 0.5;
    };
    return person >= 0.5 || leg(BodySide::Left) || leg(BodySide::Right);
  }
  double sure(PoseMark mark, BodySide side) const { return confidence[index(mark, side)]; }
};

// Reads the landmarks of the person in a region of a picture.
// Frame   displayed pixels, first pixel's centre (0.5, 0.5)
// Errors  BadData when the file is not a landmark network
// Thread  one thread at a time; one object a thread
class PoseReader {
 public:
  enum class Outlines { No, Yes };  // they cost a fifth more
  static Result<PoseReader> make(const NetworkFile& landmarks, Outlines outlines = Outlines::No);
  // `picture`: 8-bit blue-green-red.
  Result<PoseReading> read(const cv::Mat& picture, const PoseRegion& region);

 private:
  PoseReader(Network network, Outlines outlines) : network_(std::move(network)), outlines_(outlines) {}

  Network network_;
  Outlines outlines_;
};

}  // namespace jib::tracing
