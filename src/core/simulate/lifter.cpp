// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/lifter.h"

#include <algorithm>

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

// The middle joint of two links from `root` to `end`, bent towards `pole`. The end is pulled in when out of reach.
Vec3 bent(Vec3 root, Vec3& end, double first, double second, Vec3 pole) {
  Vec3 d = end - root;
  const double reach = (first + second) * 0.9995;
  double distance = length(d);
  if (distance > reach) {
    end = root + d * (reach / distance);
    d = end - root;
    distance = reach;
  }
  const Vec3 axis = unit(d);
  const double along = (first * first - second * second + distance * distance) / (2 * distance);
  const double out = std::sqrt(std::max(0.0, first * first - along * along));
  const Vec3 side = unit(pole - axis * dot(pole, axis));
  return root + axis * along + side * out;
}

Leg legPosed(const Build& build, Vec3 hip, double side, Foot foot) {
  const double out = radians(build.spec.toe_out_deg) * side;
  const Vec3 ahead{std::cos(out), std::sin(out), 0};
  const double shoe = build.heel_behind + build.toe_ahead;
  const double middle = (build.toe_ahead - build.heel_behind) / 2;  // of the shoe, ahead of the ankle
  const Vec3 under{foot.x - middle * ahead.x, side * build.spec.stance_m / 2, foot.lift};
  Leg leg;
  leg.hip = hip;
  leg.heel = under - ahead * build.heel_behind;
  leg.toe = under + ahead * build.toe_ahead + Vec3{0, 0, 0.022};
  leg.ball = leg.heel + ahead * (0.7 * shoe);
  leg.ankle = under + Vec3{0, 0, build.ankle_height};
  if (foot.heel > 0) {
    const double turn = std::asin(std::min(0.6, foot.heel / (0.7 * shoe)));
    const auto raised = [&](Vec3 p) {
      const Vec3 d = p - leg.ball;
      const double u = dot(d, ahead);
      return leg.ball + ahead * (u * std::cos(turn) + d.z * std::sin(turn)) +
             Vec3{0, 0, -u * std::sin(turn) + d.z * std::cos(turn)} + (Vec3{d.x, d.y, 0} - ahead * u);
    };
    leg.heel = raised(leg.heel);
    leg.ankle = raised(leg.ankle);
  }
  Vec3 reached = hip;
  leg.knee = bent(leg.ankle, reached, build.shin, build.thigh, ahead);
  if (foot.knee_in > 0) {
    // Turned about the line from ankle to hip until it is that far inwards, as far as it goes.
    const double wanted = side * leg.knee.y - foot.knee_in;
    double low = 0, high = 1.4;
    for (int i = 0; i < 30; ++i) {
      const double turn = (low + high) / 2;
      reached = hip;
      leg.knee = bent(leg.ankle, reached, build.shin, build.thigh,
                      {std::cos(out - side * turn), std::sin(out - side * turn), 0});
      (side * leg.knee.y > wanted ? low : high) = turn;
    }
  }
  return leg;
}

Arm armPosed(const Build& build, Vec3 shoulder, Vec3 bar, double side, Vec3 up, Vec3 back) {
  Arm arm;
  arm.shoulder = shoulder;
  arm.wrist = bar + Vec3{0, side * build.spec.grip_m, 0} - up * 0.03;
  // Under a bar on the front of the shoulders the elbows point ahead, high.
  const Vec3 elbow = build.bar_behind < 0 ? up * 0.15 - back : up * -1.0 + back * 0.25;
  arm.elbow = bent(shoulder, arm.wrist, build.upper_arm, build.forearm, elbow);
  return arm;
}

}  // namespace

Build::Build(const LifterSpec& s, const std::string& variant) : spec(s) {
  const double h = s.stature_m;
  shin = 0.2529 * h;
  thigh = 0.2425 * h * s.thigh_factor;
  trunk = 0.2850 * h * s.trunk_factor;
  ankle_height = 0.041 * h + 0.016;
  heel_behind = 0.033 * h;
  toe_ahead = 0.1600 * h - heel_behind;
  hip_half = 0.050 * h;
  shoulder_half = 0.110 * h;
  upper_arm = 0.1618 * h;
  forearm = 0.1545 * h;
  head = 0.175 * h;
  bar_along = trunk * (variant == "high-bar" ? 1.03 : 0.90);
  bar_behind = variant == "high-bar" ? 0.055 : 0.085;
  if (variant == "front") {
    bar_along = 1.02 * trunk;
    bar_behind = -0.07;
  }
}

