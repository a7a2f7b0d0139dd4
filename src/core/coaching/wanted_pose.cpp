// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/wanted_pose.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/coaching/wanted_press.h"
#include "core/tracing/body/body_pose.h"

namespace jib::coaching {
namespace {

using tracing::BodyPose;
using tracing::Landmark;
using tracing::Skeleton;

double leanOf(MetrePoint lower, MetrePoint upper) {
  return std::atan2(upper.x - lower.x, upper.z - lower.z);
}

MetrePoint upTo(double length_m, double lean_rad) {
  return {length_m * std::sin(lean_rad), length_m * std::cos(lean_rad)};
}

// The chain in the lifter's plane, with the lengths it shows in this pose.
struct Chain {
  MetrePoint ankle, knee, hip, shoulder;
  double shin_m, thigh_m;
};

Chain chainOf(const Shape& pose, const tracing::SideCamera& camera) {
  const auto flat = [&](PoseEnd end, Landmark l, double ahead_m) {
    return camera.toPlane(pose.anchors[end].place, camera.lateralOf(l, ahead_m));
  };
  Chain c{};
  c.ankle = flat(kPoseAnkle, Landmark::Ankle, 0);
  c.hip = flat(kPoseHip, Landmark::Hip, 0);
  c.shoulder = flat(kPoseShoulder, Landmark::Shoulder, 0);
  c.knee = flat(kPoseKnee, Landmark::Knee, camera.kneeAhead(c.ankle.x, flat(kPoseKnee, Landmark::Knee, 0).x, c.hip.x));
  c.shin_m = length(c.knee - c.ankle);
  c.thigh_m = length(c.hip - c.knee);
  return c;
}

// Bends ankle and knee so that the hip comes to a place, or as near as the legs reach; the knee stays in front.
void bendTo(Chain& c, MetrePoint hip) {
  const MetrePoint way = hip - c.ankle;
  const double far = std::clamp(length(way), std::abs(c.shin_m - c.thigh_m) + 0.02, 0.999 * (c.shin_m + c.thigh_m));
  const double lean = std::atan2(way.x, way.z);
  const double at_ankle = std::acos(
      std::clamp((c.shin_m * c.shin_m + far * far - c.thigh_m * c.thigh_m) / (2 * c.shin_m * far), -1.0, 1.0));
  c.knee = c.ankle + upTo(c.shin_m, lean + at_ankle);
  c.hip = c.ankle + upTo(far, lean);
}

// The place at two distances from two others; of both the one nearer to `about`. Where there is none, the place at `ra`
// from `a` that is nearest to being one.
MetrePoint meeting(MetrePoint a, double ra, MetrePoint b, double rb, MetrePoint about) {
  const MetrePoint way = b - a;
  const double apart = std::max(1e-6, length(way));
  const MetrePoint along = way * (1 / apart), across{-along.z, along.x};
  const double on = (ra * ra - rb * rb + apart * apart) / (2 * apart);
  if (std::abs(on) >= ra) return a + along * std::copysign(ra, on);
  const double off = std::sqrt(ra * ra - on * on);
  const MetrePoint one = a + along * on + across * off, other = a + along * on - across * off;
  return length(one - about) < length(other - about) ? one : other;
}

// The arms as they hang from the shoulders to a bar that stays at its height.
struct Arms {
  MetrePoint bar;
  double arm_m, trunk_m;

