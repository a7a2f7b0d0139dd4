// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cmath>
#include <vector>

#include "core/base/task.h"
#include "core/tracing/body/body_costs.h"
#include "core/tracing/body/body_fit.h"

// What the fit of body_fit.cpp works on, and one go of its least squares.
namespace jib::tracing::fitting {

using namespace body_costs;

// What the network's landmarks scatter by from frame to frame, how far their constant may lie from the joint, and what
// of it does not turn with the limb. The trunk has nothing but bar and shoulder to be told by: a constant of the
// shoulder that did not turn with it would leave its lean open. Neighbouring sightings err alike, so the scatter counts
// half as wide again.
struct Seen {
  Landmark landmark;
  PoseMark mark;
  double scatter_m, constant_m, stays_m;
};
inline constexpr std::array<Seen, 6> kSeen{{{Landmark::Toe, PoseMark::Toe, 0.022, 0.030, 0.015},
                                            {Landmark::Heel, PoseMark::Heel, 0.022, 0.025, 0.012},
                                            {Landmark::Ankle, PoseMark::Ankle, 0.022, 0.025, 0.012},
                                            {Landmark::Knee, PoseMark::Knee, 0.020, 0.020, 0.010},
                                            {Landmark::Hip, PoseMark::Hip, 0.035, 0.030, 0.015},
                                            {Landmark::Shoulder, PoseMark::Shoulder, 0.080, 0.060, 0.004}}};
inline constexpr double kTrusted = 0.5;  // confidence from which a landmark was seen and not guessed
// Below it a joint of the leg or trunk is a hint, that keeps the chain from wandering off where nothing else is seen.
inline constexpr double kHint = 0.3;
inline constexpr double kRobust = 1.5;         // scatters beyond which a sighting pulls less and less
inline constexpr double kFootTurn_rad = 0.10;  // feet lie flat unless the picture says otherwise
inline constexpr double kStandingFootTurn_rad =
    0.015;  // heels come up on the way, not while somebody stands with the bar
inline constexpr double kStandingSigma_rad = 0.06;
inline constexpr double kBarAtTop_m = 0.015;  // the bar this near to its highest
inline constexpr double kBarTie_m = 0.010;  // spine and soft tissue between hip and bar, for a third of a second alike
inline constexpr double kBarTime_s = 0.3;
inline constexpr double kTrackedRobust = 1.0;  // a chain that slid off must not hold the sightings back
inline constexpr double kTurnedRobust = 3.0;
inline constexpr double kAlike_m = 0.03;     // followed chain and sightings are usually apart by less
inline constexpr double kContradicts = 0.4;  // of what followed chain and sightings are apart
inline constexpr double kPlacedWeight = 8;   // of the placed frame, over one that was followed
inline constexpr std::size_t kFewest = 8;    // sightings of knee and hip

inline constexpr double kBehind = 0.95,
                        kClear = 1.5;  // of the rim's radius: what is behind the plate, and what is clear of it

inline double awayFromPlate(const BarTrace& bar, std::size_t frame, PixelPoint place) {
  return bar.plate[frame] ? length(place - bar.plate[frame]->place) / bar.rim.radius_px : 1e9;
}

inline bool guessed(const BarTrace& bar, std::size_t frame, PixelPoint place) {
  return awayFromPlate(bar, frame, place) < (kBehind + kClear) / 2;
}

inline double leanOf(MetrePoint lower, MetrePoint upper) {
  return std::atan2(upper.x - lower.x, upper.z - lower.z);
}

inline std::array<double, kParts> anglesOf(const BodyPose& q) {
  return {q.foot_rad, q.shin_rad, q.thigh_rad, q.trunk_rad};
}

struct Fit {
  std::array<double, kFeet> feet{};
  std::array<double, kLengths> lengths{};
  std::array<std::array<double, 4>, kSeen.size()> constants{};
  std::vector<std::array<double, kParts>> postures;
  double lag = 0;                                       // of followed shins, as a share of their turn
  std::vector<double> begun;                            // the shin where each followed stretch begins
  std::array<std::array<double, 2>, kEdges> reaches{};  // from joint to edge standing, and what is added when folded
};

struct EdgeAt {
  std::size_t frame;
  double folded;
  EdgeSeen seen;
};

// How the evidence is taken in one go of the fit.
struct Taken {
  BodySide side = BodySide::Left;
  bool feet = false;
  bool follow = false;               // followed chains count, not only the placed frame
  std::vector<double> apart_m = {};  // of the chain followed from a placed frame and the sightings, a frame
  std::vector<EdgeAt> edges = {};    // as seen from where the joints were last thought to be
  std::optional<ShoeSeen> shoe = {};
};

// From `fit` to the best one near it; false when the solver fails or is told to stop.
bool solve(Fit& fit, const BodyEvidence& given, const SideCamera& camera, const Taken& taken, const Task* task);

}  // namespace jib::tracing::fitting
