// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/tracing/bar/rim_fit.h"

namespace jib::tracing {

// One rim followed from frame to frame, in whichever direction the frames come.
class RimTrack {
 public:
  struct Seen {
    std::size_t frame;
    RimFit fit;
    double travel_px;  // since the frame before, for the blur
    cv::Mat hub;       // the middle of the plate, kHubSide px wide, scaled so that the rim's radius is kHubRadius;
                       // empty in most of a long track
  };
  static constexpr int kHubSide = 124;
  static constexpr double kHubRadius = 44;  // so a hub picture reaches 1.4 radii either way: a long sleeve askew

  RimTrack(std::size_t frame, const cv::Mat& gray, const RimFit& fit);

  // Looks for the rim in the next picture; false when it was not found there.
  bool follow(std::size_t frame, const cv::Mat& gray);

  // A rim that has not moved for a third of a second need not be looked at in every picture.
  bool resting() const;
  // For a resting rim, pictures after the last one seen were passed over: true when it still rests in this one, and
  // then it is taken to have rested in those between. False leaves the track as it was.
  bool stillRests(std::size_t frame, const cv::Mat& gray);

  const std::vector<Seen>& seen() const { return seen_; }
  const RimFit& last() const { return seen_.back().fit; }
  int missing() const { return missing_; }  // frames since it was last found
  PixelPoint expected() const;
  double recentlySeen() const { return recently_seen_; }  // share of the rim, a running mean over some 15 frames

 private:
  void thinHubs();
  void add(std::size_t frame, const cv::Mat& gray, const RimFit& fit);

  RimShape shape_;
  std::vector<Seen> seen_;
  // Where the plate's face, as it was when its rim was last made out, lies now: for a rim as dark as what is behind it.
  std::optional<RimFit> byFace(const cv::Mat& gray) const;

  cv::Mat face_;               // the square within the rim
  PixelPoint face_from_;       // the rim's centre, from the middle of that square
  PixelPoint velocity_{0, 0};  // a frame
  std::size_t hub_every_ = 1;  // of the frames seen keep their hub
  int missing_ = 0;
  double highest_y_ = 1e9, lowest_y_ = -1e9;
  double recently_seen_ = 0.7;
};

}  // namespace jib::tracing
