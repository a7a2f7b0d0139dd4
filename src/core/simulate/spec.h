// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"

namespace jib::simulate {

struct LifterSpec {
  double stature_m = 1.75;
  double thigh_factor = 1.0;  // times the textbook share of stature
  double trunk_factor = 1.0;
  double girth_factor = 1.0;
  double stance_m = 0.36;  // between the ankles
  double toe_out_deg = 22;
  double grip_m = 0.42;       // from the middle of the bar to a hand
  double crease_m = 0.072;    // hip joint to the top of the thigh in the fold
  double knee_top_m = 0.056;  // knee joint to the highest point of the knee
};

// What goes wrong, with its size. All zero is a clean lift.
struct LiftFaults {
  double knee_slide_back_m = 0;
  double trunk_pitch_deg = 0;  // lean added in the first third of the ascent, beyond what the slide already does
  double bar_drift_m = 0;      // bar forward at a fifth of the rise; of a pull, half-way up
  double heel_lift_m = 0;
  double knee_cave_m = 0;  // of a squat: each knee inwards of where it would be, a fifth of the way up
  // Of a press: hips off the pad, elbows towards the feet of the bar at the touch, shoulders that reach up at the
  // unrack, and how far the bar sinks while it is paused.
  double seat_lift_m = 0, elbow_ahead_m = 0, reach_m = 0, sink_m = 0;
  double bounce = 0;  // of one that is not paused: 0 it comes to rest on the chest, 1 it comes off it at full speed
  // Of a press too: the left end of the bar higher, at most on the way up; both hands towards the left of the bar's
  // middle; how much further the left elbow is out to the side.
  double bar_tilt_deg = 0, hands_left_m = 0, left_flare = 0;
  double leg_drive_m = 0;  // of a press overhead: how far the hips dip to drive it; `trunk_pitch_deg` leans it back
  double hip_rise_m = 0;   // of a pull: how far the hips come up just before the plates leave
  // Of a pull too: the bar rolls away and back just before it leaves, it sinks on the thighs two thirds of the way up,
  // and each rep is set down that much further forward than the one before.
  double roll_m = 0, dip_m = 0, wander_m = 0;
};

// Of a pull `descent_s` is the lowering, and one without `rest_s` is touch and go. Depth, shin, walk-out and most
// faults are a squat's.
struct SetSpec {
  std::string variant = "low-bar";
  int reps = 3;
  double depth_m = -0.03;  // hip crease above the top of the knee at the bottom; negative is below parallel
  double shin_bottom_deg = 30;
  double descent_s = 1.5;
  double pause_s = 0.0;
  double ascent_s = 1.3;
  double rest_s = 1.2;
  double hold_s = 0.8;    // of a pull: locked out before it is lowered
  double approach_s = 0;  // of a pull: from standing over the bar down to it, and up again at the end; 0 is not filmed
  double slack_s = 0;     // of a pull: the shaft is bent for so long before the plates leave
  double shaft_bend_m = 0;    // of a pull: its middle above its ends while it is pulled on
  double missed_at = 0;       // of a pull or press: share of the way at which the last rep stops; 0 is not missed
  double sticking = 0.35;     // how deep the dip in the ascent's speed is, 0..0.8
  double fade_ascent = 0.06;  // each rep's ascent is this share slower than the one before
  double fade_depth_m = 0.0;  // each rep is this much higher than the one before
  double fade_fault = 0.0;    // each rep's faults are this share larger than the first's
  bool walk_out = true;
  LiftFaults faults;
};

using Colour = std::array<int, 3>;  // red, green, blue 0..255

struct LookSpec {
  Colour skin{205, 160, 130};
  Colour shirt{60, 72, 110};
  Colour shorts{30, 30, 34};
  Colour shoes{190, 60, 50};
  Colour socks{225, 225, 220};
  Colour hair{60, 42, 30};
  Colour plate{28, 30, 34};
  Colour wall{150, 152, 150};
  Colour floor{62, 62, 64};
  double light = 1.0;
  double cloth_pattern = 0.5;  // 0 plain, 1 strongly mottled
  bool safeties = false;       // rails that cross in front of the shins
  bool spotter = false;        // stands behind the head of who presses, and takes the bar of a miss
  bool stored_plates = true;   // round things on the wall that are not the lifter's plate
};

struct CameraSpec {
  std::string side = "left";  // the side of the athlete that faces the camera
  int width = 1280;
  int height = 720;
  int rate_hz = 30;
  double distance_m = 4.0;  // from the middle of the bar, along the floor
  double height_m = 0.9;
  double along_m = 0.0;    // camera moved forward of mid-foot
  double yaw_deg = 0.0;    // turned away from square-on, seen from above; the camera walks round the lifter
  double pitch_deg = 0.0;  // looking down is positive
  double roll_deg = 0.0;
  double hfov_deg = 58.0;
  double shake_deg = 0.0;  // handheld: standard deviation of slow turns
  double noise = 2.5;      // grey levels
  int quality = 23;
  double exposure_share = 0.4;  // of the frame interval, for motion blur
};

// A whole made-up clip.
struct ClipSpec {
  std::uint32_t seed = 1;
  std::string title;
  std::string lift = "squat";
  double plate_mm = 450;
  double sleeve_end_m = 0.98;  // from the middle of the bar to its near end
  double plate_face_m = 0.72;  // to the outer face of the outermost large plate
  int plates_each_side = 2;
  int samples = 4;  // rays a pixel; they are spread over the exposure
  LifterSpec lifter;
  SetSpec set;
  LookSpec look;
  CameraSpec camera;
};

// Unknown keys and wrong types are refused with the key's name. Missing keys keep their defaults.
// Errors  BadData
Result<ClipSpec> parseSpec(std::string_view json);
std::string specToJson(const ClipSpec& spec);

}  // namespace jib::simulate
