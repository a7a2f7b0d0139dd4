// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/pin_correction.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kPostureWidth_rad = 0.45;  // postures further apart than this say little about each other
constexpr double kDriftTime_s = 2.5;
constexpr double kWithoutFeet = 2.0;
constexpr double kOnTheBench = 1.6;

PixelPoint pointOf(const BodyPoints& p, Landmark landmark) {
  switch (landmark) {
    case Landmark::Toe:
      return p.toe;
    case Landmark::Heel:
      return p.heel;
    case Landmark::Ankle:
      return p.ankle;
    case Landmark::Knee:
      return p.knee;
    case Landmark::Hip:
      return p.hip;
    default:
      return p.shoulder;
  }
}

struct Place {
  double t_s;
  BodyPose pose;
};

// The direction of the limb a landmark sits on, as the sightings' constants were fitted (body_fit.cpp).
double limbOf(const BodyPose& q, Landmark landmark) {
  switch (landmark) {
    case Landmark::Toe:
    case Landmark::Heel:
      return q.foot_rad;
    case Landmark::Ankle:
    case Landmark::Knee:
      return q.shin_rad;
    case Landmark::Hip:
      return q.thigh_rad;
    default:
      return q.trunk_rad;
  }
}

// Covariance of the corrections at two moments, px x px in metres squared.
Eigen::Matrix2d covariance(const Wander& w, Landmark landmark, double forward, const Place& a, const Place& b) {
  const double shin = std::remainder(a.pose.shin_rad - b.pose.shin_rad, 2 * kPi);
  const double thigh = std::remainder(a.pose.thigh_rad - b.pose.thigh_rad, 2 * kPi);
  const double trunk = std::remainder(a.pose.trunk_rad - b.pose.trunk_rad, 2 * kPi);
  const double apart = (shin * shin + thigh * thigh + trunk * trunk) / (kPostureWidth_rad * kPostureWidth_rad);
  const double alike = w.posture_m * w.posture_m * std::exp(-0.5 * apart) +
                       w.drift_m * w.drift_m * std::exp(-std::abs(a.t_s - b.t_s) / kDriftTime_s);
  const double turn = forward * (limbOf(a.pose, landmark) - limbOf(b.pose, landmark));
  const double c = w.constant_m * w.constant_m;
  Eigen::Matrix2d m;
  m << alike + c * std::cos(turn), -c * std::sin(turn), c * std::sin(turn), alike + c * std::cos(turn);
  return m;
}

struct Pin {
  std::size_t frame;
  Place place;
  PixelPoint where;
  PixelPoint correction;
};

}  // namespace

Wander wanderOf(Landmark landmark, const BodyTrack& track) {
  const bool network = track.source == BodySource::Network;
  Wander w{};
  switch (landmark) {
    case Landmark::Toe:
    case Landmark::Heel:
      w = network ? Wander{track.shoe_outlined ? 0.013 : 0.025, 0.006, 0.004, 0.004} : Wander{0, 0.003, 0.002, 0.004};
      break;
    case Landmark::Ankle:
      w = network ? Wander{track.shoe_outlined ? 0.020 : 0.025, 0.006, 0.004, 0.005} : Wander{0, 0.004, 0.003, 0.005};
      break;
    case Landmark::Knee:
      w = network ? Wander{0.015, 0.010, 0.005, 0.007} : Wander{0, 0.007, 0.004, 0.007};
      break;
    case Landmark::Hip:
      w = network ? Wander{0.022, 0.016, 0.006, 0.010} : Wander{0, 0.011, 0.005, 0.010};
      if (network && track.hip_outlined) w = {0.018, 0.012, 0.006, 0.010};
      break;
    default:
      w = network ? Wander{0.035, 0.020, 0.006, 0.010} : Wander{0, 0.014, 0.005, 0.010};
      // On 18 pulls of two rooms 90 % of its errors were below 1.8 to 5.4 cm, and none beyond 1.64 σ of the above.
      if (network && track.bar_hangs) w = {0.024, 0.014, 0.006, 0.010};
  }
  if (track.began_with_build) w.constant_m = std::min(w.constant_m, kKnownSightOff_m);
  // White socks and shoes under a bench are read too high.
  if (network && !track.lying.empty() &&
      (landmark == Landmark::Toe || landmark == Landmark::Heel || landmark == Landmark::Ankle))
    w.constant_m *= kOnTheBench;
  if (!track.feet_seen) {
    // Nothing holds the chain from below, and what cuts the feet off disturbs the network further up.
    w.constant_m *= kWithoutFeet;
    w.posture_m *= kWithoutFeet;
  }
  return w;
}

