// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/view_assessor.h"

#include <cmath>

namespace jib::lifts {
namespace {

constexpr double kSteep_deg = 8, kTooSteep_deg = 15;  // of the camera's line to the hip
constexpr double kTurned_deg = 33;                    // where the sightings tell; they err by some 10 degrees

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

std::string_view absentFor(ViewReason why) {
  switch (why) {
    case ViewReason::Oblique:
    case ViewReason::Turned:
      return "The camera stands too far from the side for places and angles of the body; film square to the lift.";
    case ViewReason::Steep:
    case ViewReason::TooSteep:
      return "The camera looks too steeply on the hip; film with the lens level with the hip to judge depth.";
    case ViewReason::None:
      return "";
  }
  return "";
}

}  // namespace jib::lifts
