// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/geometry.h"
#include "core/motion/chest.h"
#include "core/motion/events.h"
#include "core/motion/walk_out.h"
#include "core/tracing/clip_tracer.h"

namespace jib::motion {

struct Angles {
  std::optional<double> shin_deg, torso_deg, thigh_deg;  // lean from vertical, + when the upper end is further forward
  std::optional<double> knee_deg, hip_deg, elbow_deg;    // included, 180 is straight
};

// One landmark over the clip, in metres of the lifter's frame, filtered.
// sigma_m: 1 σ of a place; wander_m: 1 σ of how far the error changes between two moments of the same rep, which is
// what matters for a difference.
struct Path {
  std::vector<std::optional<MetrePoint>> at;
  std::vector<double> sigma_m;
  std::vector<double> wander_m;
};

// How far the ends of the near shoe are above where they stood when the rep's stretch began, by the shoe's own picture.
struct ShoeRise {
  std::optional<double> heel_m, toe_m;
};

// What calibration leaves uncertain in every number of the clip.
struct Calibration {
  double pixels_per_metre = 0;  // at the plate
  double scale_sigma_rel = 0.01;
  double roll_sigma_rad = 0.015;
  double yaw_rad = 0, yaw_sigma_rad = 0.05;  // of the camera about the upright
  double bar_to_foot_sigma_m = 0.02;         // bar against foot: they stand at different distances from the camera
  double bar_speed_sigma_mps = 0;            // of a bar that lies on the floor (bar_on_floor.h), beyond what all have
  double height_sigma_m = 0.005;             // crease against knee: what height and pitch of the camera do to the two
  double look_down_deg = 0;                  // steepness of the camera's line to the hip at the bottom
  double turned_deg = 0;                     // of the camera from square-on to the side, where the sightings tell
  bool oblique = false;                      // so far that no place or angle of the body can be judged
  bool foot_from_above = false;              // looked down on, and nobody placed the feet: 12 cm off was seen
  bool far_plate = false;                    // the far plate was followed, half hidden behind the lifter
  bool forward_known = false;
  bool floor_known = false;
  // Of the body as the network sees it, for what cannot be (lifts/impossible.h).
  bool looked_for_body = false;
  std::size_t looks_at_body = 0;                               // on which somebody was made out
  std::optional<double> hands_off_bar_m, shoulders_off_bar_m;  // up or down, the middle of all looks in a rep's reach
  std::optional<double> stature_m;                             // by the limbs that were fitted
  // What the coach judges although the view does not carry it: ids of claims, set by whoever asks.
  std::vector<std::string> accepted;
  bool accepts(std::string_view claim) const;
};

// Both sides of a body that faces the camera or turns its back, by the athlete's own sides.
// Frame   metres: x towards the athlete's left, from the middle of the feet; z up from the floor. Of one who lies, both
//         from the middle of the shoulders.
struct FrontMotion {
  bool rear = false;
  std::array<std::array<Path, tracing::kLandmarks>, 2> side;  // by BodySide; Landmark::Bar: that end
  const Path& path(tracing::BodySide s, tracing::Landmark l) const {
    return side[static_cast<std::size_t>(s)][tracing::at(l)];
  }
};

// The trace after calibration, camera correction and filtering.
// Frame   metres: x forward, z up, origin at mid-foot on the floor. Without body points the origin is the bar's resting
//         place on the floor's side: only differences of bar_m mean anything then (floor_known is false)
// Time    times_s are presentation times; rates and durations are of real time (slow_factor divided out)
// Holds   one entry a frame everywhere; not seen is nullopt
struct Motion {
  std::vector<double> times_s;
  double slow_factor = 1;
  std::array<Path, tracing::kLandmarks> paths;  // Bar: the bar in the sagittal plane, from plate and end
  std::vector<std::optional<double>> bar_vz_mps, bar_vx_mps;
  std::vector<Angles> angles;
  std::vector<ShoeRise> shoe;  // one a frame; empty where the shoe was not watched
  // How far the hip of who lies on a bench has come up since the arms were first straight, by its own picture; one a
  // frame, empty where it was not watched.
  std::vector<std::optional<double>> seat_rise_m;
  // How much higher the hip of who pulls is than when the plates leave, by its own picture; one a frame, empty where it
  // was not watched.
  std::vector<std::optional<double>> hip_before_off_m;
  std::vector<ChestAt> chest;        // of who lies on a bench; empty of others
  std::optional<FrontMotion> front;  // then `paths` hold the bar alone: its middle
  std::vector<FeetAt> feet;          // as they are seen, walk-out and all; empty without sightings
  Calibration calibration;

  const Path& path(tracing::Landmark landmark) const { return paths[tracing::at(landmark)]; }
  std::size_t frameAt(double t_s) const;
  // Linear between frames.
  std::optional<MetrePoint> placeAt(tracing::Landmark landmark, double t_s) const;
  std::optional<double> speedAt(double t_s) const;
  double real_s(double from_t_s, double to_t_s) const { return (to_t_s - from_t_s) / slow_factor; }
};

// slow_factor: how many times slower than life the clip plays; 1 for an ordinary one.
Motion motionOf(const tracing::ClipTrace& clip, double slow_factor = 1);

// Angles of one posture in metres.
Angles anglesOf(const std::array<std::optional<MetrePoint>, tracing::kLandmarks>& points);

// A motion whose places are exactly known (a simulation's truth): no filtering, no uncertainty.
Motion exactMotion(std::vector<double> times_s,
                   const std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>>& metres);

}  // namespace jib::motion
