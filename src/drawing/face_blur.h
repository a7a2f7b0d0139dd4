// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core.hpp>
#include <optional>
#include <vector>

#include "core/coaching/sketch.h"
#include "core/tracing/sightings/heads.h"

namespace jib::drawing {

// A circle of a picture that is made unrecognisable.
// Frame  pixels of that picture
struct Blurred {
  double x = 0, y = 0, radius = 0;
};

// Coarse squares, smoothed: nothing finer than a sixth of the circle is left, and no edge to see it by.
void blur(cv::Mat& picture, const std::vector<Blurred>& circles);

// What is blurred on the frames of one clip: the lifter's head where that is asked for, and what the coach has ringed.
class FaceBlur {
 public:
  // `heads`: hide the lifter's face; it is known only where the network looked (Analysis::trace.sightings).
  FaceBlur(const coaching::Analysis& analysis, const coaching::Sketch& sketch, bool heads);
  // Frame  displayed pixels of the clip
  std::vector<Blurred> on(std::size_t frame) const;
  // Faces are to be hidden, and where they are is not known.
  bool blind() const { return blind_; }
  const std::vector<double>& times_s() const { return analysis_.clip.times_s; }

 private:
  const coaching::Analysis& analysis_;
  const coaching::Sketch& sketch_;
  std::vector<tracing::Head> heads_;
  bool blind_ = false;
};

}  // namespace jib::drawing
