// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cmath>

#include "core/tracing/body/body_edges.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/body/known_build.h"
#include "core/tracing/camera/knee_out.h"
#include "core/tracing/camera/side_camera.h"

// What the fit of body_fit.cpp is made of: the chain of limbs as a function of its unknowns, and the residuals that
// hold it to sightings, bar, placed frame and how bodies are. Each functor is one term of the least squares, in units
// of its own σ, differentiated by Ceres.
namespace jib::tracing::body_costs {

inline constexpr double kTurning = 9.0;  // rad²/s³: a limb's turning changes about 5 rad/s² for 0.15 s at a time
inline constexpr double kLyingTurning = 0.4;  // of who lies on a bench: only hips that come up move the limbs
inline constexpr double kFootTurning = 0.5;
inline constexpr double kStandingBend_rad = 0.05;  // of the knee when standing, give or take
inline constexpr double kPlacedLength_m = 0.007, kPlacedFoot_m = 0.004;
inline constexpr double kTipAbove_m = 0.008;     // what a coach calls a shoe's tip, above the line of its sole
inline constexpr double kBegunSigma_rad = 0.15;  // of a chain followed from a fitted frame
// Of the followed chain: lag and sliding cloth.
inline constexpr double kTrackedSigma_rad[kParts] = {0.02, 0.035, 0.055, 0.070};

enum Feet : std::size_t { kToeX, kToeZ, kAnkleFromToeX, kAnkleFromToeZ, kHeelFromToeX, kHeelFromToeZ, kFeet };
// kSplay is an angle, as SideCamera's.
enum Lengths : std::size_t {
  kShinLength,
  kThighLength,
  kTrunkLength,
  kBarAlong,
  kBarAhead,
  kStature,
  kSplay,
  kLengths
};

// What a pixel sees: at distance d square to the plane, the place (x, z) times d.
struct Ray {
  double x, z;
};

template <class T>
struct Point {
  T x, z;
};

template <class T>
Point<T> turnedForward(T x, T z, T angle) {
  using std::cos, std::sin;
  return {cos(angle) * x + sin(angle) * z, -sin(angle) * x + cos(angle) * z};
}

template <class T>
struct Chain {
  Point<T> toe, heel, ankle, knee, hip, shoulder, bar;
  T knee_lateral;
};

template <class T>
Chain<T> chainOf(const T* feet, const T* lengths, const T* q, const SideCamera& camera) {
  using std::cos, std::sin, std::tan;
  const auto up = [](const Point<T>& from, const T& length, const T& lean) {
    return Point<T>{from.x + length * sin(lean), from.z + length * cos(lean)};
  };
  Chain<T> c;
  c.toe = {feet[kToeX], feet[kToeZ]};
  const Point<T> ankle = turnedForward(feet[kAnkleFromToeX], feet[kAnkleFromToeZ], q[kFoot]);
  const Point<T> heel = turnedForward(feet[kHeelFromToeX], feet[kHeelFromToeZ], q[kFoot]);
  c.ankle = {c.toe.x + ankle.x, c.toe.z + ankle.z};
  c.heel = {c.toe.x + heel.x, c.toe.z + heel.z};
  c.knee_lateral = kneeOut(camera, lengths[kShinLength], lengths[kThighLength], q[kShin], q[kThigh], lengths[kSplay]);
  c.knee = up(c.ankle, flat(lengths[kShinLength], T(c.knee_lateral - camera.ankle_m)), q[kShin]);
  c.hip = up(c.knee, flat(lengths[kThighLength], T(c.knee_lateral - camera.hip_m)), q[kThigh]);
  c.shoulder = up(c.hip, lengths[kTrunkLength], q[kTrunk]);
  const Point<T> bar = turnedForward(lengths[kBarAhead], lengths[kBarAlong], q[kTrunk]);
  c.bar = {c.hip.x + bar.x, c.hip.z + bar.z};
  return c;
}

// A landmark as the network sees it: its own constant away, in the directions of the limb it sits on, and a part of it
// that stays as it is while the limb turns; of the hip, which sits on the pelvis, that turns with the trunk.
struct SightingCost {
  Landmark landmark;
  Ray ray;
  double scatter_m;
  const SideCamera* camera;