  MetrePoint shoulderFrom(const Chain& c) const { return meeting(bar, arm_m, c.hip, trunk_m, c.shoulder); }
  // The hip no further from the bar than arms and trunk reach, and the legs after it.
  void bringWithinReach(Chain& c) const {
    constexpr int kEnough = 6;  // legs and arms by turns
    const double least = std::abs(arm_m - trunk_m) + 0.01, most = arm_m + trunk_m - 0.005;
    for (int i = 0; i < kEnough; ++i) {
      const MetrePoint way = c.hip - bar;
      const double far = std::max(1e-6, length(way));
      if (far >= least && far <= most) break;
      bendTo(c, bar + way * (std::clamp(far, least, most) / far));
    }
  }
};

// One joint of who pulls: the bar hangs from straight arms, and lies where it lies.
void pullHanging(Chain& c, Arms& arms, std::size_t end, MetrePoint to) {
  constexpr double kMostShin_rad = 0.7, kLeastShin_rad = -0.25;
  switch (end) {
    case kPoseKnee:
      c.knee = c.ankle + upTo(c.shin_m, std::clamp(leanOf(c.ankle, to), kLeastShin_rad, kMostShin_rad));
      c.hip = meeting(c.knee, c.thigh_m, c.shoulder, arms.trunk_m, c.hip);
      break;
    case kPoseHip:
      bendTo(c, to);
      break;
    case kPoseShoulder: {
      const MetrePoint way = to - arms.bar;
      c.shoulder = arms.bar + way * (arms.arm_m / std::max(1e-6, length(way)));
      bendTo(c, meeting(c.shoulder, arms.trunk_m, c.knee, c.thigh_m, c.hip));
      break;
    }
    default:  // the bar, along the floor, as far as the arms let it
      arms.bar.x = to.x;
      const double up = arms.bar.z - c.hip.z, reach = arms.arm_m + arms.trunk_m - 0.005;
      const double most = std::sqrt(std::max(0.0, reach * reach - up * up));
      arms.bar.x = std::clamp(arms.bar.x, c.hip.x - most, c.hip.x + most);
  }
  arms.bringWithinReach(c);
  c.shoulder = arms.shoulderFrom(c);
}

// One joint of who carries the bar, which stays over mid-foot. Returns  where the bar comes to
MetrePoint pullCarrying(Chain& c, std::size_t end, MetrePoint to, MetrePoint bar, double mid_foot) {
  constexpr double kMostLean_rad = 1.45, kLeastLean_rad = -0.2, kMostShin_rad = 0.95, kLeastShin_rad = -0.1;
  const auto leaned = [&](double rad) { return std::clamp(rad, kLeastLean_rad, kMostLean_rad); };
  const double trunk_m = length(c.shoulder - c.hip);
  double trunk_rad = leanOf(c.hip, c.shoulder);
  // Where the bar lies, in the trunk's own directions.
  const MetrePoint lies = bar - c.hip;
  const double along = lies.x * std::sin(trunk_rad) + lies.z * std::cos(trunk_rad);
  const double ahead = lies.x * std::cos(trunk_rad) - lies.z * std::sin(trunk_rad);
  const double reach = std::hypot(along, ahead), turn = std::atan2(ahead, along);
  const auto overFoot = [&] { return leaned(std::asin(std::clamp((mid_foot - c.hip.x) / reach, -1.0, 1.0)) - turn); };
  if (end == kPoseKnee) {
    const MetrePoint thigh = c.hip - c.knee;
    c.knee = c.ankle + upTo(c.shin_m, std::clamp(leanOf(c.ankle, to), kLeastShin_rad, kMostShin_rad));
    c.hip = c.knee + thigh;
    trunk_rad = overFoot();
  } else if (end == kPoseHip) {
    bendTo(c, to);
    trunk_rad = overFoot();
  } else {
    trunk_rad = leaned(leanOf(c.hip, to));
    bendTo(c, {mid_foot - reach * std::sin(trunk_rad + turn), c.hip.z});
  }
  c.shoulder = c.hip + upTo(trunk_m, trunk_rad);
  return c.hip + upTo(reach, trunk_rad + turn);
}

}  // namespace

std::optional<Shape> poseOn(const Analysis& a, std::size_t frame) {
  const auto& trace = a.trace.trace;
  if (!a.trace.body || frame >= trace.size()) return std::nullopt;
  Shape pose;
  pose.kind = ShapeKind::Pose;
  pose.sense = Sense::AsWanted;
  pose.drawn_s = pose.from_s = pose.to_s = trace.times_s[frame];
  constexpr std::array kStands{Landmark::Ankle, Landmark::Knee, Landmark::Hip, Landmark::Shoulder, Landmark::Plate};
  constexpr std::array kLies{Landmark::Hip, Landmark::Shoulder, Landmark::Elbow, Landmark::Wrist, Landmark::Plate};
  for (const Landmark l : a.trace.model.lying ? kLies : kStands) {
    const auto place = trace.place(frame, l);
    if (!place) return std::nullopt;
    pose.anchors.push_back({*place, std::nullopt, 0, {}});
  }
  return pose;
}

Shape pulled(const Shape& pose, std::size_t end, PixelPoint to, const Analysis& a) {
  if (pose.anchors.size() != anchorsOf(ShapeKind::Pose) || !a.trace.body) return pose;
  if (a.trace.model.lying) return pulledOnBench(pose, end, to, a);
  const auto& trace = a.trace.trace;
  const std::size_t frame = tracing::nearestFrame(trace, pose.drawn_s);
  const auto toe = trace.place(frame, Landmark::Toe), heel = trace.place(frame, Landmark::Heel);
  if (!toe || !heel) return pose;
  const tracing::SideCamera& camera = a.trace.camera;
  const auto flat = [&](PixelPoint p, Landmark l) { return camera.toPlane(p, camera.lateralOf(l, 0)); };
  const double mid_foot = (flat(*toe, Landmark::Toe).x + flat(*heel, Landmark::Heel).x) / 2;
  Chain c = chainOf(pose, camera);
  const auto picture = [&](MetrePoint p, Landmark l, double ahead_m = 0) {
    return camera.toPicture(p, camera.lateralOf(l, ahead_m));
  };
  const auto drawn = [&](MetrePoint bar) {
    Shape out = pose;
    out.anchors[kPoseKnee].place = picture(c.knee, Landmark::Knee, camera.kneeAhead(c.ankle.x, c.knee.x, c.hip.x));
    out.anchors[kPoseHip].place = picture(c.hip, Landmark::Hip);
    out.anchors[kPoseShoulder].place = picture(c.shoulder, Landmark::Shoulder);
    out.anchors[kPoseBar].place = camera.toPicture(bar, camera.plate_m);
    return out;
  };
  constexpr Landmark kOf[] = {Landmark::Ankle, Landmark::Knee, Landmark::Hip, Landmark::Shoulder};
  if (a.trace.model.hangs()) {
    if (end == kPoseAnkle) return pose;
    Arms arms{camera.toPlane(pose.anchors[kPoseBar].place, camera.plate_m), 0, length(c.shoulder - c.hip)};
    arms.arm_m = length(c.shoulder - arms.bar);
    pullHanging(c, arms, end, end == kPoseBar ? camera.toPlane(to, camera.plate_m) : flat(to, kOf[end]));
    return drawn(arms.bar);
  }
  const MetrePoint bar = camera.toPlane(pose.anchors[kPoseBar].place, camera.plate_m);
  if (end != kPoseKnee && end != kPoseHip && end != kPoseShoulder) return pose;
  return drawn(pullCarrying(c, end, flat(to, kOf[end]), bar, mid_foot));
}

}  // namespace jib::coaching
