// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/lift_look.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

namespace jib::tracing {
namespace {

constexpr double kMostly = 0.6;
// A stroke is longer than the plate's rim is wide; what moves less is walking, racking, settling.
constexpr double kStroke_rims = 0.8;
// Of the way between the bar's lowest and highest place.
constexpr double kLow = 0.3, kHigh = 0.7;
// Bar below shoulder over the trunk's length, of a body that stands: on the back about 0, in hanging hands over 1.
// Behind plates the shoulder is guessed, on one squat by 0.6: alone this says little, and only speaks against the bar's
// way.
constexpr double kHangs = 0.9, kLiesOnBack = 0.35, kOverhead = -0.6;

double medianOf(std::vector<double> v) {
  std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
  return v[v.size() / 2];
}

enum class First { Unknown, Down, Up };

// From the heights the bar keeps before it first crosses the middle of its way.
First firstWay(const BarTrace& bar) {
  std::vector<double> heights;
  for (const auto& p : bar.plate)
    if (p) heights.push_back(-p->place.y);
  if (heights.size() < 10) return First::Unknown;
  const auto [low, high] = std::minmax_element(heights.begin(), heights.end());
  const double way = *high - *low;
  if (way < kStroke_rims * bar.rim.radius_px * 2) return First::Unknown;
  const double first = (heights.front() - *low) / way;
  const auto crossing = std::find_if(heights.begin(), heights.end(), [&](double h) {
    const double share = (h - *low) / way;
    return first > 0.5 ? share < 0.5 : share > 0.5;
  });
  const std::vector<double> before(heights.begin(), crossing);
  if (before.size() < 5) return First::Unknown;
  const double rest = (medianOf(before) - *low) / way;
  return rest < kLow ? First::Up : rest > kHigh ? First::Down : First::Unknown;
}

// How far the bar is below the shoulders of a body that stands, in lengths of its trunk: in each look.
std::vector<double> barBelowShoulder(const FirstLook& look, const BarTrace& bar) {
  std::vector<double> below;
  for (const auto& body : look.bodies) {
    if (body.frame >= bar.plate.size() || !bar.plate[body.frame]) continue;
    const auto mid = [&](PoseMark mark) {
      return (body.reading.place(mark, BodySide::Left) + body.reading.place(mark, BodySide::Right)) * 0.5;
    };
    const PixelPoint shoulder = mid(PoseMark::Shoulder), hip = mid(PoseMark::Hip);
    const double trunk = hip.y - shoulder.y;
    if (trunk < 0.7 * length(hip - shoulder) || trunk <= 0) continue;  // leaning or lying
    below.push_back((bar.plate[body.frame]->place.y - shoulder.y) / trunk);
  }
  return below;
}

// Of a bar that is pulled or lies on a back no look has it a trunk's length above the shoulders.
bool goesOverhead(const std::vector<double>& below) {
  if (below.size() < 3) return false;
  const auto [highest, lowest] = std::minmax_element(below.begin(), below.end());
  return *highest < kOverhead && *lowest < kLiesOnBack;
}

// Share of the looks in which the bar is clearly below the shoulders. Who bends to a bar on the floor is as level as
// who lies under one.
double lookedDownOn(const FirstLook& look, const BarTrace& bar) {
  double below = 0, looks = 0;
  for (const auto& body : look.bodies) {
    if (body.frame >= bar.plate.size() || !bar.plate[body.frame]) continue;
    const PixelPoint shoulder = (body.reading.place(PoseMark::Shoulder, BodySide::Left) +
                                 body.reading.place(PoseMark::Shoulder, BodySide::Right)) *
                                0.5;
    below += bar.plate[body.frame]->place.y > shoulder.y + bar.rim.radius_px / 2 ? 1 : 0;
    looks += 1;
  }
  return looks > 0 ? below / looks : 0;
}

}  // namespace

LiftSeen liftSeen(const FirstLook& look, const BarTrace* bar) {
  const bool bent = bar && firstWay(*bar) == First::Up && lookedDownOn(look, *bar) > 0.5;
  if (look.lying >= kMostly && !bent) return LiftSeen::Lying;
  // From the front plates are edges: what was followed there is hardly the bar.
  if (!bar || (look.view.seen != Seen::Side && look.view.seen != Seen::Oblique)) return LiftSeen::Unknown;
  const First first = firstWay(*bar);
  const auto looks = barBelowShoulder(look, *bar);
  const auto below = looks.size() >= 2 ? std::optional(medianOf(looks)) : std::nullopt;
  if (first == First::Up && goesOverhead(looks)) return LiftSeen::Overhead;
  if (first == First::Up) return below && *below < kLiesOnBack ? LiftSeen::Unknown : LiftSeen::FromTheFloor;
  if (below && *below > kHangs) return LiftSeen::Unknown;
  const bool stands = look.found > 0 && look.lying < 1 - kMostly;
  return first == First::Down && stands ? LiftSeen::DownFirst : LiftSeen::Unknown;
}

std::optional<double> facingSeen(const FirstLook& look, const BodyModel& body) {
  if (!body.lying) return look.view.forward;
  // The networks turn some of those who lie upside down: most looks decide, if they are clearly most.
  double feet_right = 0, looks = 0;
  for (const auto& one : look.bodies) {
    const auto mid = [&](PoseMark mark) {
      return (one.reading.place(mark, BodySide::Left) + one.reading.place(mark, BodySide::Right)) * 0.5;
    };
    const PixelPoint trunk = mid(PoseMark::Hip) - mid(PoseMark::Shoulder);
    if (std::abs(trunk.x) < std::abs(trunk.y)) continue;
    feet_right += trunk.x > 0 ? 1 : -1;
    looks += 1;
  }
  if (looks < 2 || std::abs(feet_right) < kMostly * looks) return std::nullopt;
  return feet_right > 0 ? 1.0 : -1.0;
}

}  // namespace jib::tracing