  template <class T>
  bool operator()(const T* feet, const T* lengths, const T* q, const T* constant, T* residual) const {
    const Chain<T> c = chainOf(feet, lengths, q, *camera);
    Point<T> place = c.shoulder;
    T limb = q[kTrunk], other = T(0), lateral = T(camera->lateralOf(landmark, 0));
    switch (landmark) {
      case Landmark::Toe:
        place = c.toe;
        limb = q[kFoot];
        break;
      case Landmark::Heel:
        place = c.heel;
        limb = q[kFoot];
        break;
      case Landmark::Ankle:
        place = c.ankle;
        limb = q[kShin];
        break;
      case Landmark::Knee:
        place = c.knee;
        limb = q[kShin];
        lateral = c.knee_lateral;
        break;
      case Landmark::Hip:
        place = c.hip;
        limb = q[kThigh];
        other = q[kTrunk];
        break;
      default:
        break;
    }
    const Point<T> off = turnedForward(constant[0], constant[1], limb);
    const Point<T> more = turnedForward(constant[2], constant[3], other);
    const T distance = camera->distance_m() - lateral;
    residual[0] = (place.x + off.x + more.x - ray.x * distance) / scatter_m;
    residual[1] = (place.z + off.z + more.z - ray.z * distance) / scatter_m;
    return true;
  }
};

// Where the outline ends behind the hip or before the knee.
struct EdgeCost {
  EdgeSeen seen;
  double folded;
  const SideCamera* camera;

  template <class T>
  bool operator()(const T* feet, const T* lengths, const T* q, const T* reach, T* residual) const {
    const EdgeKind& kind = kEdgeKinds[static_cast<std::size_t>(seen.edge)];
    const Chain<T> c = chainOf(feet, lengths, q, *camera);
    const Point<T>& joint = kind.joint == Landmark::Hip ? c.hip : c.knee;
    const T away = (seen.place.x - joint.x) * kind.way.x + (seen.place.z - joint.z) * kind.way.z;
    residual[0] = (away - seen.beyond_m - reach[0] - reach[1] * folded) / kEdgeScatter_m;
    return true;
  }
};
struct EdgeReachCost {
  EdgeKind kind;
  template <class T>
  bool operator()(const T* reach, T* residual) const {
    residual[0] = (reach[0] - kind.usual_m) / kind.spread_m;
    residual[1] = (reach[1] - kind.folded_m) / kind.fold_spread_m;
    return true;
  }
};

// The near shoe's ends as the outline shows them: a mask rounds the thin tip off, and what a coach calls the tip lies a
// little above the sole.
struct ShoeCost {
  ShoeSeen seen;
  template <class T>
  bool operator()(const T* feet, T* residual) const {
    constexpr double kRounded_m = 0.008;
    residual[0] = (feet[kToeX] - seen.toe.x - kRounded_m) / 0.010;
    residual[1] = (feet[kToeZ] - seen.toe.z - kTipAbove_m) / 0.013;
    residual[2] = (feet[kToeX] + feet[kHeelFromToeX] - seen.heel.x) / 0.010;
    residual[3] = (feet[kToeZ] + feet[kHeelFromToeZ] - seen.heel.z) / 0.007;
    return true;
  }
};

struct BarCost {
  MetrePoint bar;  // in the plate's plane, which is the bar's own line seen end on
  double sigma_m;
  const SideCamera* camera;

  template <class T>
  bool operator()(const T* feet, const T* lengths, const T* q, T* residual) const {
    const Chain<T> c = chainOf(feet, lengths, q, *camera);
    residual[0] = (c.bar.x - bar.x) / sigma_m;
    residual[1] = (c.bar.z - bar.z) / sigma_m;
    return true;
  }
};

inline constexpr double kRackedAhead_m = 0.065;  // of a bar on the front of the shoulders, before their joints
inline constexpr double kUsualAhead_m = -0.07;   // of a bar in hanging hands, from the shoulder, with the trunk level
// Of the stature, from the shoulder to the middle of a closed hand: upper arm, forearm and most of the way to the third
// knuckle (de Leva 1996: 0.162, 0.154, 0.050).
inline constexpr double kArm_share = 0.36;

// A bar in hanging hands: an arm's length from the shoulder, and about below it. kBarAlong is the arm's length as it
// shows in the plane, kBarAhead how far the bar would hang before the shoulder with the trunk level.
struct HangingBarCost {
  MetrePoint bar;  // in the plate's plane
  double sigma_m;
  const SideCamera* camera;

  template <class T>
  bool operator()(const T* feet, const T* lengths, const T* q, T* residual) const {
    using std::cos, std::sqrt;
    constexpr double kSwings_m = 0.10;
    const Chain<T> c = chainOf(feet, lengths, q, *camera);
    const T x = bar.x - c.shoulder.x, z = c.shoulder.z - bar.z;
    residual[0] = (sqrt(x * x + z * z + 1e-9) - lengths[kBarAlong]) / sigma_m;
    residual[1] = (x - lengths[kBarAhead] - kUprightAhead_m * cos(q[kTrunk])) * (0.010 / kSwings_m) / sigma_m;
    return true;
  }
};

// At lockout the bar rests against the thighs, where its own plates hide the hips: the thigh's axis passes a thigh's
// half thickness behind it.
struct BarOnThighsCost {
  MetrePoint bar;  // in the plate's plane
  double sigma_m;
  const SideCamera* camera;

