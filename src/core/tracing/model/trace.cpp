// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/model/trace.h"

#include <algorithm>
#include <cmath>

namespace jib::tracing {

std::size_t nearestFrame(const Trace& trace, double t_s) {
  JIB_ASSERT(!trace.times_s.empty());
  const auto after = std::lower_bound(trace.times_s.begin(), trace.times_s.end(), t_s - 1e-6);
  const auto i = static_cast<std::size_t>(std::min(after, trace.times_s.end() - 1) - trace.times_s.begin());
  return i > 0 && std::abs(trace.times_s[i - 1] - t_s) < std::abs(trace.times_s[i] - t_s) ? i - 1 : i;
}

Result<bool> check(const Trace& trace) {
  const auto broken = [](const std::string& what) {
    return fail(ErrorCode::BadData, "The trace is damaged: " + what + ".", "Trace the clip again.");
  };
  if (trace.frames.size() != trace.times_s.size()) return broken("frames and times differ in number");
  for (std::size_t i = 0; i < trace.size(); ++i) {
    if (!std::isfinite(trace.times_s[i])) return broken("a time is not a number");
    if (i > 0 && trace.times_s[i] <= trace.times_s[i - 1]) return broken("times do not rise");
    for (const auto& point : trace.frames[i]) {
      if (!point) continue;
      if (!std::isfinite(point->place.x) || !std::isfinite(point->place.y)) return broken("a place is not a number");
      if (!std::isfinite(point->sigma_px) || point->sigma_px <= 0) return broken("an uncertainty is not above zero");
    }
  }
  if (trace.rim && !(trace.rim->radius_px > 0 && trace.rim->aspect > 0 && trace.rim->aspect <= 1))
    return broken("the rim has no size");
  return true;
}

std::vector<PointName> allPointNames() {
  std::vector<PointName> all;
  for (const Landmark landmark : kAllLandmarks) all.push_back(landmark);
  for (const BodySide side : kSides)
    for (const Landmark landmark : kAllLandmarks) all.push_back({landmark, side});
  return all;
}

bool anyFromTheSide(const std::vector<PlacedFrame>& placed) {
  return std::any_of(placed.begin(), placed.end(), [](const PlacedFrame& p) {
    return std::any_of(p.points.begin(), p.points.end(), [](const auto& point) { return point.has_value(); });
  });
}

std::vector<PlacedFrame> placedWithin(std::vector<PlacedFrame> placed, const std::vector<double>& times_s) {
  constexpr double kRounded_s = 0.05;
  if (!times_s.empty())
    std::erase_if(placed, [&](const PlacedFrame& p) {
      return p.t_s < times_s.front() - kRounded_s || p.t_s > times_s.back() + kRounded_s;
    });
  return placed;
}

}  // namespace jib::tracing
