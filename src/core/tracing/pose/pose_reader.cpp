// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/pose_reader.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/tracing/pose/exposure.h"

namespace jib::tracing {
namespace {

constexpr int kSide = 256;
constexpr int kCells = 64;
constexpr std::size_t kMaps = 39, kNumbers = 5;
constexpr std::size_t kMidHip = 33, kScalePoint = 34;
constexpr int kReach = 3;  // cells on each side of the guess
constexpr double kSeen = 0.5;

double logistic(double v) {
  return 1 / (1 + std::exp(-v));
}

// The region as the network's square, `side` pixels wide.
cv::Mat cropped(const cv::Mat& picture, const PoseRegion& region, int side) {
  const double k = region.size_px / side;
  const double c = k * std::cos(region.turn_rad), s = k * std::sin(region.turn_rad);
  // warpAffine counts from pixel centres; ours is the corner of the first pixel.
  const double half = 0.5 * side - 0.5;
  const cv::Matx23d to_picture(c, -s, region.centre.x - 0.5 - c * half + s * half,  //
                               s, c, region.centre.y - 0.5 - s * half - c * half);
  cv::Mat crop;
  cv::warpAffine(picture, crop, to_picture, {side, side}, cv::INTER_LINEAR | cv::WARP_INVERSE_MAP, cv::BORDER_CONSTANT);
  return crop;
}

// The weighted middle of the heatmap around a guess, in the network's pixels.
struct Refined {
  double x, y, peak;
};
Refined refined(std::span<const float> heat, std::size_t map, double x, double y) {
  const int column = static_cast<int>(std::floor(x / 4)), row = static_cast<int>(std::floor(y / 4));
  double sum = 0, sum_x = 0, sum_y = 0, peak = 0;
  for (int r = std::max(0, row - kReach); r <= std::min(kCells - 1, row + kReach); ++r)
    for (int c = std::max(0, column - kReach); c <= std::min(kCells - 1, column + kReach); ++c) {
      const double w =
          logistic(heat[(static_cast<std::size_t>(r) * kCells + static_cast<std::size_t>(c)) * kMaps + map]);
      sum += w;
      sum_x += w * c;
      sum_y += w * r;
      peak = std::max(peak, w);
    }
  if (peak < kSeen) return {x, y, peak};
  return {4 * sum_x / sum, 4 * sum_y / sum, peak};
}

}  // namespace

Result<PoseReader> PoseReader::make(const NetworkFile& landmarks, Outlines outlines) {
  std::vector<std::string_view> wanted{"Identity", "Identity_1", "Identity_3"};
  if (outlines == Outlines::Yes) wanted.push_back("Identity_2");
  auto network = Network::make(landmarks, wanted);
  if (!network) return fail(network.error());
  if (network->input().size() != kSide * kSide * 3 || network->result(0).size() != kMaps * kNumbers ||
      network->result(1).size() != 1 || network->result(2).size() != kCells * kCells * kMaps ||
      (outlines == Outlines::Yes && network->result(3).size() != kSide * kSide))
    return fail(ErrorCode::BadData, "This network does not read landmarks.", "Place the points by hand.");
  return PoseReader(std::move(*network), outlines);
}

Result<PoseReading> PoseReader::read(const cv::Mat& picture, const PoseRegion& region) {
  JIB_ASSERT(picture.type() == CV_8UC3 && !picture.empty() && region.size_px > 0);
  cv::Mat crop = cropped(picture, region, region.size_px > 1.5 * kSide ? 2 * kSide : kSide);
  if (crop.cols != kSide) cv::resize(crop, crop, {kSide, kSide}, 0, 0, cv::INTER_AREA);
  const auto in = network_.input();
  float* out = in.data();
  const auto per_level = static_cast<float>(brightening(crop) / 255);
  for (int y = 0; y < kSide; ++y) {
    const auto* row = crop.ptr<cv::Vec3b>(y);
    for (int x = 0; x < kSide; ++x)
      for (int c = 0; c < 3; ++c) *out++ = std::min(1.0f, per_level * static_cast<float>(row[x][2 - c]));
  }
  if (auto ran = network_.run(); !ran) return fail(ran.error());
  const auto numbers = network_.result(0), heat = network_.result(2);
  PoseReading reading;
  reading.person = network_.result(1)[0];
  const auto raw = [&](std::size_t mark) {
    const auto bounded = [](float v) { return std::isfinite(v) ? std::clamp<double>(v, -kSide, 2 * kSide) : 0.0; };
    return PixelPoint{bounded(numbers[mark * kNumbers]), bounded(numbers[mark * kNumbers + 1])};
  };
  const auto placed = [&](double x, double y) { return region.toPicture({x / kSide, y / kSide}); };
  for (std::size_t mark = 0; mark < kPoseMarks; ++mark) {
    const PixelPoint guess = raw(mark);
    const Refined r = refined(heat, mark, guess.x, guess.y);
    reading.places[mark] = placed(r.x, r.y);
    reading.confidence[mark] = r.peak;
  }
  const PixelPoint hip = raw(kMidHip), scale = raw(kScalePoint);
  if (outlines_ == Outlines::Yes) reading.outline = outlineFrom(network_.result(3), kSide, region);
  reading.next = PoseRegion::around(placed(hip.x, hip.y), placed(scale.x, scale.y));
  return reading;
}

}  // namespace jib::tracing