  template <class T>
  bool operator()(const T* feet, const T* lengths, const T* q, T* residual) const {
    constexpr double kBehind_m = 0.085;  // half a thigh above its middle, and half the shaft
    const Chain<T> c = chainOf(feet, lengths, q, *camera);
    const T share = (bar.z - c.knee.z) / (c.hip.z - c.knee.z);
    residual[0] = (bar.x - (c.knee.x + share * (c.hip.x - c.knee.x)) - kBehind_m) / sigma_m;
    return true;
  }
};

// While the bar lies on the floor in their hands, lifters stay about as they are when it leaves: the plates hide feet
// and shins then, and the network guesses.
struct SetCost {
  double weight;
  template <class T>
  bool operator()(const T* q, const T* leaving, T* residual) const {
    constexpr double kShin_rad = 0.08, kThigh_rad = 0.12, kTrunk_rad = 0.12;
    residual[0] = (q[kShin] - leaving[kShin]) * (weight / kShin_rad);
    residual[1] = (q[kThigh] - leaving[kThigh]) * (weight / kThigh_rad);
    residual[2] = (q[kTrunk] - leaving[kTrunk]) * (weight / kTrunk_rad);
    return true;
  }
};

// The turning of every limb goes on as it was, but for a white acceleration.
struct SmoothCost {
  double before_s, after_s;
  double turning = kTurning;

  template <class T>
  bool operator()(const T* a, const T* b, const T* c, T* residual) const {
    const double mean_s = (before_s + after_s) / 2;
    for (std::size_t k = 0; k < kParts; ++k) {
      const double spread = std::sqrt((k == kFoot ? std::min(kFootTurning, turning) : turning) * mean_s);
      residual[k] = ((c[k] - b[k]) / after_s - (b[k] - a[k]) / before_s) / spread;
    }
    return true;
  }
};

// What the followed patches say; errors stay alike for about a third of a second.
struct TrackedCost {
  std::array<double, kParts> seen;
  double weight;

  template <class T>
  bool operator()(const T* q, T* residual) const {
    for (std::size_t k = 0; k < kParts; ++k) residual[k] = (q[k] - seen[k]) * (weight / kTrackedSigma_rad[k]);
    return true;
  }
};

// What patches followed from a frame nobody placed say: by how much the shin has turned, not where it began. Thigh and
// trunk lean on where hip and bar were thought to be on that frame and carry its error along.
struct TurnedCost {
  double turned_rad, weight;  // since the stretch began

  template <class T>
  bool operator()(const T* q, const T* begun, const T* lag, T* residual) const {
    residual[0] = (q[kShin] - begun[0] - (1.0 + lag[0]) * turned_rad) * (weight / kTrackedSigma_rad[kShin]);
    return true;
  }
};
struct BegunCost {
  double taken_rad;  // where it was followed from
  template <class T>
  bool operator()(const T* begun, T* residual) const {
    residual[0] = (begun[0] - taken_rad) / kBegunSigma_rad;
    return true;
  }
};
// Patches lag behind a turn by some per cent of it.
struct LagCost {
  template <class T>
  bool operator()(const T* lag, T* residual) const {
    residual[0] = (lag[0] - 0.07) / 0.05;
    return true;
  }
};

// Lengths and feet as the coach placed them.
struct PlacedCost {
  static constexpr int kResiduals = static_cast<int>(kFeet) + static_cast<int>(kStature);
  std::array<double, kFeet> feet;
  std::array<double, kLengths> lengths;

