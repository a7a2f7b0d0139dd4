// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/press_front.h"

#include <algorithm>
#include <cmath>

#include "core/lifts/bar_path.h"
#include "core/lifts/bar_timing.h"
#include "core/lifts/front_body.h"
#include "core/lifts/front_look.h"

namespace jib::lifts::press {
namespace {

using tracing::BodySide;
using tracing::Landmark;
using D = Drawing;

// How long an upper arm looks; it looks its full length where it points neither at the camera nor away from it.
std::optional<double> upperArm(const RepLook& k, BodySide side, std::size_t i) {
  const auto &elbow = front::path(k, side, Landmark::Elbow).at[i],
             &shoulder = front::path(k, side, Landmark::Shoulder).at[i];
  return elbow && shoulder ? std::optional(length(*elbow - *shoulder)) : std::nullopt;
}

// How far x strays from a straight line over z: 1 σ of what is left of it.
double strayFromLine(const std::vector<MetrePoint>& points) {
  double n = 0, x = 0, z = 0, zz = 0, xz = 0;
  for (const MetrePoint& p : points) {
    n += 1;
    x += p.x;
    z += p.z;
    zz += p.z * p.z;
    xz += p.x * p.z;
  }
  const double spread = n * zz - z * z;
  const double slope = std::abs(spread) > 1e-9 ? (n * xz - x * z) / spread : 0, level = (x - slope * z) / n;
  double sum = 0;
  for (const MetrePoint& p : points) sum += std::pow(p.x - level - slope * p.z, 2);
  return std::sqrt(sum / n);
}

double flareOf(double seen_m, double arm_m) {
  return degrees(std::asin(std::clamp(seen_m / arm_m, 0.0, 1.0)));
}

// By how much the ends of the bar may be off, where they are less sure than they usually are; else 0.
double endsUnsure_m(const RepLook& k, std::size_t i) {
  constexpr double kWell_m = 0.02;  // as they are where they are made out as they should be
  const auto ends = front::bothAt(k, Landmark::Bar, i);
  return ends && ends->sigma_m > kWell_m ? ends->sigma_m : 0;
}

// A bar comes down the last of its way slowly, so a height that is off is time: when it comes to rest and when it
// leaves.
Measure pauseAcross(const RepLook& k) {
  constexpr double kCreep_mps = 0.13;
  Measure pause = bar::pause(k);
  if (auto* m = std::get_if<Measured>(&pause))
    m->sigma = std::hypot(m->sigma, endsUnsure_m(k, k.m.frameAt(k.rep.bottom_t())) / kCreep_mps);
  return pause;
}

}  // namespace

Measure gripOffset(const RepLook& k) {
  const auto off = front::standing(k, [&](std::size_t i) -> std::optional<double> {
    const auto hands = front::bothAt(k, Landmark::Wrist, i), ends = front::bothAt(k, Landmark::Bar, i);
    if (!hands || !ends) return std::nullopt;
    return (hands->left.x + hands->right.x - ends->left.x - ends->right.x) / 2;
  });
  if (!off) return Absent{kHidden};
  constexpr double kHands_m = 0.008;  // what the network errs by is much the same on both sides
  // And an end that is cut short on one side shifts the middle.
  return Measured{*off, std::hypot(kHands_m, endsUnsure_m(k, k.first())), k.rep.start_t()};
}

Measure barSway(const RepLook& k) {
  std::vector<MetrePoint> lengths;  // by height
  std::size_t least = k.first(), most = k.first();
  double low = 1e9, high = -1e9;
  for (std::size_t i = k.first(); i <= k.last(); ++i) {
    const auto ends = front::bothAt(k, Landmark::Bar, i);
    if (!ends) continue;
    const double x = (ends->left.x + ends->right.x) / 2;
    lengths.push_back({ends->left.x - ends->right.x, (ends->left.z + ends->right.z) / 2});
    if (x < low) {
      low = x;
      least = i;
    }
    if (x > high) {
      high = x;
      most = i;
    }
  }
  if (lengths.empty() ||
      static_cast<double>(lengths.size()) < front::kFewest_share * static_cast<double>(k.last() - k.first()))
    return Absent{kHidden};
  // A bar that comes nearer beside the picture's middle seems to go outwards, and where a sleeve ends is told worst: an
  // end that slid along it makes the bar longer or shorter than its height explains.
  constexpr double kNearer_m = 0.02;
  const double t = k.m.times_s[std::max(least, most)];
  return Measured{high - low,
                  std::hypot(1.4 * front::path(k, BodySide::Left, Landmark::Bar).wander_m[least], kNearer_m,
                             2 * strayFromLine(lengths)),
                  t};
}

// The upper arm's own length is what it looks at lockout, where it stands square to the view; at the touch it points
// towards the feet by what is missing. Beyond some 75 degrees a look along the bench hardly tells.
Measure elbowTuckDifference(const RepLook& k) {
  std::vector<double> straight;
  const std::size_t up = k.m.frameAt(k.rep.lockout_t()), before = k.first(), touch = k.m.frameAt(k.rep.bottom_t());
  for (const BodySide side : {BodySide::Left, BodySide::Right})
    for (const std::size_t i : {before, up})
      if (const auto arm = upperArm(k, side, i)) straight.push_back(*arm);
  const auto left = upperArm(k, BodySide::Left, touch), right = upperArm(k, BodySide::Right, touch);
  if (straight.size() < 2 || !left || !right) return Absent{kHidden};
  const double arm_m = std::max({median(straight), *left, *right});
  constexpr double kLeast_m = 0.15, kErrs_m = 0.012;
  if (arm_m < kLeast_m) return Absent{kHidden};
  const auto sigmaOf = [&](double seen_m) {
    return (flareOf(seen_m + kErrs_m, arm_m) - flareOf(seen_m - kErrs_m, arm_m)) / 2;
  };
  return Measured{flareOf(*left, arm_m) - flareOf(*right, arm_m), std::hypot(sigmaOf(*left), sigmaOf(*right)),
                  k.rep.bottom_t()};
}

std::span<const RepMeasure> benchEndMeasures() {
  static constexpr RepMeasure kMeasures[]{
      {{"bar_tilt_max_deg", "Bar tilt, left up +", "deg", "Bar", D::Sides}, Needs::Bar, front::barTilt, "bar_level"},
      {{"bar_sway_m", "Bar sideways travel", "m", "Bar", D::Sides}, Needs::Bar, barSway, "bar_level"},
      {{"grip_offset_m", "Hands off the middle, left +", "m", "Set-up", D::Sides}, Needs::Bar, gripOffset, "bar_level"},
      {{"hand_gap_ratio", "Grip / shoulders", "ratio", "Set-up", D::Sides}, Needs::Bar, front::handGap, "bar_level"},
      {{"elbow_tuck_difference_deg", "Elbow flare, left − right", "deg", "Touch", D::Sides},
       Needs::Bar,
       elbowTuckDifference,
       "bar_level"},
      {{"elbow_height_difference_m", "Elbows, left up +", "m", "Touch", D::Sides},
       Needs::Bar,
       front::elbowHeightDifference,
       "bar_level"},
      {{"shoulder_height_difference_m", "Shoulders, left up +", "m", "Touch", D::Sides},
       Needs::Bar,
       front::shoulderHeightDifference,
       "bar_level"},
      {{"descent_s", "Descent", "s", "Timing", D::None}, Needs::Bar, bar::descent, "pause"},
      {{"touch_pause_s", "Pause on the chest", "s", "Timing", D::None}, Needs::Bar, pauseAcross, "pause"},
      {{"ascent_s", "Press", "s", "Timing", D::None}, Needs::Bar, bar::ascent, "pause"},
      {{"bar_mean_ascent_mps", "Mean concentric velocity", "m/s", "Timing", D::None},
       Needs::Bar,
       bar::meanAscent,
       "sameness"},
      {{"stroke_m", "Range of motion", "m", "Timing", D::None}, Needs::Bar, bar::stroke, "sameness"},
  };
  return kMeasures;
}

}  // namespace jib::lifts::press
