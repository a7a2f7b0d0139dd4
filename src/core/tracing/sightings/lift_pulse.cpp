// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/lift_pulse.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

namespace jib::tracing {
namespace {

constexpr int kHeight = 120;           // of the small picture motion is looked for in
constexpr double kMoves_px = 0.25;     // less between two pictures is noise
constexpr double kLeastShare = 0.004;  // of the picture must move, or nothing does
constexpr double kLeastOverlap_s = 3;
constexpr double kLeastEnergy = 0.05;  // sum of squares, (heights a second)² : one gentle rep has more than this

// Mean upward speed of what moves, in heights a second.
double upwardSpeed(const cv::Mat& before, const cv::Mat& after, double dt_s) {
  cv::Mat_<cv::Vec2f> flow;
  cv::calcOpticalFlowFarneback(before, after, flow, 0.5, 2, 11, 2, 5, 1.1, 0);
  double sum = 0;
  int moving = 0;
  for (const auto& v : flow)
    if (std::hypot(v[0], v[1]) > kMoves_px) {
      sum -= v[1];
      ++moving;
    }
  if (moving < kLeastShare * static_cast<double>(flow.total())) return 0;
  return sum / moving / kHeight / dt_s;
}

}  // namespace

Result<LiftPulse> liftPulse(footage::FrameReader& reader, Task& task) {
  const auto& times = reader.info().times_s;
  LiftPulse pulse;
  if (times.empty()) return pulse;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  const double start = times.front(), length = times.back() - start;
  const cv::Size small(std::max(16, kHeight * reader.info().width / std::max(1, reader.info().height)), kHeight);
  cv::Mat before;
  double before_s = 0;
  for (std::size_t k = 0;; ++k) {
    if (task.cancelled()) return cancelled();
    auto frame = reader.next(footage::Pixels::Gray);
    if (!frame) return fail(frame.error());
    if (!*frame) break;
    const double at = (*frame)->t_s - start;
    if (!before.empty() && at - before_s < 0.99 / kPulse_hz) continue;
    cv::Mat now;
    cv::resize((*frame)->picture, now, small, 0, 0, cv::INTER_AREA);
    // Frames come at their own times; the pulse has even ones. A frame that stands in for several fills them all.
    const double up = before.empty() ? 0 : upwardSpeed(before, now, std::max(1e-3, at - before_s));
    const auto upto = static_cast<std::size_t>(std::max(0.0, std::floor(at * kPulse_hz + 1e-6))) + 1;
    while (pulse.up.size() < upto) pulse.up.push_back(static_cast<float>(up));
    before = now;
    before_s = at;
    if (length > 0) task.report(at / length);
  }
  return pulse;
}

std::optional<Aligned> aligned(const LiftPulse& first, const LiftPulse& second) {
  const auto &a = first.up, &b = second.up;
  const auto energy = [](const std::vector<float>& p) {
    double sum = 0;
    for (float v : p) sum += static_cast<double>(v) * v;
    return sum;
  };
  const double both = std::sqrt(energy(a) * energy(b));
  if (energy(a) < kLeastEnergy || energy(b) < kLeastEnergy) return std::nullopt;
  const int na = static_cast<int>(a.size()), nb = static_cast<int>(b.size());
  const int overlap = static_cast<int>(kLeastOverlap_s * kPulse_hz);
  // Over the energy of the whole of both, and not of what overlaps: shifted by one rep, a set agrees with itself in
  // all reps but one.
  const auto likeness = [&](int lag) {
    double sum = 0;
    for (int i = std::max(0, -lag); i < na && i + lag < nb; ++i)
      sum += static_cast<double>(a[static_cast<std::size_t>(i)]) * b[static_cast<std::size_t>(i + lag)];
    return sum / both;
  };
  int best = 0;
  double most = -1;
  for (int lag = overlap - na; lag <= nb - overlap; ++lag)
    if (const double l = likeness(lag); l > most) {
      most = l;
      best = lag;
    }
  if (most <= 0) return std::nullopt;
  const double left = likeness(best - 1), right = likeness(best + 1);
  const double bend = left - 2 * most + right;
  const double part = bend < 0 ? std::clamp(0.5 * (left - right) / bend, -0.5, 0.5) : 0;
  return Aligned{(best + part) / kPulse_hz, most};
}

}  // namespace jib::tracing
