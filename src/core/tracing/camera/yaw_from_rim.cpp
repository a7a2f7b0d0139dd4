// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/camera/yaw_from_rim.h"

#include <algorithm>
#include <cmath>

#include "core/tracing/camera/camera_turn.h"

namespace jib::tracing {
namespace {

constexpr double kLeastTurn_rad = 0.14;  // 8 degrees: below, the rim is flattened by one per cent, which is its noise
constexpr double kAspectSigma = 0.006;
constexpr double kOverFoot_m = 0.12;  // a bar that is held stands within this of mid-foot
constexpr double kApart_m = 0.06;     // by so much one side must fit better than the other
constexpr double kStanding_s = 1.5;   // either way of the quiet frame
constexpr double kTrusted = 0.5;      // confidence of a landmark
constexpr std::size_t kFewest = 4;
constexpr double kMidFootAhead_m = 0.07;  // of the ankle, where toe and heel are not both seen

double median(std::vector<double> values) {
  const auto middle = values.begin() + static_cast<long>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

// Level distance from mid-foot to the bar while standing, were the camera `camera`.
std::optional<double> barFromFoot(const BarTrace& bar, const std::vector<Sighting>& sightings, const SideCamera& camera,
                                  std::size_t around) {
  const BodySide side = camera.forward > 0 ? BodySide::Right : BodySide::Left;
  std::vector<double> apart;
  for (const Sighting& s : sightings) {
    if (s.frame >= bar.plate.size() || !bar.plate[s.frame]) continue;
    if (std::abs(bar.times_s[s.frame] - bar.times_s[around]) > kStanding_s) continue;
    const auto seen = [&](PoseMark mark) { return s.reading.sure(mark, side) >= kTrusted; };
    const auto x = [&](PoseMark mark, Landmark landmark) {
      return camera.toPlane(s.reading.place(mark, side), camera.lateralOf(landmark, 0)).x;
    };
    double foot = 0;
    if (seen(PoseMark::Toe) && seen(PoseMark::Heel))
      foot = (x(PoseMark::Toe, Landmark::Toe) + x(PoseMark::Heel, Landmark::Heel)) / 2;
    else if (seen(PoseMark::Ankle))
      foot = x(PoseMark::Ankle, Landmark::Ankle) + kMidFootAhead_m;
    else
      continue;
    apart.push_back(camera.toPlane(bar.plate[s.frame]->place, camera.plate_m).x - foot);
  }
  if (apart.size() < kFewest) return std::nullopt;
  return median(std::move(apart));
}

}  // namespace

std::optional<Turn> turnFromRim(const BarTrace& bar, const std::vector<Sighting>& sightings, const SideCamera& square,
                                std::size_t around) {
  if (around >= bar.plate.size() || !bar.plate[around]) return std::nullopt;
  const auto [turn, sight] = rimTurn(bar, square);
  if (turn < kLeastTurn_rad) return std::nullopt;
  std::optional<Turn> best;
  double least = 0, other = 0;
  for (const double sign : {1.0, -1.0}) {
    SideCamera tried = square;
    tried.yaw_rad = sign * turn - sight;
    const auto apart = barFromFoot(bar, sightings, tried, around);
    if (!apart) return std::nullopt;
    if (!best || std::abs(*apart) < least) {
      if (best) other = least;
      best = Turn{tried.yaw_rad, std::hypot(0.02, kAspectSigma / std::sin(turn))};
      least = std::abs(*apart);
    } else {
      other = std::abs(*apart);
    }
  }
  if (least > kOverFoot_m || other - least < kApart_m) return std::nullopt;
  return best;
}

}  // namespace jib::tracing
