// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/camera/camera_turn.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kRimErrs_deg = 11;     // a rim narrowed by 2 % is one turned by 11 degrees
constexpr double kContradicts_deg = 9;  // beyond that: bar and rim cannot both be right
constexpr double kClearRim_deg = 17;    // narrowed beyond what a fit's noise does
constexpr double kClearBody_deg = 25;   // hips and shoulders that stand apart so far show front or back
// The outline of a stack of plates is wider than its front rim, by the stack's thickness seen at an angle: between one
// thin plate and four thick ones the rim's angle reads some 2 to 12 degrees too small.
constexpr double kThickPlates_deg = 5, kRimSigma_deg = 6;
// Bodies at a bar look further turned than the camera is: so much of it is the camera's, as films drawn by seed had it,
// to within some eight degrees.
constexpr double kOfBody = 0.68, kBodySigma_deg = 8;
constexpr double kAtBest_deg = 6;        // both are read off the same picture and err together
constexpr double kParted_deg = 7;        // bar and rim further apart than that do not say the same
constexpr double kOutvoted_sigma = 1.5;  // rim and body together against what was taken for the end of the bar

// What rim and body say together of the sight to the plate against the bar, where both are clear.
struct Others {
  double turn_deg, sigma_deg;
};

Others othersThanBar(double rim_deg, double body_deg, double sight_deg) {
  const double rim = rim_deg + kThickPlates_deg, body = kOfBody * body_deg + sight_deg;
  const double by_rim = 1 / (kRimSigma_deg * kRimSigma_deg), by_body = 1 / (kBodySigma_deg * kBodySigma_deg);
  return Others{(by_rim * rim + by_body * body) / (by_rim + by_body),
                std::max(kAtBest_deg, 1 / std::sqrt(by_rim + by_body))};
}

}  // namespace

RimTurn rimTurn(const BarTrace& bar, const SideCamera& camera) {
  RimTurn out;
  double steep2 = 0, seen = 0;
  for (const auto& p : bar.plate) {
    if (!p) continue;
    const PixelPoint at = p->place - camera.middle;
    out.sight_rad += std::atan(at.x / camera.focal_px);
    const double v = camera.pitch_rad + std::atan(at.y / camera.focal_px);
    steep2 += v * v;
    seen += 1;
  }
  if (seen == 0) return {};
  out.sight_rad /= seen;
  // Seen at h to the side of its axis and v above it a circle is narrowed along both: its flatness, taken across the
  // picture, is h² - v². The rim is fitted over the whole clip, so v is meant over the clip as well.
  const double whole = std::acos(std::clamp(bar.rim.aspect, 0.5, 1.0));
  const double across2 = -whole * whole * std::cos(2 * bar.rim.tilt_rad) + steep2 / seen;
  out.turn_rad = std::sqrt(std::max(0.0, across2));
  return out;
}

CameraTurn cameraTurn(const BarTrace& bar, const SideCamera& camera, const ViewLook& view) {
  CameraTurn out;
  const RimTurn rim = rimTurn(bar, camera);
  const double rim_deg = degrees(rim.turn_rad), bar_deg = std::abs(degrees(camera.yaw_rad + rim.sight_rad));
  const bool somebody = view.seen != Seen::Nobody;
  const bool clear = somebody && rim_deg > kClearRim_deg && view.turned_deg > kClearBody_deg;
  if (bar.vanishing) {
    const double apart = std::abs(bar_deg - rim_deg), yaw_deg = std::abs(degrees(camera.yaw_rad));
    // Near square-on the rim is blunt: what it reads there is its noise.
    const double blunt = rim_deg < kRimErrs_deg ? kRimErrs_deg : 0;
    const double sigma_deg = std::hypot(degrees(camera.yaw_sigma_rad), 3.0);
    const Others others = othersThanBar(rim_deg, view.turned_deg, bar_deg - yaw_deg);
    const bool outvoted =
        clear && std::abs(others.turn_deg - bar_deg) > kOutvoted_sigma * std::hypot(others.sigma_deg, sigma_deg);
    if (!outvoted && apart < kContradicts_deg + blunt + 1.64 * degrees(camera.yaw_sigma_rad)) {
      // Where both are clear and stand apart the truth is likely between them.
      const bool parted = rim_deg > kClearRim_deg && apart > kParted_deg;
      out.turned_deg = parted ? (yaw_deg + rim_deg) / 2 : yaw_deg;
      out.sigma_deg = parted ? std::hypot(sigma_deg, apart / 2) : sigma_deg;
      out.settled = true;
      return out;
    }
    out.bar_disputed = true;
  }
  out.turned_deg = somebody ? heldAgainstRim(view, bar.rim.aspect).turned_deg : rim_deg;
  out.sigma_deg = 12;
  if (clear && view.toward != 0) {
    // From the front the camera stands ahead of the lifter and looks back.
    const double sign = -camera.forward * view.toward;
    const Others others = othersThanBar(rim_deg, view.turned_deg, sign * degrees(rim.sight_rad));
    out.by_body = Turn{sign * radians(others.turn_deg) - rim.sight_rad, radians(others.sigma_deg)};
    out.turned_deg = std::abs(degrees(out.by_body->yaw_rad));
    out.sigma_deg = others.sigma_deg;
    out.settled = true;
  }
  return out;
}

}  // namespace jib::tracing
