// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <opencv2/core.hpp>
#include <optional>
#include <vector>

#include "core/coaching/sketch.h"
#include "core/tracing/sightings/other_faces.h"

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
  // `heads`: hide the lifter's face, which is known only where the network looked (Analysis::trace.sightings), and
  // those of `others`; of Analysis::trace.other_faces where that is null.
  FaceBlur(const coaching::Analysis& analysis, const coaching::Sketch& sketch, bool heads,
           std::shared_ptr<const tracing::OtherFaces> others = {});
  // Frame  displayed pixels of the clip
  std::vector<Blurred> on(std::size_t frame) const;
  // Faces are to be hidden, and where they are is not known.
  bool blind() const { return blind_; }
  const std::vector<double>& times_s() const { return analysis_.clip.times_s; }

 private:
  const coaching::Analysis& analysis_;
  const coaching::Sketch& sketch_;
  std::vector<tracing::Head> heads_;
  std::shared_ptr<const tracing::OtherFaces> others_;  // hidden with the lifter's; null where nobody has looked
  bool blind_ = false;
};

// The faces of everybody but the lifter on one picture of the clip; null where the networks are missing.
// `picture`: 8-bit, blue-green-red with or without a fourth. Takes some tenths of a second.
std::shared_ptr<const tracing::OtherFaces> otherFacesOn(const cv::Mat& picture, const coaching::Analysis& analysis,
                                                        std::size_t frame);

// The same analysis, with the faces of everybody else looked for in its film and in the others of its set, for what
// leaves with faces hidden.
// Errors  of tracing::otherFaces; Cancelled
Result<std::shared_ptr<const coaching::Analysis>> withOtherFaces(std::shared_ptr<const coaching::Analysis> analysis,
                                                                 Task& task);

}  // namespace jib::drawing
