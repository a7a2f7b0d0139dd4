// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/placed_elbow.h"

#include <cmath>

namespace jib::tracing {

void placeElbow(Trace& trace, const std::vector<PlacedFrame>& placed, double metre_px) {
  constexpr double kAlike_s = 1.0, kPlaced_m = 0.008;
  for (const PlacedFrame& p : placed) {
    const auto& elbow = p.points[at(Landmark::Elbow)];
    if (!elbow) continue;
    const std::size_t frame = nearestFrame(trace, p.t_s);
    if (const auto was = trace.place(frame, Landmark::Elbow))
      for (std::size_t i = 0; i < trace.size(); ++i)
        if (auto& point = trace.frames[i][at(Landmark::Elbow)]; point && point->origin != Origin::Pinned)
          point->place =
              point->place + (*elbow - *was) * std::exp(-std::abs(trace.times_s[i] - trace.times_s[frame]) / kAlike_s);
    trace.frames[frame][at(Landmark::Elbow)] = TracedPoint{*elbow, kPlaced_m * metre_px, Origin::Pinned};
  }
}

}  // namespace jib::tracing
