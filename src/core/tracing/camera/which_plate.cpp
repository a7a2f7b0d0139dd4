// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/camera/which_plate.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kLeastTurn_deg = 18, kMostTurn_deg = 62;  // square-on the plates hide one another
constexpr double kTrusted = 0.5;                           // confidence of a place
constexpr std::size_t kFewest = 5;
constexpr double kPlate_m = 0.225;
constexpr double kLeastAside_m = 0.15;  // a plate that is not seen to one side says nothing
constexpr double kAgree = 0.85;         // share of the looks

// Where the bar's middle is in the picture: between the hands, or on the shoulders.
std::optional<double> heldAt(const PoseReading& r, const BodyModel& model) {
  const PoseMark mark = model.inHands() ? PoseMark::Wrist : PoseMark::Shoulder;
  double sum = 0;
  for (const BodySide side : {BodySide::Left, BodySide::Right}) {
    if (r.sure(mark, side) < kTrusted) return std::nullopt;
    sum += r.place(mark, side).x;
  }
  return sum / 2;
}

}  // namespace

bool isFarPlate(const BarTrace& bar, const std::vector<Sighting>& sightings, const ViewLook& view, double forward,
                const BodyModel& model) {
  if (model.lying || view.toward == 0 || view.turned_deg < kLeastTurn_deg || view.turned_deg > kMostTurn_deg)
    return false;
  const double px = bar.rim.radius_px / kPlate_m, near_side = -forward * view.toward;
  std::vector<double> aside;  // of the plate from the bar's middle, to the side on which the near one is seen, m
  for (const Sighting& s : sightings) {
    if (s.frame >= bar.plate.size() || !bar.plate[s.frame]) continue;
    if (const auto held = heldAt(s.reading, model))
      aside.push_back(near_side * (bar.plate[s.frame]->place.x - *held) / px);
  }
  if (aside.size() < kFewest) return false;
  const auto far = std::count_if(aside.begin(), aside.end(), [](double m) { return m < -kLeastAside_m; });
  return static_cast<double>(far) >= kAgree * static_cast<double>(aside.size());
}

}  // namespace jib::tracing
