// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

namespace jib::simulate {

// World frame of the simulation, in metres: x forward (where the lifter faces), y to the lifter's left, z up; origin on
// the floor between the feet, at mid-foot.
struct Vec3 {
  double x = 0, y = 0, z = 0;
};

inline Vec3 operator+(Vec3 a, Vec3 b) {
  return {a.x + b.x, a.y + b.y, a.z + b.z};
}
inline Vec3 operator-(Vec3 a, Vec3 b) {
  return {a.x - b.x, a.y - b.y, a.z - b.z};
}
inline Vec3 operator*(Vec3 a, double k) {
  return {a.x * k, a.y * k, a.z * k};
}
inline double dot(Vec3 a, Vec3 b) {
  return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline Vec3 cross(Vec3 a, Vec3 b) {
  return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
inline double length(Vec3 a) {
  return std::sqrt(dot(a, a));
}
inline Vec3 unit(Vec3 a) {
  const double l = length(a);
  return l > 0 ? a * (1 / l) : Vec3{0, 0, 1};
}
inline Vec3 between(Vec3 a, Vec3 b, double share) {
  return a + (b - a) * share;
}

}  // namespace jib::simulate
