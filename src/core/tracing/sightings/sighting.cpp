// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/sighting.h"

#include <algorithm>
#include <cmath>

namespace jib::tracing {

std::vector<PoseReading> readingsOf(const std::vector<Sighting>& sightings) {
  std::vector<PoseReading> readings;
  for (const Sighting& s : sightings) readings.push_back(s.reading);
  return readings;
}

std::vector<CameraMove> cameraMoves(const std::vector<Sighting>& sightings, const std::vector<double>& times_s) {
  constexpr double kStands_px = 1.0;  // a tripod stays far under this: 0.04 px was seen
  double most = 0;
  for (const Sighting& s : sightings)
    for (const PixelPoint p : s.reading.places) most = std::max(most, length(s.camera.moved(p) - p));
  if (most < kStands_px) return {};
  std::vector<CameraMove> moves(times_s.size());
  std::size_t k = 0;
  for (std::size_t i = 0; i < times_s.size(); ++i) {
    while (k + 1 < sightings.size() && sightings[k + 1].frame <= i) ++k;
    const Sighting& a = sightings[k];
    const Sighting& b = sightings[std::min(k + 1, sightings.size() - 1)];
    const double span = times_s[b.frame] - times_s[a.frame];
    const double share = span > 0 ? std::clamp((times_s[i] - times_s[a.frame]) / span, 0.0, 1.0) : 0.0;
    moves[i] = between(a.camera, b.camera, share);
  }
  return moves;
}

std::optional<double> forwardFrom(const std::vector<Sighting>& sightings) {
  constexpr double kSeen = 0.5;  // confidence from which a landmark was seen and not guessed
  constexpr double kFewest = 8;
  double sum = 0, counted = 0;
  for (const Sighting& s : sightings)
    for (BodySide side : {BodySide::Left, BodySide::Right}) {
      if (s.reading.sure(PoseMark::Toe, side) < kSeen || s.reading.sure(PoseMark::Heel, side) < kSeen) continue;
      const PixelPoint foot = s.reading.place(PoseMark::Toe, side) - s.reading.place(PoseMark::Heel, side);
      // From the front a foot points at the camera and looks short.
      if (std::abs(foot.x) < 0.03 * s.reading.next.size_px) continue;
      sum += foot.x > 0 ? 1 : -1;
      counted += 1;
    }
  if (counted < kFewest || std::abs(sum) < 0.5 * counted) return std::nullopt;
  return sum > 0 ? 1.0 : -1.0;
}

}  // namespace jib::tracing
