// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/camera_move.h"

#include <algorithm>
#include <cmath>
#include <opencv2/calib3d.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "core/base/median.h"

namespace jib::tracing {
namespace {

constexpr double kWidth_px = 640;  // of the longer side of the picture that is looked at
constexpr int kMostCorners = 100;
constexpr std::size_t kFewest = 12;
constexpr double kAgree_px = 1.0;
// A turn is believed when it explains what a mere shift does not: corners err by about a tenth of a pixel.
constexpr double kShiftExplains_px = 0.4;
constexpr double kMostGrowth = 0.3, kMostTurn = 0.3;

}  // namespace

PixelPoint CameraMove::still(PixelPoint seen) const {
  const PixelPoint d = seen - shift;
  const double square = along * along + across * across;
  return PixelPoint{along * d.x + across * d.y, along * d.y - across * d.x} * (1 / square);
}

double CameraMove::turn_rad() const {
  return std::atan2(across, along);
}

CameraMove between(const CameraMove& a, const CameraMove& b, double share) {
  return {a.along + (b.along - a.along) * share, a.across + (b.across - a.across) * share,
          a.shift + (b.shift - a.shift) * share};
}

CameraMove after(const CameraMove& first, const CameraMove& then) {
  return {then.along * first.along - then.across * first.across, then.along * first.across + then.across * first.along,
          then.moved(first.shift)};
}

CameraMove RoomWatch::look(const cv::Mat& colour) {
  cv::Mat grey = small(colour);
  if (key_.grey.empty()) {
    key_ = keyOf(grey, {});
    last_ = key_;
    return {};
  }
  auto move = since(key_, grey);
  if (!move && last_.grey.data != key_.grey.data) {
    // The room of the key picture has gone out of sight: go on from the last frame that was made out.
    key_ = keyOf(last_.grey, last_.move);
    move = since(key_, grey);
  }
  if (!move) return last_.move;
  last_ = {grey, {}, *move};
  return *move;
}

cv::Mat RoomWatch::small(const cv::Mat& colour) {
  cv::Mat grey, shrunk;
  cv::cvtColor(colour, grey, cv::COLOR_BGR2GRAY);
  scale_ = std::min(1.0, kWidth_px / std::max(colour.cols, colour.rows));
  cv::resize(grey, shrunk, {}, scale_, scale_, cv::INTER_AREA);
  return shrunk;
}

RoomWatch::Key RoomWatch::keyOf(cv::Mat grey, const CameraMove& move) const {
  cv::Mat outside(grey.size(), CV_8U, cv::Scalar(255));
  for (const Lifter& l : lifter_) {
    const PixelPoint c = move.moved(l.centre) * scale_;
    const double w = l.half_width * scale_, h = l.half_height * scale_;
    cv::rectangle(outside, cv::Point2d(c.x - w, c.y - h), cv::Point2d(c.x + w, c.y + h), cv::Scalar(0), -1);
  }
  Key key{grey, {}, move};
  cv::goodFeaturesToTrack(grey, key.corners, kMostCorners, 0.02, 8, outside);
  return key;
}

std::optional<CameraMove> RoomWatch::since(const Key& key, const cv::Mat& grey) const {
  if (key.corners.size() < kFewest) return std::nullopt;
  std::vector<cv::Point2f> now;
  std::vector<unsigned char> found;
  cv::calcOpticalFlowPyrLK(key.grey, grey, key.corners, now, found, cv::noArray(), {17, 17}, 3);
  std::vector<cv::Point2f> from, to;
  std::vector<double> x, y;
  for (std::size_t k = 0; k < key.corners.size(); ++k) {
    if (!found[k]) continue;
    from.push_back(key.corners[k]);
    to.push_back(now[k]);
    x.push_back(static_cast<double>(now[k].x - key.corners[k].x));
    y.push_back(static_cast<double>(now[k].y - key.corners[k].y));
  }
  if (from.size() < kFewest) return std::nullopt;
  const PixelPoint shift{median(x), median(y)};
  std::vector<double> off;
  std::size_t agree = 0;
  for (std::size_t k = 0; k < from.size(); ++k) {
    off.push_back(std::hypot(x[k] - shift.x, y[k] - shift.y));
    agree += off.back() < kAgree_px ? 1 : 0;
  }
  if (2 * agree >= from.size() && median(off) < kShiftExplains_px) return after(key.move, {1, 0, shift * (1 / scale_)});
  cv::Mat inliers;
  const cv::Mat affine = cv::estimateAffinePartial2D(from, to, inliers, cv::RANSAC, kAgree_px);
  if (affine.empty()) return std::nullopt;
  if (2 * cv::countNonZero(inliers) < static_cast<int>(from.size())) return std::nullopt;
  const CameraMove move{affine.at<double>(0, 0), affine.at<double>(1, 0),
                        PixelPoint{affine.at<double>(0, 2), affine.at<double>(1, 2)} * (1 / scale_)};
  if (std::abs(std::hypot(move.along, move.across) - 1) > kMostGrowth || std::abs(move.turn_rad()) > kMostTurn)
    return std::nullopt;
  return after(key.move, move);
}

}  // namespace jib::tracing
