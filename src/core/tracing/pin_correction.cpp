// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pin_correction.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

constexpr double kPostureWidth_rad = 0.45;  // postures further apart than this say little about each other
constexpr double kDriftTime_s = 2.5;

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

// Covariance of the correction at two moments, in units of the landmark's own variances.
double covariance(const Wander& w, const Place& a, const Place& b) {
  const double shin = std::remainder(a.pose.shin_rad - b.pose.shin_rad, 2 * kPi);
  const double thigh = std::remainder(a.pose.thigh_rad - b.pose.thigh_rad, 2 * kPi);
  const double trunk = std::remainder(a.pose.trunk_rad - b.pose.trunk_rad, 2 * kPi);
  const double apart = (shin * shin + thigh * thigh + trunk * trunk) / (kPostureWidth_rad * kPostureWidth_rad);
  return w.posture_m * w.posture_m * std::exp(-0.5 * apart) +
         w.drift_m * w.drift_m * std::exp(-std::abs(a.t_s - b.t_s) / kDriftTime_s);
}

struct Pin {
  std::size_t frame;
  Place place;
  PixelPoint where;
  PixelPoint correction;
};

}  // namespace

Wander wanderOf(Landmark landmark) {
  switch (landmark) {
    case Landmark::Toe:
    case Landmark::Heel:
      return {0.003, 0.002, 0.004};
    case Landmark::Ankle:
      return {0.004, 0.003, 0.005};
    case Landmark::Knee:
      return {0.008, 0.004, 0.007};
    case Landmark::Hip:
      return {0.014, 0.005, 0.010};
    default:
      return {0.014, 0.005, 0.010};
  }
}

void applyPins(Trace& trace, const BodyTrack& track, const SideCamera& camera, const std::vector<PlacedFrame>& placed) {
  const double px = camera.pixelsPerMetre(camera.ankle_m);
  for (Landmark landmark : kPlacedLandmarks) {
    const Wander wander = wanderOf(landmark);
    std::vector<Pin> pins;
    for (const PlacedFrame& p : placed) {
      const auto where = p.points[at(landmark)];
      if (!where) continue;
      const auto after = std::lower_bound(trace.times_s.begin(), trace.times_s.end(), p.t_s - 1e-6);
      std::size_t i = static_cast<std::size_t>(std::min(after, trace.times_s.end() - 1) - trace.times_s.begin());
      if (i > 0 && std::abs(trace.times_s[i - 1] - p.t_s) < std::abs(trace.times_s[i] - p.t_s)) --i;
      trace.frames[i][at(landmark)] = TracedPoint{*where, wander.placing_m * px, Origin::Pinned};
      if (!track.poses[i]) continue;
      const PixelPoint tracked = pointOf(pointsOf(track.skeleton, *track.poses[i], track.camera), landmark);
      pins.push_back({i, {trace.times_s[i], *track.poses[i]}, *where, *where - tracked});
    }
    const auto n = static_cast<Eigen::Index>(pins.size());
    Eigen::MatrixXd between(n, n);
    Eigen::MatrixXd known(n, 2);
    for (Eigen::Index a = 0; a < n; ++a) {
      const Pin& pin = pins[static_cast<std::size_t>(a)];
      for (Eigen::Index b = 0; b < n; ++b)
        between(a, b) = covariance(wander, pin.place, pins[static_cast<std::size_t>(b)].place);
      between(a, a) += 1e-8;
      known(a, 0) = pin.correction.x;
      known(a, 1) = pin.correction.y;
    }
    const Eigen::LDLT<Eigen::MatrixXd> solver(between);
    const Eigen::MatrixXd weights = n > 0 ? Eigen::MatrixXd(solver.solve(known)) : Eigen::MatrixXd(0, 2);
    for (std::size_t i = 0; i < trace.size(); ++i) {
      if (!track.poses[i]) continue;
      auto& point = trace.frames[i][at(landmark)];
      if (point && point->origin == Origin::Pinned) continue;
      const Place here{trace.times_s[i], *track.poses[i]};
      Eigen::VectorXd to_pins(n);
      for (Eigen::Index a = 0; a < n; ++a)
        to_pins(a) = covariance(wander, here, pins[static_cast<std::size_t>(a)].place);
      const PixelPoint shift =
          n > 0 ? PixelPoint{to_pins.dot(weights.col(0)), to_pins.dot(weights.col(1))} : PixelPoint{};
      const double explained = n > 0 ? to_pins.dot(solver.solve(to_pins)) : 0;
      const double left = std::max(0.0, covariance(wander, here, here) - explained);
      const double sigma = std::sqrt(left + wander.placing_m * wander.placing_m) * px;
      point = TracedPoint{pointOf(pointsOf(track.skeleton, *track.poses[i], track.camera), landmark) + shift,
                          std::hypot(sigma, track.doubt_px[i]),
                          landmark == Landmark::Shoulder ? Origin::Fitted : Origin::Optical};
    }
  }
}

}  // namespace jib::tracing