void applyPins(Trace& trace, const BodyTrack& track, const SideCamera& camera, const std::vector<PlacedFrame>& placed) {
  const double px = camera.pixelsPerMetre(camera.ankle_m);
  // A fitted chain stands in a steadied picture; one followed from a placed frame sways with the camera already.
  const auto seen = [&](std::size_t frame, PixelPoint place) {
    return track.source == BodySource::Network ? trace.moveAt(frame).moved(place) : place;
  };
  for (Landmark landmark : kPlacedLandmarks) {
    const bool of_foot = landmark == Landmark::Toe || landmark == Landmark::Heel || landmark == Landmark::Ankle;
    const Wander wander = wanderOf(landmark, track);
    std::vector<Pin> pins;
    for (const PlacedFrame& p : placed) {
      const auto where = p.points[at(landmark)];
      if (!where) continue;
      const std::size_t i = nearestFrame(trace, p.t_s);
      trace.frames[i][at(landmark)] = TracedPoint{*where, wander.placing_m * px, Origin::Pinned};
      if (!track.poses[i]) continue;
      const PixelPoint tracked = seen(i, pointOf(pointsOf(track.skeleton, *track.poses[i], track.camera), landmark));
      pins.push_back({i, {trace.times_s[i], *track.poses[i]}, *where, *where - tracked});
    }
    if (of_foot && !track.feet_seen && pins.empty()) continue;
    const auto n = static_cast<Eigen::Index>(pins.size());
    const auto between = [&](const Place& a, const Place& b) {
      return covariance(wander, landmark, track.camera.forward, a, b);
    };
    Eigen::MatrixXd known(2 * n, 2 * n);
    Eigen::VectorXd corrections(2 * n);
    for (Eigen::Index a = 0; a < n; ++a) {
      const Pin& pin = pins[static_cast<std::size_t>(a)];
      for (Eigen::Index b = 0; b < n; ++b)
        known.block<2, 2>(2 * a, 2 * b) = between(pin.place, pins[static_cast<std::size_t>(b)].place);
      known.block<2, 2>(2 * a, 2 * a).diagonal().array() += 1e-8;
      corrections.segment<2>(2 * a) << pin.correction.x, pin.correction.y;
    }
    const Eigen::LDLT<Eigen::MatrixXd> solver(known);
    const Eigen::VectorXd weights = n > 0 ? Eigen::VectorXd(solver.solve(corrections)) : Eigen::VectorXd(0);
    for (std::size_t i = 0; i < trace.size(); ++i) {
      if (!track.poses[i]) continue;
      auto& point = trace.frames[i][at(landmark)];
      if (point && point->origin == Origin::Pinned) continue;
      const Place here{trace.times_s[i], *track.poses[i]};
      Eigen::Matrix2d left = between(here, here);
      PixelPoint shift;
      if (n > 0) {
        Eigen::MatrixXd to_pins(2, 2 * n);
        for (Eigen::Index a = 0; a < n; ++a)
          to_pins.block<2, 2>(0, 2 * a) = between(here, pins[static_cast<std::size_t>(a)].place);
        const Eigen::Vector2d moved = to_pins * weights;
        shift = {moved(0), moved(1)};
        left -= to_pins * solver.solve(to_pins.transpose());
      }
      const double variance = std::max(0.0, left.trace() / 2) + wander.placing_m * wander.placing_m;
      const bool followed = track.source == BodySource::Placed && landmark != Landmark::Shoulder;
      point = TracedPoint{seen(i, pointOf(pointsOf(track.skeleton, *track.poses[i], track.camera), landmark)) + shift,
                          std::hypot(std::sqrt(variance) * px, track.doubt_px[i]),
                          followed ? Origin::Optical : Origin::Fitted};
    }
  }
}

}  // namespace jib::tracing
