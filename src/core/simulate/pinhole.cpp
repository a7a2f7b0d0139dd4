// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/pinhole.h"

#include "core/base/angle.h"

namespace jib::simulate {

Pinhole Pinhole::from(const CameraSpec& spec) {
  // Side "left": the camera stands at +y and looks towards -y.
  const double side = spec.side == "left" ? 1.0 : -1.0;
  const double round = radians(spec.yaw_deg);
  Pinhole camera;
  camera.ahead = unit({-std::sin(round), -side * std::cos(round), 0});
  const Vec3 aim{spec.along_m, 0, 0};
  camera.place = aim - camera.ahead * spec.distance_m + Vec3{0, 0, spec.height_m};
  camera.down = {0, 0, -1};
  camera.right = cross(camera.down, camera.ahead);
  camera.focal_px = spec.width / 2.0 / std::tan(radians(spec.hfov_deg) / 2);
  camera.centre = {spec.width / 2.0, spec.height / 2.0};
  return camera.shaken(0, radians(spec.pitch_deg), radians(spec.roll_deg));
}

Pinhole Pinhole::shaken(double yaw, double pitch, double roll) const {
  Pinhole c = *this;
  const auto turn = [](Vec3& a, Vec3& b, double angle) {
    const Vec3 a0 = a, b0 = b;
    a = a0 * std::cos(angle) + b0 * std::sin(angle);
    b = b0 * std::cos(angle) - a0 * std::sin(angle);
  };
  turn(c.ahead, c.right, yaw);
  turn(c.ahead, c.down, pitch);
  turn(c.right, c.down, roll);
  return c;
}

PixelPoint Pinhole::project(Vec3 p) const {
  const Vec3 d = p - place;
  const double z = dot(d, ahead);
  return {centre.x + focal_px * dot(d, right) / z, centre.y + focal_px * dot(d, down) / z};
}

Vec3 Pinhole::ray(PixelPoint pixel) const {
  return unit(ahead + right * ((pixel.x - centre.x) / focal_px) + down * ((pixel.y - centre.y) / focal_px));
}

Handheld::Handheld(const ClipSpec& spec)
    : rest_(Pinhole::from(spec.camera)), shake_rad_(radians(spec.camera.shake_deg)), phase_(spec.seed * 1.7) {}

Pinhole Handheld::at(double t) const {
  if (still()) return rest_;
  // Slow sums of sines, with phases from the seed: hands sway at about 0.3 to 2 Hz.
  const auto sway = [&](double phase) {
    const double p = phase + phase_;
    return 0.9 * std::sin(2 * kPi * 0.31 * t + p) + 0.5 * std::sin(2 * kPi * 0.83 * t + 2.1 * p) +
           0.2 * std::sin(2 * kPi * 1.9 * t + 3.3 * p);
  };
  return rest_.shaken(shake_rad_ * sway(0.3), shake_rad_ * sway(1.9), 0.5 * shake_rad_ * sway(4.1));
}

}  // namespace jib::simulate
