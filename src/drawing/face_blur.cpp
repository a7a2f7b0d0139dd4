// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/face_blur.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/footage/frame_reader.h"

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

FaceBlur::FaceBlur(const coaching::Analysis& analysis, const coaching::Sketch& sketch, bool heads,
                   std::shared_ptr<const tracing::OtherFaces> others)
    : analysis_(analysis), sketch_(sketch) {
  if (!heads) return;
  others_ = others ? std::move(others) : analysis.trace.other_faces;
  if (analysis.trace.sightings) heads_ = tracing::headsOf(*analysis.trace.sightings, analysis.trace.trace);
  blind_ = heads_.empty();
}

std::vector<Blurred> FaceBlur::on(std::size_t frame) const {
  std::vector<Blurred> circles;
  if (frame < heads_.size())
    circles.push_back({heads_[frame].centre.x, heads_[frame].centre.y, heads_[frame].radius_px});
  if (others_)
    for (const tracing::Head& h : others_->on(frame)) circles.push_back({h.centre.x, h.centre.y, h.radius_px});
  for (const coaching::ShapeOnFrame& s : coaching::shapesOn(sketch_, analysis_, frame)) {
    if (sketch_.shapes[s.shape].kind != coaching::ShapeKind::Blur) continue;
    circles.push_back({s.anchors[0].x, s.anchors[0].y, length(s.anchors[1] - s.anchors[0])});
  }
  return circles;
}

std::shared_ptr<const tracing::OtherFaces> otherFacesOn(const cv::Mat& picture, const coaching::Analysis& analysis,
                                                        std::size_t frame) {
  auto finder = tracing::OtherFaceFinder::make();
  if (!finder) return nullptr;
  cv::Mat colours = picture;
  if (picture.channels() == 4) cv::cvtColor(picture, colours, cv::COLOR_BGRA2BGR);
  const auto& seen = analysis.trace.sightings;
  auto heads = finder->in(colours, seen ? tracing::lifterAt(*seen, frame) : std::nullopt);
  if (!heads) return nullptr;
  auto faces = std::make_shared<tracing::OtherFaces>();
  faces->looks.push_back({frame, std::move(*heads)});
  return faces;
}

Result<std::shared_ptr<const coaching::Analysis>> withOtherFaces(std::shared_ptr<const coaching::Analysis> analysis,
                                                                 Task& task) {
  auto with = std::make_shared<coaching::Analysis>(*analysis);
  if (!with->trace.other_faces) {
    auto reader = footage::FrameReader::open(with->clip);
    if (!reader) return fail(reader.error());
    auto faces = tracing::otherFaces(
        *reader, with->trace.sightings ? *with->trace.sightings : std::vector<tracing::Sighting>{}, task);
    if (!faces && faces.error().code == ErrorCode::Cancelled) return fail(faces.error());
    if (!faces)
      return fail(faces.error().code, "Can't blur the faces. " + faces.error().what,
                  "Install the program again; or turn blurring off on the athlete's page and ring every face with "
                  "Blur (D).");
    with->trace.other_faces = std::make_shared<const tracing::OtherFaces>(std::move(*faces));
  }
  for (coaching::OtherFilm& other : with->others) {
    if (!other.analysis) continue;
    auto known = withOtherFaces(other.analysis, task);
    if (!known) return known;
    other.analysis = std::move(*known);
  }
  return std::shared_ptr<const coaching::Analysis>(std::move(with));
}

}  // namespace jib::drawing
