// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_edges.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"

namespace jib::tracing {
namespace {

constexpr double kReach_m = 0.20;
constexpr double kHidden = 1.08;  // of a plate's rim
constexpr double kAllDown_m = 0.45;
constexpr double kOtherInFront_m = 0.015;
constexpr double kTrusted = 0.5;

}  // namespace

double foldedAt(double bar_below_m) {
  return std::clamp(bar_below_m / kAllDown_m, 0.0, 1.0);
}

std::vector<EdgeSeen> edgesOn(const Outline& outline, const TracedPoint& plate, const Rim& rim, double folded,
                              MetrePoint hip, MetrePoint knee, double knee_lateral_m, const SideCamera& camera) {
  std::vector<EdgeSeen> seen;
  if (outline.empty()) return seen;
  const PixelPoint far_plate = camera.shifted(plate.place, camera.plate_m, -camera.plate_m);
  const double far_share = camera.pixelsPerMetre(-camera.plate_m) / camera.pixelsPerMetre(camera.plate_m);
  for (const EdgeKind& kind : kEdgeKinds) {
    if (folded < kind.from_folded) continue;
    const bool is_hip = kind.joint == Landmark::Hip;
    const MetrePoint joint = is_hip ? hip : knee;
    const double lateral = is_hip ? camera.hip_m : knee_lateral_m;
    const PixelPoint about = camera.toPicture(joint, lateral);
    const PixelPoint ahead = camera.toPicture(joint + kind.way * 0.1, lateral) - about;
    const auto edge =
        farthestOn(outline, about, kReach_m * camera.pixelsPerMetre(lateral), ahead * (1 / length(ahead)));
    if (!edge || length(*edge - plate.place) < kHidden * rim.radius_px ||
        length(*edge - far_plate) < kHidden * far_share * rim.radius_px)
      continue;
    // The far side's joint, as if it stood in the near one's plane.
    const MetrePoint other = camera.toPlane(camera.toPicture(joint, -lateral), lateral) - joint;
    const double beyond = std::max(0.0, other.x * kind.way.x + other.z * kind.way.z);
    if (!is_hip && beyond > kOtherInFront_m) continue;
    seen.push_back({kind.edge, camera.toPlane(*edge, lateral), lateral, beyond});
  }
  return seen;
}

std::optional<ShoeSeen> shoeSeen(const std::vector<Sighting>& sightings, std::size_t first, std::size_t last,
                                 const SideCamera& camera) {
  constexpr std::size_t kFewest = 6;
  constexpr double kShare = 0.25;      // of all looks the shoe must be made out on
  constexpr double kScatter_m = 0.02;  // ends that wander by more are no shoe's
  const BodySide side = camera.forward > 0 ? BodySide::Right : BodySide::Left;
  const auto within = [&](const Sighting& s) { return s.frame >= first && s.frame <= last; };
  const auto middleOf = [&](PoseMark mark) -> std::optional<PixelPoint> {
    std::vector<double> x, y;
    for (const Sighting& s : sightings)
      if (within(s) && s.reading.sure(mark, side) >= kTrusted) {
        x.push_back(s.reading.place(mark, side).x);
        y.push_back(s.reading.place(mark, side).y);
      }
    if (x.size() < kFewest) return std::nullopt;
    return PixelPoint{median(x), median(y)};
  };
  const auto heel = middleOf(PoseMark::Heel), toe = middleOf(PoseMark::Toe), ankle = middleOf(PoseMark::Ankle);
  if (!heel || !toe || !ankle) return std::nullopt;
  std::array<std::vector<double>, 4> v;
  std::size_t looks = 0;
  for (const Sighting& s : sightings) {
    if (!within(s) || s.reading.outline.empty()) continue;
    ++looks;
    const auto shoe =
        shoeOn(s.reading.outline, {*heel, *toe}, *ankle, camera.pixelsPerMetre(camera.ankle_m), camera.forward);
    if (!shoe) continue;
    const MetrePoint h = camera.toPlane(shoe->heel, camera.lateralOf(Landmark::Heel, 0));
    const MetrePoint t = camera.toPlane(shoe->toe, camera.lateralOf(Landmark::Toe, 0));
    for (const auto& [k, value] : {std::pair(0, h.x), std::pair(1, h.z), std::pair(2, t.x), std::pair(3, t.z)})
      v[static_cast<std::size_t>(k)].push_back(value);
  }
  if (v[0].size() < kFewest || static_cast<double>(v[0].size()) < kShare * static_cast<double>(looks))
    return std::nullopt;
  for (const auto& values : v)
    if (medianOff(values, median(values)) > kScatter_m) return std::nullopt;
  return ShoeSeen{{median(v[0]), median(v[1])}, {median(v[2]), median(v[3])}};
}

}  // namespace jib::tracing
