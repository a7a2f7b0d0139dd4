// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_pose.h"

#include <algorithm>
#include <cmath>

#include "core/tracing/camera/knee_out.h"

namespace jib::tracing {
namespace {

MetrePoint upTo(double length_m, double lean_rad) {
  return {length_m * std::sin(lean_rad), length_m * std::cos(lean_rad)};
}

MetrePoint turnedForward(MetrePoint p, double angle_rad) {
  const double c = std::cos(angle_rad), s = std::sin(angle_rad);
  return {c * p.x + s * p.z, -s * p.x + c * p.z};
}

double leanOf(MetrePoint lower, MetrePoint upper) {
  return std::atan2(upper.x - lower.x, upper.z - lower.z);
}

double kneeLateral(const Skeleton& s, const BodyPose& q, const SideCamera& camera) {
  return kneeOut(camera, s.shin_m, s.thigh_m, q.shin_rad, q.thigh_rad, camera.splay_rad);
}

struct PlacedMetres {
  MetrePoint toe, heel, ankle, knee, hip, shoulder;
  double knee_lateral_m;
};

PlacedMetres inMetres(const PlacedBody& p, const SideCamera& camera) {
  const auto plane = [&](PixelPoint at, Landmark l) { return camera.toPlane(at, camera.lateralOf(l, 0)); };
  PlacedMetres m;
  m.toe = plane(p.toe, Landmark::Toe);
  m.heel = plane(p.heel, Landmark::Heel);
  m.ankle = plane(p.ankle, Landmark::Ankle);
  m.hip = plane(p.hip, Landmark::Hip);
  m.shoulder = plane(p.shoulder, Landmark::Shoulder);
  m.knee = plane(p.knee, Landmark::Knee);
  m.knee_lateral_m = camera.lateralOf(Landmark::Knee, camera.kneeAhead(m.ankle.x, m.knee.x, m.hip.x));
  m.knee = camera.toPlane(p.knee, m.knee_lateral_m);
  return m;
}

}  // namespace

BodyPoints pointsOf(const Skeleton& s, const BodyPose& q, const SideCamera& camera) {
  const double knee_lateral = kneeLateral(s, q, camera);
  const MetrePoint knee = q.ankle + upTo(flat(s.shin_m, knee_lateral - camera.ankle_m) * q.shin_share, q.shin_rad);
  const MetrePoint hip = knee + upTo(flat(s.thigh_m, knee_lateral - camera.hip_m) * q.thigh_share, q.thigh_rad);
  const MetrePoint shoulder = hip + upTo(s.trunk_m, q.trunk_rad);
  const MetrePoint bar = hip + turnedForward({s.bar_ahead_m, s.bar_along_m}, q.trunk_rad);
  const auto picture = [&](MetrePoint at, Landmark l) { return camera.toPicture(at, camera.lateralOf(l, 0)); };
  BodyPoints p;
  p.heel = picture(q.ankle + turnedForward(s.heel_from_ankle, q.foot_rad), Landmark::Heel);
  p.toe = picture(q.ankle + turnedForward(s.toe_from_ankle, q.foot_rad), Landmark::Toe);
  p.ankle = picture(q.ankle, Landmark::Ankle);
  p.knee = camera.toPicture(knee, knee_lateral);
  p.hip = picture(hip, Landmark::Hip);
  p.shoulder = picture(shoulder, Landmark::Shoulder);
  p.bar = camera.toPicture(bar, camera.hip_m);
  p.metre_px = camera.pixelsPerMetre(camera.ankle_m);
  return p;
}

Skeleton skeletonOf(const PlacedBody& placed, MetrePoint bar, const SideCamera& camera) {
  const PlacedMetres m = inMetres(placed, camera);
  Skeleton s;
  s.heel_from_ankle = m.heel - m.ankle;
  s.toe_from_ankle = m.toe - m.ankle;
  s.shin_m = std::hypot(length(m.knee - m.ankle), m.knee_lateral_m - camera.ankle_m);
  s.thigh_m = std::hypot(length(m.hip - m.knee), m.knee_lateral_m - camera.hip_m);
  s.trunk_m = length(m.shoulder - m.hip);
  const MetrePoint on_trunk = turnedForward(bar - m.hip, -leanOf(m.hip, m.shoulder));
  s.bar_ahead_m = on_trunk.x;
  s.bar_along_m = on_trunk.z;
  return s;
}

BodyPose poseOf(const Skeleton& s, const PlacedBody& placed, const SideCamera& camera) {
  const PlacedMetres m = inMetres(placed, camera);
  BodyPose q;
  q.ankle = m.ankle;
  // Forward turns take the sole's lean up: from level, 90 degrees of lean, to more.
  q.foot_rad = leanOf(m.heel, m.toe) - leanOf(s.heel_from_ankle, s.toe_from_ankle);
  q.shin_rad = leanOf(m.ankle, m.knee);
  q.thigh_rad = leanOf(m.knee, m.hip);
  q.trunk_rad = leanOf(m.hip, m.shoulder);
  const double knee_lateral = kneeLateral(s, q, camera);
  q.shin_share = length(m.knee - m.ankle) / flat(s.shin_m, knee_lateral - camera.ankle_m);
  q.thigh_share = length(m.hip - m.knee) / flat(s.thigh_m, knee_lateral - camera.hip_m);
  return q;
}

}  // namespace jib::tracing