  template <class T>
  bool operator()(const T* f, const T* l, T* residual) const {
    for (std::size_t k = 0; k < kFeet; ++k) residual[k] = (f[k] - feet[k]) / kPlacedFoot_m;
    for (std::size_t k = 0; k < kStature; ++k)
      residual[static_cast<std::size_t>(kFeet) + k] = (l[k] - lengths[k]) / kPlacedLength_m;
    return true;
  }
};

struct FlatFootCost {
  double weight;
  template <class T>
  bool operator()(const T* q, T* residual) const {
    residual[0] = q[kFoot] * weight;
    return true;
  }
};

// Lifters stand with the knees about locked before they go down and after they come up: the rules ask for it.
struct StandingCost {
  double sigma_rad;
  template <class T>
  bool operator()(const T* q, T* residual) const {
    residual[0] = (q[kShin] - q[kThigh] - kStandingBend_rad) / sigma_rad;
    return true;
  }
};

// Knees and hips bend one way only. Without it a hip that the network puts before the knee, deep behind the plate,
// would fold the thigh forward, and everything else would find its peace with that.
struct BendCost {
  static constexpr double kOverstretched_rad = 0.10, kLeaningBack_rad = 0.10, kGives_rad = 0.03;
  static constexpr double kArched_rad = 0.7;     // hips of who lies with the feet drawn back
  static constexpr double kMakesRoom_rad = 0.5;  // of who leans back so that the bar clears the head
  double back_rad = kLeaningBack_rad;
  template <class T>
  bool operator()(const T* q, T* residual) const {
    const T knee = q[kThigh] - q[kShin] - kOverstretched_rad;  // how far past straight
    const T hip = q[kThigh] - q[kTrunk] - back_rad;
    residual[0] = knee > T(0) ? knee / kGives_rad : T(0);
    residual[1] = hip > T(0) ? hip / kGives_rad : T(0);
    return true;
  }
};

// How bodies are proportioned.
struct ProportionCost {
  static constexpr int kResiduals = 11;
  double toe_out_rad, splay_rad, splay_sigma_rad;
  const KnownBuild* known;    // of this lifter, from an earlier clip; null: as people are
  bool hangs = false;         // the bar, from straight arms
  bool racked_ahead = false;  // it lies on the front of the shoulders

  template <class T>
  bool operator()(const T* feet, const T* lengths, T* residual) const {
    const T& h = lengths[kStature];
    const double toe_out_cos = std::cos(toe_out_rad);
    residual[0] = (h - 1.70) / 0.12;
    residual[1] = (lengths[kShinLength] - 0.246 * h) / 0.014;
    residual[2] = (lengths[kThighLength] - 0.245 * h) / 0.016;
    residual[3] = (lengths[kTrunkLength] - 0.288 * h) / 0.020;
    if (known) {
      residual[1] = (lengths[kShinLength] - known->shin_m) / kKnownLength_m;
      residual[2] = (lengths[kThighLength] - known->thigh_m) / kKnownLength_m;
      residual[3] = (lengths[kTrunkLength] - known->trunk_m) / kKnownLength_m;
    }
    // A bar on the back lies a hand's breadth below the shoulder joint's height and behind it, high or low.
    residual[4] = (lengths[kBarAlong] - lengths[kTrunkLength] + 0.01) / 0.045;
    residual[5] = (lengths[kBarAhead] + 0.075) / 0.025;
    if (racked_ahead) {  // at about the joint's height, as far before it as a shoulder is thick
      residual[4] = (lengths[kBarAlong] - lengths[kTrunkLength] - 0.02) / 0.035;
      residual[5] = (lengths[kBarAhead] - kRackedAhead_m) / 0.025;
    }
    if (hangs) {
      residual[4] = (lengths[kBarAlong] - kArm_share * h) / 0.03;
      residual[5] = (lengths[kBarAhead] - kUsualAhead_m) / 0.05;  // shoulders stand ahead of the bar, if anything
    }
    // The shoe: somewhat longer than the foot, with a sole.
    residual[6] = (-feet[kHeelFromToeX] - (0.152 * h + 0.02) * toe_out_cos) / 0.015;
    residual[7] = (feet[kHeelFromToeZ] + kTipAbove_m) / 0.010;
    residual[8] = (feet[kAnkleFromToeX] - feet[kHeelFromToeX] - 0.065 * toe_out_cos) / 0.015;
    // Of soles from a slipper's to a heeled shoe's.
    residual[9] = (feet[kAnkleFromToeZ] - feet[kHeelFromToeZ] - (0.039 * h + 0.015)) / 0.012;
    residual[10] = (lengths[kSplay] - splay_rad) / splay_sigma_rad;
    return true;
  }
};

struct ConstantCost {
  KnownBuild::Off usual, usual_stays;
  double sigma_m;
  double stays_sigma_m;
  template <class T>
  bool operator()(const T* constant, T* residual) const {
    residual[0] = (constant[0] - usual.across_m) / sigma_m;
    residual[1] = (constant[1] - usual.along_m) / sigma_m;
    residual[2] = (constant[2] - usual_stays.across_m) / stays_sigma_m;
    residual[3] = (constant[3] - usual_stays.along_m) / stays_sigma_m;
    return true;
  }
};

}  // namespace jib::tracing::body_costs