namespace {

constexpr Vec3 kAcross{0, 1, 0};
constexpr double kBarOverWrist_m = 0.03;
constexpr double kPressGrip_m = 0.33;

// Legs and head of a body whose hips and shoulders are known. The head is held nearer the vertical than the trunk, by
// `head_share` of its lean.
void addLegsAndHead(const Build& build, Body& body, Foot left, Foot right, double head_share) {
  body.left = legPosed(build, body.mid_hip + kAcross * build.hip_half, 1, left);
  body.right = legPosed(build, body.mid_hip - kAcross * build.hip_half, -1, right);
  const double lean = body.trunk_lean_rad, head_lean = lean * head_share;
  const Vec3 up{std::sin(lean), 0, std::cos(lean)};
  const Vec3 head_up{std::sin(head_lean), 0, std::cos(head_lean)};
  const Vec3 face{std::cos(head_lean), 0, -std::sin(head_lean)};
  body.neck = body.mid_shoulder + up * 0.03;
  body.crown = body.neck + head_up * build.head;
  const Vec3 ear = body.neck + head_up * (0.62 * build.head) + face * 0.01;
  body.ear_left = ear + kAcross * 0.078;
  body.ear_right = ear - kAcross * 0.078;
}

struct Hanging {
  MetrePoint shoulder, knee;
  bool reached = false;
};

// Shoulders over hands that hang from them, knees over feet at mid-foot.
Hanging hanging(const Build& build, MetrePoint bar, double ahead_m, double shin_deg, double grip_m) {
  const double out = grip_m - build.shoulder_half, arm = (build.upper_arm + build.forearm) * 0.999;
  const double reach = std::sqrt(arm * arm - out * out - ahead_m * ahead_m);
  const double middle = (build.toe_ahead - build.heel_behind) / 2 * std::cos(radians(build.spec.toe_out_deg));
  const double shin = radians(shin_deg);
  Hanging h;
  h.shoulder = {bar.x + ahead_m, bar.z + kBarOverWrist_m + reach};
  h.knee = {-middle + build.shin * std::sin(shin), build.ankle_height + build.shin * std::cos(shin)};
  // Feet stand wider than hips: of the legs a little is lost sideways.
  h.reached = length(h.shoulder - h.knee) < 0.985 * build.thigh + build.trunk;
  return h;
}

}  // namespace

Body posed(const Build& build, MetrePoint bar, double lean, Foot left, Foot right) {
  Body body;
  body.trunk_lean_rad = lean;
  body.bar = {bar.x, 0, bar.z};
  const Vec3 up{std::sin(lean), 0, std::cos(lean)};
  const Vec3 back{-std::cos(lean), 0, std::sin(lean)};
  body.mid_hip = body.bar - up * build.bar_along - back * build.bar_behind;
  body.mid_shoulder = body.mid_hip + up * build.trunk;
  addLegsAndHead(build, body, left, right, 0.45);
  body.left_arm = armPosed(build, body.mid_shoulder + kAcross * build.shoulder_half, body.bar, 1, up, back);
  body.right_arm = armPosed(build, body.mid_shoulder - kAcross * build.shoulder_half, body.bar, -1, up, back);
  return body;
}

bool reachesHanging(const Build& build, MetrePoint bar, double ahead_m, double shin_deg, double grip_m) {
  return hanging(build, bar, ahead_m, shin_deg, grip_m).reached;
}

