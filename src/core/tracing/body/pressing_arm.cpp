// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/pressing_arm.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/tracing/camera/side_camera.h"

namespace jib::tracing {
namespace {

// The circle on which the elbow can be.
struct Circle {
  Eigen::Vector3d middle, outwards, forward;  // the last two as long as its radius
};

Circle circleOf(const ArmEnds& ends, const ArmLengths& l) {
  const Eigen::Vector3d along = ends.hand - ends.shoulder;
  const double reach = std::max(1e-6, along.norm());
  const Eigen::Vector3d n = along / reach;
  const double to_middle =
      std::clamp((l.upper_m * l.upper_m - l.fore_m * l.fore_m + reach * reach) / (2 * reach), 0.0, l.upper_m);
  const double radius = reach >= l.upper_m + l.fore_m ? 0 : std::sqrt(l.upper_m * l.upper_m - to_middle * to_middle);
  const double share = l.upper_m / (l.upper_m + l.fore_m);
  Eigen::Vector3d out = Eigen::Vector3d::UnitZ() - n * n.z();
  out.normalize();
  const Eigen::Vector3d forward = out.cross(n).normalized();
  return {ends.shoulder + n * (radius > 0 ? to_middle : share * reach), radius * out,
          radius * (forward.x() < 0 ? Eigen::Vector3d(-forward) : forward)};
}

}  // namespace

ArmEnds armEnds(PixelPoint shoulder, PixelPoint plate, const SideCamera& camera) {
  const double out_m = camera.lateralOf(Landmark::Shoulder, 0);
  const MetrePoint s = camera.toPlane(shoulder, out_m), h = camera.toPlane(plate, camera.plate_m);
  return {{s.x, s.z, out_m}, {h.x, h.z, kGrip_m}};
}

Eigen::Vector3d elbowOf(const ArmEnds& ends, const ArmLengths& lengths, double swivel_rad) {
  const Circle c = circleOf(ends, lengths);
  return c.middle + c.outwards * std::cos(swivel_rad) + c.forward * std::sin(swivel_rad);
}

double elbowOff(const ArmEnds& ends, const ArmLengths& lengths) {
  return circleOf(ends, lengths).outwards.norm();
}

std::optional<double> swivelOf(const ArmEnds& ends, const ArmLengths& lengths, const Eigen::Vector2d& seen,
                               double within_m) {
  constexpr double kTells_m = 0.08, kStep_rad = kPi / 180;
  const Circle c = circleOf(ends, lengths);
  if (c.outwards.norm() < kTells_m) return std::nullopt;
  std::optional<double> best;
  double least = within_m;
  for (double swivel = -kPi / 2; swivel <= kPi / 2; swivel += kStep_rad) {
    const Eigen::Vector3d elbow = c.middle + c.outwards * std::cos(swivel) + c.forward * std::sin(swivel);
    if (const double off = (elbow.head<2>() - seen).norm(); off < least) {
      least = off;
      best = swivel;
    }
  }
  return best;
}

UsualSwivel usualSwivel(const ArmEnds& low, const ArmLengths& lengths, const std::vector<SwivelSeen>& seen) {
  constexpr double kUnderBar_m = 0.08, kDoubtful = 0.2, kSeen_rad = 0.2, kUnseen_rad = 0.35, kStep_rad = kPi / 180;
  const auto off_m = [&](double swivel) { return std::abs(elbowOf(low, lengths, swivel).x() - low.hand.x()); };
  double under = 0;
  for (double swivel = -kPi / 2; swivel <= kPi / 2; swivel += kStep_rad)
    if (off_m(swivel) < off_m(under)) under = swivel;
  std::vector<std::pair<double, double>> votes;  // swivel, weight
  double all = 0;
  for (const SwivelSeen& s : seen) {
    const double weight = (s.sure ? 1 : kDoubtful) * std::exp(-0.5 * std::pow(off_m(s.rad) / kUnderBar_m, 2));
    votes.emplace_back(s.rad, weight);
    all += weight;
  }
  constexpr double kFew = 1;
  if (all < kFew) return {under, kUnseen_rad};
  std::sort(votes.begin(), votes.end());
  double sum = 0;
  for (const auto& [swivel, weight] : votes)
    if ((sum += weight) >= all / 2) return {swivel, kSeen_rad};
  return {under, kUnseen_rad};
}

}  // namespace jib::tracing
