// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/geometry.h"
#include "core/simulate/spec.h"
#include "core/simulate/vec3.h"

namespace jib::simulate {

// Lengths of one made-up athlete in metres. Another table than the one the fit's priors are from (body_costs.h), so
// that a test of the fit does not hand it its own assumptions back. Source  limbs as shares of the stature of male
// athletes: de Leva, Adjustments to Zatsiorsky-Seluyanov's segment inertia
//         parameters, 1996, table 4; trunk shortened from mid-shoulder to where a bar is carried; shoes of our own
struct Build {
  explicit Build(const LifterSpec& spec, const std::string& variant);

  double shin, thigh, trunk;        // ankle-knee, knee-hip, mid-hip to mid-shoulder
  double ankle_height;              // with the shoe's sole
  double heel_behind, toe_ahead;    // of the ankle, along the foot
  double hip_half, shoulder_half;   // half the distance between the joints
  double upper_arm, forearm, head;  // head: neck base to crown
  double bar_along, bar_behind;     // of mid-hip in the trunk's own frame: along it, and behind it
  LifterSpec spec;
};

struct Leg {
  Vec3 hip, knee, ankle, heel, toe, ball;
};
struct Arm {
  Vec3 shoulder, elbow, wrist;
};

// Where everything is at one moment. Segment lengths are those of the Build, always.
struct Body {
  Vec3 bar;                  // middle of the bar
  Vec3 bar_across{0, 1, 0};  // from there towards its left end, length 1
  double shaft_bend_m = 0;   // the shaft between the hands above that line
  Vec3 mid_hip, mid_shoulder, neck, crown, ear_left, ear_right;
  Leg left, right;
  Arm left_arm, right_arm;
  double trunk_lean_rad = 0;
};

struct Foot {
  double x = 0;        // mid-foot, forward
  double lift = 0;     // whole foot off the floor, while stepping
  double heel = 0;     // heel raised about the ball of the foot
  double knee_in = 0;  // the knee inwards of the line of the foot
};

// Inverse kinematics: bar, trunk lean and feet are given; legs bend towards the toes, elbows point down and back.
Body posed(const Build& build, MetrePoint bar, double trunk_lean_rad, Foot left, Foot right);

// A body that stands with the bar in straight hanging arms: the shoulders are a little ahead of the bar, the shins lean
// by shin_deg, and hips lie where thigh and trunk meet. `grip_m`: from the middle of the bar to a hand.
Body posedHanging(const Build& build, MetrePoint bar, double shoulder_ahead_m, double shin_deg, double grip_m);
// Whether trunk and thigh are long enough for that.
bool reachesHanging(const Build& build, MetrePoint bar, double shoulder_ahead_m, double shin_deg, double grip_m);

// The same body elsewhere in the room.
Body moved(Body body, Vec3 by);

// A body that lies on its back on a bench with its head towards -x, feet on the floor, the bar over it in both hands.
struct LyingPose {
  MetrePoint bar;
  double seat_m = 0;           // hips off the pad
  double reach_m = 0;          // shoulders off it
  double heel_m = 0;           // heels off the floor
  double elbow_towards = 0.6;  // the feet, against out to the side
  double bar_tilt_rad = 0;     // the left end higher
  double hands_left_m = 0;     // both, from the bar's middle
  double left_flare = 0;       // how much further out to the side the left elbow is
};
Body posedLying(const Build& build, const LyingPose& pose, double bench_top_m);
MetrePoint lyingShoulder(const Build& build, double bench_top_m);
double pressReach(const Build& build);  // from the shoulder up to the bar with all but straight arms

// A body that stands with the bar in both hands before the shoulders, or overhead.
struct OverheadPose {
  double share_up = 0;        // of the way from the shoulders to straight arms
  double bar_forward_m = 0;   // of its line
  double dip_m = 0;           // hips lower than standing
  double trunk_lean_rad = 0;  // forward is positive
  double heel_m = 0;          // heels off the floor
  double elbow_ahead = 0;     // where elbows point while the bar rests: ahead, against down
  double bar_tilt_rad = 0;    // the left end higher
};
Body posedOverhead(const Build& build, const OverheadPose& pose);

// The trunk lean at which the near shin leans by shin_deg in the sagittal plane while the bar is where it is.
double leanForShin(const Build& build, MetrePoint bar, double shin_deg, Foot left, Foot right);

// Hip crease and top of the knee of a leg: points on the body's surface, not joints. The crease lies on the thigh's
// upper surface, square above the hip joint.
Vec3 hipCrease(const Build& build, const Leg& leg);
Vec3 kneeTop(const Build& build, const Leg& leg);

}  // namespace jib::simulate
