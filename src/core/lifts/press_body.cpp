// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/press_body.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/lifts/foot.h"

namespace jib::lifts::press {
using tracing::Landmark;

namespace {

constexpr const char* kElbowHidden =
    "Can't make out the elbow at the touch: check it by eye, or drag the elbow to its place on that frame.";
constexpr const char* kTurnUnknown =
    "The camera angle isn't clear enough to line the elbow up with the bar. Film from straight side-on.";

// The place of a landmark about a moment: the middle of what is seen of it for a tenth of a second before and after.
std::optional<MetrePoint> about(const RepLook& k, Landmark landmark, double t) {
  constexpr double kAbout_s = 0.1;
  std::vector<double> x, z;
  const double reach = kAbout_s * k.m.slow_factor;
  for (std::size_t i = k.m.frameAt(t - reach); i <= k.m.frameAt(t + reach); ++i)
    if (const auto& p = k.m.path(landmark).at[i]) {
      x.push_back(p->x);
      z.push_back(p->z);
    }
  if (x.empty()) return std::nullopt;
  return MetrePoint{median(x), median(z)};
}

// By how much, a metre nearer to the camera, something is shifted along the lifter that was not put down to the
// camera's turn. What is usual of a camera at the side is in the places' own σ.
double turnShift(const RepLook& k) {
  constexpr double kUsual_rad = 0.05, kLeast_rad = 0.02;
  const double unsure = k.m.calibration.yaw_sigma_rad;
  return std::max(kLeast_rad, std::sqrt(std::max(0.0, unsure * unsure - kUsual_rad * kUsual_rad)));
}

// How far the elbow stands from the plane of the plate, along the bar.
constexpr double kElbowToPlate_m = 0.38;

// Elbow against bar: they stand at different distances from the camera. A bent elbow between arm, plate and pad is the
// joint the network knows least: on ten films its error was a third larger than it said.
double elbowToBarSigma_m(const RepLook& k, double t) {
  constexpr double kBetween = 1.35;
  return std::hypot(kBetween * k.sigma(Landmark::Elbow, t), kElbowToPlate_m * turnShift(k));
}

// Limits lie at a hand's breadth and at twenty degrees: an elbow less well known than this decides nothing, whatever it
// is, and is the coach's to look at.
constexpr double kElbowTells_m = 0.07, kTuckTells_deg = 18;

std::optional<const char*> elbowTellsNothing(const RepLook& k, double t) {
  if (kElbowToPlate_m * turnShift(k) > kElbowTells_m) return kTurnUnknown;
  if (elbowToBarSigma_m(k, t) > kElbowTells_m) return kElbowHidden;
  return std::nullopt;
}

// The angle of the upper arm from the trunk, seen from above: 0 along the body, 90 straight out. The upper arm's own
// length comes from the trunk's. Source  segment shares: de Leva 1996, table 4
struct Tuck {
  double deg, sigma_deg;
};
std::optional<Tuck> tuckAt(const RepLook& k, double t) {
  constexpr double kOfTrunk = 0.575, kLeast_deg = 15;
  const auto elbow = about(k, Landmark::Elbow, t), shoulder = about(k, Landmark::Shoulder, t),
             hip = about(k, Landmark::Hip, t);
  if (!elbow || !shoulder || !hip) return std::nullopt;
  const MetrePoint trunk = *hip - *shoulder;
  const double arm_m = kOfTrunk * length(trunk);
  if (arm_m < 0.15) return std::nullopt;
  const MetrePoint arm = *elbow - *shoulder;
  const double along_m = (arm.x * trunk.x + arm.z * trunk.z) / length(trunk);
  const double along = std::clamp(along_m / arm_m, -0.98, 0.98);
  const double deg = degrees(std::acos(along));
  // What is steep there counts less: an arm that nearly lies along the trunk turns far for little.
  const double across = std::max(std::sin(radians(deg)), std::sin(radians(kLeast_deg)));
  return Tuck{deg, degrees(k.sigma(Landmark::Elbow, t) / (arm_m * across))};
}

}  // namespace

Measure elbowAheadAtTouch(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const auto elbow = about(k, Landmark::Elbow, t), bar = k.place(Landmark::Bar, t);
  if (!elbow || !bar) return Absent{kElbowHidden};
  if (const auto why = elbowTellsNothing(k, t)) return Absent{*why};
  return Measured{elbow->x - bar->x, elbowToBarSigma_m(k, t), t};
}

// The forearm against the vertical: the same thing as the coach draws it.
Measure elbowAngleAtTouch(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const auto elbow = about(k, Landmark::Elbow, t), bar = k.place(Landmark::Bar, t);
  if (!elbow || !bar || bar->z - elbow->z < 0.1) return Absent{kElbowHidden};
  if (const auto why = elbowTellsNothing(k, t)) return Absent{*why};
  return Measured{degrees(std::atan2(elbow->x - bar->x, bar->z - elbow->z)),
                  degrees(elbowToBarSigma_m(k, t) / (bar->z - elbow->z)), t};
}

Measure flareTravel(const RepLook& k) {
  constexpr double kUp = 0.3;
  const double touch_t = k.rep.ascent_t(), up_t = k.riseTime(kUp);
  const auto touch = tuckAt(k, touch_t), up = tuckAt(k, up_t);
  if (!touch || !up) return Absent{kElbowHidden};
  const double sigma_deg = std::hypot(touch->sigma_deg, up->sigma_deg);
  if (sigma_deg > kTuckTells_deg) return Absent{kElbowHidden};
  return Measured{up->deg - touch->deg, sigma_deg, up_t};
}

Measure touchFromShoulder(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const auto bar = k.place(Landmark::Bar, t), shoulder = about(k, Landmark::Shoulder, t);
  if (!bar || !shoulder) return Absent{kHidden};
  constexpr double kApart_m = 0.5;
  return Measured{bar->x - shoulder->x, std::hypot(k.sigma(Landmark::Shoulder, t), kApart_m * turnShift(k)), t};
}

// Against the moment the descent starts, until the bar is locked out: the middle of three looks, so that one wrong
// match is no lift. Where the hip's own picture was not watched, by the hip that was fitted.
namespace {

// By how much the knees seem to rise or sink in a rep. Feet stay on the floor in a press and shins hardly turn, so more
// than a little of it is the hand that holds the camera in a room too dark to see it by: hips and heels then moved with
// it.
double kneesDrift_m(const RepLook& k) {
  constexpr double kKnees_m = 0.035;
  double least = 1e9, most = -1e9;
  for (std::size_t i = k.first(); i <= k.last(); ++i)
    if (const auto& knee = k.m.path(Landmark::Knee).at[i]) {
      least = std::min(least, knee->z);
      most = std::max(most, knee->z);
    }
  return most - least > kKnees_m ? most - least : 0;
}

}  // namespace

Measure heelLift(const RepLook& k) {
  Measure lift = foot::heelLift(k);
  if (auto* measured = std::get_if<Measured>(&lift)) measured->sigma = std::hypot(measured->sigma, kneesDrift_m(k));
  return lift;
}

Measure hipLift(const RepLook& k) {
  const auto& seat = k.m.seat_rise_m;
  const auto height = [&](std::size_t i) -> std::optional<double> {
    if (!seat.empty()) return seat[i];
    const auto& hip = k.m.path(Landmark::Hip).at[i];
    return hip ? std::optional(hip->z) : std::nullopt;
  };
  constexpr std::size_t kFew = 5;
  std::vector<double> lay;
  const std::size_t first = k.first();
  for (std::size_t i = first >= kFew ? first - kFew : 0; i <= first + kFew && i < k.m.times_s.size(); ++i)
    if (const auto h = height(i)) lay.push_back(*h);
  if (lay.empty()) return Absent{kHidden};
  const double rest = median(lay);
  Measured most{0, 0, k.rep.ascent_t()};
  double seen = 0;
  for (std::size_t i = first + 1; i < k.last(); ++i) {
    const auto a = height(i - 1), b = height(i), c = height(i + 1);
    if (!a || !b || !c) continue;
    seen += 1;
    const double rise = median({*a, *b, *c}) - rest;
    if (rise > most.value) most = {rise, 0, k.m.times_s[i]};
  }
  if (seen < 0.6 * static_cast<double>(k.last() - first)) return Absent{kHidden};
  // Cloth slides over the hip by a share of what it does; at an angle bar, arms and bench pass before it.
  constexpr double kFound_m = 0.004, kSlides = 0.2, kTurned_m = 0.07;
  // Where no patch of the cloth was followed the fit tells, to a few pixels.
  constexpr double kFit_px = 2.5;
  const double followed = seat.empty() ? std::hypot(1.4 * k.wander(Landmark::Hip, most.t_s),
                                                    kFit_px / std::max(1.0, k.m.calibration.pixels_per_metre))
                                       : kFound_m;
  most.sigma = std::hypot(std::hypot(followed, foot::slides_m(k), kneesDrift_m(k)), kSlides * most.value,
                          kTurned_m * k.turnedAway());
  return most;
}

// From before the bar leaves the hooks to the start of the first descent.
Measure shoulderRiseAtUnrack(const RepLook& k) {
  constexpr double kBefore_s = 4.0;
  const double start_t = k.rep.start_t();
  std::vector<double> before, after;
  const std::size_t start = k.first();
  // The hooks are nearer to the head than where the rep starts.
  const auto out = k.place(Landmark::Bar, start_t);
  if (!out) return Absent{kHidden};
  constexpr double kOut_m = 0.08;
  for (std::size_t i = k.m.frameAt(start_t - kBefore_s * k.m.slow_factor); i <= start; ++i) {
    const auto &bar = k.m.path(Landmark::Bar).at[i], &shoulder = k.m.path(Landmark::Shoulder).at[i];
    if (!bar || !shoulder) continue;
    if (bar->x - out->x > kOut_m) continue;  // at the chest, of a rep before
    (out->x - bar->x > kOut_m ? before : after).push_back(shoulder->z);
  }
  constexpr std::size_t kFewest = 6;
  if (before.size() < kFewest || after.size() < kFewest)
    return Absent{"The bar leaves the hooks before another rep, or outside the clip."};
  return Measured{median(after) - median(before), std::hypot(1.4 * k.wander(Landmark::Shoulder, start_t), 0.005),
                  start_t};
}

Measure kneeBelowHip(const RepLook& k) {
  const double t = k.rep.start_t();
  const auto knee = k.place(Landmark::Knee, t), hip = k.place(Landmark::Hip, t);
  if (!knee || !hip) return Absent{kHidden};
  return Measured{hip->z - knee->z,
                  std::hypot(k.sigma(Landmark::Knee, t), k.sigma(Landmark::Hip, t),
                             (knee->x - hip->x) * k.m.calibration.roll_sigma_rad),
                  t};
}

Measure chestDrop(const SetLook& k) {
  // Looks from a moment before the first descent, and from a moment after the last lockout. Breath lifts a rib cage by
  // a centimetre, and lifters hold it.
  constexpr double kLooks_s = 1.2, kBreath_m = 0.005;
  constexpr std::size_t kFewest = 2;
  if (k.reps.size() < 2) return Absent{"One rep shows no change."};
  std::vector<double> before, after;
  const double first_t = k.reps.front().start_t(), last_t = k.reps.back().lockout_t();
  for (const motion::ChestAt& c : k.m.chest) {
    if (std::abs(c.t_s - first_t) < kLooks_s * k.m.slow_factor && c.t_s < first_t + 0.2 * k.m.slow_factor)
      before.push_back(c.z_m);
    if (c.t_s > last_t - 0.2 * k.m.slow_factor && c.t_s < last_t + kLooks_s * k.m.slow_factor) after.push_back(c.z_m);
  }
  if (before.size() < kFewest || after.size() < kFewest) return Absent{kHidden};
  const auto spread = [](std::vector<double> v, double middle) {
    for (double& x : v) x = std::abs(x - middle);
    return 1.5 * median(std::move(v));
  };
  const double was = median(before), is = median(after);
  return Measured{was - is,
                  std::hypot(kBreath_m, spread(before, was) / std::sqrt(static_cast<double>(before.size())),
                             spread(after, is) / std::sqrt(static_cast<double>(after.size()))),
                  last_t};
}

}  // namespace jib::lifts::press
