// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/pose/shipped_readers.h"
#include "core/tracing/sightings/heads.h"

namespace jib::tracing {

// The heads of everybody in a clip besides the lifter: spotters, people who wait, whoever walks past. For what must not
// show them; who is very small, half out of the picture or behind somebody is missed, so a coach looks it through.
// Frame   displayed pixels of the clip
struct OtherFaces {
  struct Look {
    std::size_t frame = 0;
    std::vector<Head> heads;
  };
  std::vector<Look> looks;  // two a second, in order

  // Between two looks a head that is in both is met on its way; one that comes or goes stays covered where it was seen.
  std::vector<Head> on(std::size_t frame) const;
  std::size_t most() const;  // at once
};

// Looks for people in single pictures. `lifter`: the middle of whose hips and shoulders; they are not counted. Who
// stands close behind is: only hips and shoulders together tell the lifter.
class OtherFaceFinder {
 public:
  struct Lifter {
    PixelPoint hips, shoulders;
  };
  // Errors  CannotRead, BadData when the networks' files are missing or damaged
  static Result<OtherFaceFinder> make();
  Result<std::vector<Head>> in(const cv::Mat& picture, const std::optional<Lifter>& lifter);

 private:
  OtherFaceFinder(PersonFinder finder, PoseReader reader) : finder_(std::move(finder)), reader_(std::move(reader)) {}

  PersonFinder finder_;
  PoseReader reader_;
};

// Of the network's looks at the lifter the one nearest to a frame; nullopt where there are none.
std::optional<OtherFaceFinder::Lifter> lifterAt(const std::vector<Sighting>& sightings, std::size_t frame);

// Looks through a clip; seconds for a minute of film.
// Errors  of FrameReader and OtherFaceFinder; Cancelled
Result<OtherFaces> otherFaces(footage::FrameReader& reader, const std::vector<Sighting>& lifter, Task& task);

}  // namespace jib::tracing