Body posedHanging(const Build& build, MetrePoint bar, double ahead_m, double shin_deg, double grip_m) {
  const Hanging h = hanging(build, bar, ahead_m, shin_deg, grip_m);
  // Where a thigh from the knee and a trunk from the shoulder meet, behind the line between them.
  const MetrePoint d = h.shoulder - h.knee;
  const double apart = length(d), thigh = 0.985 * build.thigh;
  const double along =
      std::clamp((thigh * thigh - build.trunk * build.trunk + apart * apart) / (2 * apart), 0.0, thigh);
  const double out = std::sqrt(thigh * thigh - along * along);
  const MetrePoint axis = d * (1 / apart);
  const MetrePoint hip = h.knee + axis * along + MetrePoint{-axis.z, axis.x} * out;
  Body body;
  body.bar = {bar.x, 0, bar.z};
  body.mid_hip = {hip.x, 0, hip.z};
  body.mid_shoulder = {h.shoulder.x, 0, h.shoulder.z};
  body.trunk_lean_rad = radians(lean_deg(hip, h.shoulder));
  addLegsAndHead(build, body, {}, {}, 0.7);
  for (double side : {1.0, -1.0}) {
    Arm& arm = side > 0 ? body.left_arm : body.right_arm;
    arm.shoulder = body.mid_shoulder + kAcross * (side * build.shoulder_half);
    arm.wrist = body.bar + Vec3{0, side * grip_m, kBarOverWrist_m};
    arm.elbow = bent(arm.shoulder, arm.wrist, build.upper_arm, build.forearm, {-1, 0, 0});
  }
  return body;
}

Body moved(Body body, Vec3 by) {
  for (Vec3* p :
       {&body.bar, &body.mid_hip, &body.mid_shoulder, &body.neck, &body.crown, &body.ear_left, &body.ear_right})
    *p = *p + by;
  for (Leg* leg : {&body.left, &body.right})
    for (Vec3* p : {&leg->hip, &leg->knee, &leg->ankle, &leg->heel, &leg->toe, &leg->ball}) *p = *p + by;
  for (Arm* arm : {&body.left_arm, &body.right_arm})
    for (Vec3* p : {&arm->shoulder, &arm->elbow, &arm->wrist}) *p = *p + by;
  return body;
}

MetrePoint lyingShoulder(const Build& build, double bench_top_m) {
  return {-0.6 * build.trunk, bench_top_m + 0.10 * build.spec.girth_factor * build.spec.stature_m / 1.75};
}

double pressReach(const Build& build) {
  const double out = kPressGrip_m - build.shoulder_half, arm = 0.985 * (build.upper_arm + build.forearm);
  return std::sqrt(arm * arm - out * out) + kBarOverWrist_m;
}

Body posedLying(const Build& build, const LyingPose& pose, double bench_top_m) {
  const MetrePoint bar = pose.bar, rest = lyingShoulder(build, bench_top_m);
  const MetrePoint shoulder{rest.x, rest.z + pose.reach_m};
  Body body;
  body.trunk_lean_rad = radians(-90);
  body.bar = {bar.x, -pose.hands_left_m, bar.z};
  body.bar_across = {0, std::cos(pose.bar_tilt_rad), std::sin(pose.bar_tilt_rad)};
  body.mid_shoulder = {shoulder.x, 0, shoulder.z};
  const double up = pose.seat_m - pose.reach_m;
  body.mid_hip = body.mid_shoulder + Vec3{std::sqrt(build.trunk * build.trunk - up * up), 0, up};
  Foot foot;
  foot.x = rest.x + build.trunk + 0.75 * build.thigh;
  foot.heel = pose.heel_m;
  addLegsAndHead(build, body, foot, foot, 1.0);
  for (double side : {1.0, -1.0}) {
    Arm& arm = side > 0 ? body.left_arm : body.right_arm;
    arm.shoulder = body.mid_shoulder + kAcross * (side * build.shoulder_half);
    arm.wrist = body.bar + body.bar_across * (side * kPressGrip_m + pose.hands_left_m) + Vec3{0, 0, -kBarOverWrist_m};
    const double out = side > 0 ? 1 + pose.left_flare : 1;
    arm.elbow = bent(arm.shoulder, arm.wrist, build.upper_arm, build.forearm, {pose.elbow_towards, side * out, -0.8});
  }
  return body;
}

