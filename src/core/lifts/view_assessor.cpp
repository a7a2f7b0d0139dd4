// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/view_assessor.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/angle.h"

namespace jib::lifts {
namespace {

constexpr double kSteep_deg = 8, kTooSteep_deg = 15;  // of the camera's line to the hip
constexpr double kTurned_deg = 33;                    // where the sightings tell; they err by some 10 degrees
constexpr double kSquare_deg = 15;                    // up to here what is turned is corrected for well

}  // namespace

Carried heightsFrom(double look_down_deg) {
  const double steep = std::abs(look_down_deg);
  if (steep > kTooSteep_deg) return {Can::No, ViewReason::TooSteep};
  if (steep >= kSteep_deg) return {Can::Weakly, ViewReason::Steep};
  return {};
}

Carried placesFrom(const motion::Calibration& k) {
  if (k.oblique) return {Can::No, ViewReason::Oblique};
  if (k.turned_deg > kTurned_deg) return {Can::Weakly, ViewReason::Turned};
  return {};
}

Carried carried(const LiftDefinition& lift, const RepMeasure& measure, const motion::Calibration& k) {
  const Carried places = placesFrom(k);
  // The bar's height and times hold from everywhere, if less surely.
  if (measure.needs != Needs::Body) return {std::max(places.can, Can::Weakly), places.why};
  if (places.can != Can::Weakly) return places;
  for (const ClaimRow& row : lift.claims)
    if (row.id == measure.claim && row.oblique == Can::No) return {Can::No, ViewReason::Oblique};
  return places;
}

Carried carried(const LiftDefinition& lift, std::string_view claim, const motion::Calibration& k) {
  std::optional<Carried> best;
  for (const RepMeasure& measure : lift.rep_measures) {
    if (measure.claim != claim) continue;
    const Carried one = carried(lift, measure, k);
    if (!best || one.can > best->can) best = one;
  }
  return best.value_or(placesFrom(k));
}

bool isSquare(const motion::Calibration& k, double yaw_rad) {
  return placesFrom(k).can == Can::Yes && std::abs(degrees(yaw_rad)) <= kSquare_deg;
}

std::string_view absentFor(ViewReason why) {
  switch (why) {
    case ViewReason::Oblique:
    case ViewReason::Turned:
      return "The camera stands too far from the side for places and angles of the body; film square to the lift.";
    case ViewReason::Steep:
    case ViewReason::TooSteep:
      return "The camera looks too steeply on the hip; film at hip height to judge depth.";
    case ViewReason::None:
      return "";
  }
  return "";
}

}  // namespace jib::lifts
