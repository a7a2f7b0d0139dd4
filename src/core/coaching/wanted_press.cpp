// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/wanted_press.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/tracing/body/pressing_arm.h"

namespace jib::coaching {
namespace {

using tracing::ArmEnds;
using tracing::ArmLengths;
using tracing::Landmark;
using tracing::SideCamera;

// As far as the arm ever reaches from shoulder to hand, but for a frame in twenty that may be mistaken.
double reachOf(const Analysis& a) {
  const auto& trace = a.trace.trace;
  std::vector<double> reach_m;
  for (std::size_t i = 0; i < trace.size(); ++i) {
    const auto shoulder = trace.place(i, Landmark::Shoulder), plate = trace.place(i, Landmark::Plate);
    if (!shoulder || !plate) continue;
    const auto move = trace.moveAt(i);
    const ArmEnds ends = tracing::armEnds(move.still(*shoulder), move.still(*plate), a.trace.camera);
    reach_m.push_back((ends.hand - ends.shoulder).norm());
  }
  if (reach_m.empty()) return 0;
  const auto most = reach_m.begin() + static_cast<long>(0.95 * static_cast<double>(reach_m.size() - 1));
  std::nth_element(reach_m.begin(), most, reach_m.end());
  return *most;
}

// At which of all turns the elbow comes nearest to a place in the picture, and how near, in pixels.
struct Swivel {
  double rad = 0, off_px = 1e18;
};
Swivel swivelNear(PixelPoint at, const ArmEnds& ends, const ArmLengths& lengths, const SideCamera& camera) {
  constexpr double kStep_rad = kPi / 360;
  Swivel best;
  for (double rad = -kPi / 2; rad <= kPi / 2; rad += kStep_rad) {
    const Eigen::Vector3d elbow = tracing::elbowOf(ends, lengths, rad);
    const double off = length(camera.toPicture({elbow.x(), elbow.y()}, elbow.z()) - at);
    if (off < best.off_px) best = {rad, off};
  }
  return best;
}

// Upper arm and forearm as this pose shows them: the elbow about half-way, so that it does not leap when it is pulled.
ArmLengths lengthsIn(const Shape& pose, const ArmEnds& ends, double reach_m, const SideCamera& camera) {
  constexpr double kLeast = 0.44, kMost = 0.56, kStep = 0.01;
  ArmLengths best;
  double least = 1e18;
  for (double share = kLeast; share <= kMost; share += kStep) {
    const ArmLengths lengths{share * reach_m, (1 - share) * reach_m};
    const double off = swivelNear(pose.anchors[kPressElbow].place, ends, lengths, camera).off_px;
    if (off >= least) continue;
    least = off;
    best = lengths;
  }
  return best;
}

}  // namespace

Shape pulledOnBench(const Shape& pose, std::size_t end, PixelPoint to, const Analysis& a) {
  if (end != kPressElbow && end != kPressBar) return pose;  // hip and shoulder lie where they lie
  const SideCamera& camera = a.trace.camera;
  const double reach_m = reachOf(a);
  if (reach_m <= 0) return pose;
  const PixelPoint shoulder = pose.anchors[kPressShoulder].place;
  ArmEnds ends = tracing::armEnds(shoulder, pose.anchors[kPressBar].place, camera);
  const ArmLengths lengths = lengthsIn(pose, ends, reach_m, camera);
  PixelPoint near = end == kPressElbow ? to : pose.anchors[kPressElbow].place;
  Shape out = pose;
  if (end == kPressBar) {
    // No further than the arm reaches, and no nearer than it folds.
    constexpr double kFolded_m = 0.12;
    ends = tracing::armEnds(shoulder, to, camera);
    const Eigen::Vector3d way = ends.hand - ends.shoulder;
    const double flat = std::hypot(way.x(), way.y());
    const double most = std::sqrt(std::max(kFolded_m * kFolded_m, reach_m * reach_m - way.z() * way.z()));
    const double share = std::clamp(flat, kFolded_m, most) / std::max(1e-6, flat);
    ends.hand.head<2>() = ends.shoulder.head<2>() + way.head<2>() * share;
    out.anchors[kPressBar].place = camera.toPicture({ends.hand.x(), ends.hand.y()}, camera.plate_m);
    near = near + (out.anchors[kPressBar].place - pose.anchors[kPressBar].place);  // under the bar as it was
  }
  const Eigen::Vector3d elbow = tracing::elbowOf(ends, lengths, swivelNear(near, ends, lengths, camera).rad);
  const Eigen::Vector3d wrist = ends.hand + (elbow - ends.hand) * (tracing::kHand_m / lengths.fore_m);
  out.anchors[kPressElbow].place = camera.toPicture({elbow.x(), elbow.y()}, elbow.z());
  out.anchors[kPressWrist].place = camera.toPicture({wrist.x(), wrist.y()}, wrist.z());
  return out;
}

}  // namespace jib::coaching
