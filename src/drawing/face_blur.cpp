// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/face_blur.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace jib::drawing {

void blur(cv::Mat& picture, const std::vector<Blurred>& circles) {
  constexpr int kAcross = 6;  // squares over a circle's width
  const cv::Rect all(0, 0, picture.cols, picture.rows);
  for (const Blurred& c : circles) {
    const int r = std::max(2, static_cast<int>(std::ceil(c.radius)));
    const cv::Rect box =
        cv::Rect(static_cast<int>(std::floor(c.x)) - r, static_cast<int>(std::floor(c.y)) - r, 2 * r, 2 * r) & all;
    if (box.empty()) continue;
    cv::Mat place = picture(box), coarse, smooth;
    const double squares = kAcross / (2.0 * r);
    cv::resize(place, coarse,
               {std::max(1, static_cast<int>(std::lround(box.width * squares))),
                std::max(1, static_cast<int>(std::lround(box.height * squares)))},
               0, 0, cv::INTER_AREA);
    cv::resize(coarse, smooth, box.size(), 0, 0, cv::INTER_LINEAR);
    cv::Mat inside = cv::Mat::zeros(box.size(), CV_8U);
    cv::circle(inside, {static_cast<int>(std::lround(c.x)) - box.x, static_cast<int>(std::lround(c.y)) - box.y}, r, 255,
               cv::FILLED);
    smooth.copyTo(place, inside);
  }
}

FaceBlur::FaceBlur(const coaching::Analysis& analysis, const coaching::Sketch& sketch, bool heads)
    : analysis_(analysis), sketch_(sketch) {
  if (!heads) return;
  if (analysis.trace.sightings) heads_ = tracing::headsOf(*analysis.trace.sightings, analysis.trace.trace);
  blind_ = heads_.empty();
}

std::vector<Blurred> FaceBlur::on(std::size_t frame) const {
  std::vector<Blurred> circles;
  if (frame < heads_.size())
    circles.push_back({heads_[frame].centre.x, heads_[frame].centre.y, heads_[frame].radius_px});
  for (const coaching::ShapeOnFrame& s : coaching::shapesOn(sketch_, analysis_, frame)) {
    if (sketch_.shapes[s.shape].kind != coaching::ShapeKind::Blur) continue;
    circles.push_back({s.anchors[0].x, s.anchors[0].y, length(s.anchors[1] - s.anchors[0])});
  }
  return circles;
}

}  // namespace jib::drawing
