// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/point_follow.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "core/footage/frame_reader.h"

namespace jib::tracing {
namespace {

constexpr int kPatch_px = 31;
constexpr double kBackAgain_px = 1.5;  // further off after there and back again, it followed something else
constexpr double kAlike = 0.45;        // correlation with how it looked at first

// One way from the frame it was put on.
class Follower {
 public:
  Follower(const cv::Mat& grey, PixelPoint at) : before_(grey), at_(at), looks_(patchAt(grey, at)) {}

  std::optional<PixelPoint> next(const cv::Mat& grey) {
    if (lost_) return std::nullopt;
    const std::vector<cv::Point2f> from{{static_cast<float>(at_.x - 0.5), static_cast<float>(at_.y - 0.5)}};
    std::vector<cv::Point2f> to, back;
    std::vector<unsigned char> there, again;
    const cv::Size window(kPatch_px, kPatch_px);
    cv::calcOpticalFlowPyrLK(before_, grey, from, to, there, cv::noArray(), window, 4);
    cv::calcOpticalFlowPyrLK(grey, before_, to, back, again, cv::noArray(), window, 4);
    const PixelPoint now{to[0].x + 0.5, to[0].y + 0.5};
    lost_ = !there[0] || !again[0] || cv::norm(back[0] - from[0]) > kBackAgain_px || !looksAlike(grey, now);
    if (lost_) return std::nullopt;
    before_ = grey;
    at_ = now;
    return now;
  }

 private:
  static cv::Mat patchAt(const cv::Mat& grey, PixelPoint at) {
    cv::Mat patch;
    cv::getRectSubPix(grey, {kPatch_px, kPatch_px}, {static_cast<float>(at.x - 0.5), static_cast<float>(at.y - 0.5)},
                      patch);
    return patch;
  }
  bool looksAlike(const cv::Mat& grey, PixelPoint at) const {
    if (at.x < 0 || at.y < 0 || at.x > grey.cols || at.y > grey.rows) return false;
    cv::Mat score;
    cv::matchTemplate(patchAt(grey, at), looks_, score, cv::TM_CCOEFF_NORMED);
    return score.at<float>(0, 0) > kAlike;
  }

  cv::Mat before_;
  PixelPoint at_;
  const cv::Mat looks_;
  bool lost_ = false;
};

}  // namespace

Result<FollowedPoint> followPoint(const std::filesystem::path& clip, PixelPoint at, std::size_t frame,
                                  std::size_t first, std::size_t last, Task& task) {
  auto reader = footage::FrameReader::open(clip);
  if (!reader) return fail(reader.error());
  last = std::min(last, reader->info().times_s.size() - 1);
  frame = std::clamp(frame, first, last);
  FollowedPoint followed{first, std::vector<std::optional<PixelPoint>>(last - first + 1)};
  followed.places[frame - first] = at;
  const double frames = static_cast<double>(last - first + 1);

  std::optional<Follower> follower;
  std::size_t done = 0;
  if (auto set = reader->seekBefore(frame); !set) return fail(set.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader->next(footage::Pixels::Gray, frame);
    if (!next) return fail(next.error());
    if (!*next || (*next)->index > last) break;
    if (!follower)
      follower.emplace((*next)->picture, at);
    else
      followed.places[(*next)->index - first] = follower->next((*next)->picture);
    task.report(static_cast<double>(++done) / frames);
  }

  follower.reset();
  auto read = footage::readBackward(*reader, frame, footage::Pixels::Gray, [&](const footage::Frame& f) {
    if (f.index < first || task.cancelled()) return false;
    if (!follower)
      follower.emplace(f.picture, at);
    else
      followed.places[f.index - first] = follower->next(f.picture);
    task.report(static_cast<double>(++done) / frames);
    return true;
  });
  if (!read) return fail(read.error());
  if (task.cancelled()) return cancelled();
  return followed;
}

}  // namespace jib::tracing