Body posedOverhead(const Build& build, const OverheadPose& pose) {
  constexpr double kGrip_m = 0.29, kAhead_m = 0.10, kBelow_m = 0.01, kStraight = 0.995;
  Foot foot;
  foot.heel = pose.heel_m;
  const double middle = (build.toe_ahead - build.heel_behind) / 2 * std::cos(radians(build.spec.toe_out_deg));
  // Hips over the ankles, and a little ahead of them as the trunk leans back.
  const double sway_m = -0.3 * build.trunk * std::sin(pose.trunk_lean_rad);
  const double across_m = build.spec.stance_m / 2 - build.hip_half, leg = kStraight * (build.shin + build.thigh);
  Body body;
  body.trunk_lean_rad = pose.trunk_lean_rad;
  body.mid_hip = {-middle + 0.02 + sway_m, 0,
                  build.ankle_height + std::sqrt(leg * leg - across_m * across_m - (sway_m + 0.02) * (sway_m + 0.02)) -
                      pose.dip_m + 0.5 * pose.heel_m};
  const Vec3 up{std::sin(pose.trunk_lean_rad), 0, std::cos(pose.trunk_lean_rad)};
  body.mid_shoulder = body.mid_hip + up * build.trunk;
  addLegsAndHead(build, body, foot, foot, 0.5);
  // From before the shoulders straight up past the face, then back over mid-foot.
  const double arm = 0.99 * (build.upper_arm + build.forearm), out = kGrip_m - build.shoulder_half;
  const double reach = std::sqrt(arm * arm - out * out) + kBarOverWrist_m;
  const double over = std::clamp((pose.share_up - 0.35) / 0.6, 0.0, 1.0), round = over * over * (3 - 2 * over);
  const MetrePoint rest{body.mid_shoulder.x + kAhead_m, body.mid_shoulder.z - kBelow_m};
  const MetrePoint top{0.01, body.mid_shoulder.z + reach};
  body.bar = {rest.x + (top.x - rest.x) * round + pose.bar_forward_m, 0, rest.z + (top.z - rest.z) * pose.share_up};
  body.bar_across = {0, std::cos(pose.bar_tilt_rad), std::sin(pose.bar_tilt_rad)};
  const double ahead = pose.elbow_ahead * (1 - pose.share_up) + 0.3 * pose.share_up;
  for (double side : {1.0, -1.0}) {
    Arm& hand = side > 0 ? body.left_arm : body.right_arm;
    hand.shoulder = body.mid_shoulder + kAcross * (side * build.shoulder_half);
    hand.wrist = body.bar + body.bar_across * (side * kGrip_m) - Vec3{0, 0, kBarOverWrist_m};
    hand.elbow = bent(hand.shoulder, hand.wrist, build.upper_arm, build.forearm,
                      {ahead, side * (0.2 + 0.8 * pose.share_up), pose.share_up - 1});
  }
  return body;
}

double leanForShin(const Build& build, MetrePoint bar, double shin_deg, Foot left, Foot right) {
  // More lean takes the hip back and up, and the shin towards the vertical, as long as the legs reach.
  double low = radians(-2), high = radians(85);
  for (int i = 0; i < 50; ++i) {
    const double lean = (low + high) / 2;
    const Body body = posed(build, bar, lean, left, right);
    const Leg& leg = body.left;
    const double reached = length(leg.hip - leg.knee);
    const bool too_far = reached > build.thigh * 1.0005;
    const double shin = lean_deg({leg.ankle.x, leg.ankle.z}, {leg.knee.x, leg.knee.z});
    // Leaning raises the hip under a bar that stays, so a hip out of reach asks for less lean.
    if (!too_far && shin > shin_deg)
      low = lean;
    else
      high = lean;
  }
  return (low + high) / 2;
}

Vec3 hipCrease(const Build& build, const Leg& leg) {
  const Vec3 thigh = leg.knee - leg.hip;
  const double thigh_from_up = std::atan2(thigh.x, thigh.z);
  const double upper_side = thigh_from_up - kPi / 2;
  return leg.hip + Vec3{std::sin(upper_side), 0, std::cos(upper_side)} * build.spec.crease_m;
}

Vec3 kneeTop(const Build& build, const Leg& leg) {
  return leg.knee + Vec3{0, 0, build.spec.knee_top_m};
}

}  // namespace jib::simulate
