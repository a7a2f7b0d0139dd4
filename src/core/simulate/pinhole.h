// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/geometry.h"
#include "core/simulate/spec.h"
#include "core/simulate/vec3.h"

namespace jib::simulate {

// An ideal pinhole camera with square pixels and its principal point in the middle of the picture.
struct Pinhole {
  Vec3 place;
  Vec3 right, down, ahead;  // unit vectors, at right angles
  double focal_px = 1000;
  PixelPoint centre;

  static Pinhole from(const CameraSpec& spec);
  // The same camera turned by small angles, as a hand does.
  Pinhole shaken(double yaw_rad, double pitch_rad, double roll_rad) const;

  double depth(Vec3 p) const { return dot(p - place, ahead); }
  PixelPoint project(Vec3 p) const;
  Vec3 ray(PixelPoint pixel) const;  // unit
};

// The clip's camera over time: still on its tripod, or swaying in a hand.
class Handheld {
 public:
  explicit Handheld(const ClipSpec& spec);
  Pinhole at(double t_s) const;
  bool still() const { return shake_rad_ <= 0; }

 private:
  Pinhole rest_;
  double shake_rad_;
  double phase_;
};

}  // namespace jib::simulate
