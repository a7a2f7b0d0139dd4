// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <vector>

#include "core/simulate/vec3.h"

namespace jib::simulate {

struct Vec3f {
  float x = 0, y = 0, z = 0;
};
inline Vec3f toFloat(Vec3 v) {
  return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}
inline Vec3f operator+(Vec3f a, Vec3f b) {
  return {a.x + b.x, a.y + b.y, a.z + b.z};
}
inline Vec3f operator-(Vec3f a, Vec3f b) {
  return {a.x - b.x, a.y - b.y, a.z - b.z};
}
inline Vec3f operator*(Vec3f a, float k) {
  return {a.x * k, a.y * k, a.z * k};
}
inline float dot(Vec3f a, Vec3f b) {
  return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline float length(Vec3f a) {
  return std::sqrt(dot(a, a));
}

enum class Material : std::uint8_t { Skin, Shirt, Shorts, Shoe, Sole, Sock, Hair, Steel, Plate, PlateMark, Belt };

// One solid of the moving scene, by its distance field.
// RoundCone: radius r1 at a, r2 at b. Ellipsoid: centre a, radii (r1 along axis u, r2 along v, r3 along w).
// Disc: a cylinder from a to b, radius r1, edge rounded by r2. Group: solids of one group flow into each other.
// Source  distance fields of rounded cones and ellipsoids: Quilez, "Distance functions"; smooth union: polynomial form
struct Solid {
  enum class Kind : std::uint8_t { RoundCone, Ellipsoid, Disc } kind = Kind::RoundCone;
  Material material = Material::Skin;
  std::uint8_t group = 0;
  Vec3f a, b;
  float r1 = 0, r2 = 0, r3 = 0;
  Vec3f u, v, w;  // frame for the pattern on it; u runs from a to b
  Vec3f bound;    // sphere around it
  float bound_r = 0;

  float distance(Vec3f p) const;

  // `hinge`: a direction fixed to the limb (its joint's axis), so that the pattern turns with the limb and not about
  // it.
  static Solid roundCone(Material m, int group, Vec3 a, Vec3 b, double ra, double rb, Vec3 hinge = {0, 1, 0});
  static Solid ellipsoid(Material m, int group, Vec3 centre, Vec3 u, Vec3 v, double ru, double rv, double rw);
  static Solid disc(Material m, int group, Vec3 a, Vec3 b, double r, double edge);

 private:
  void frame(Vec3 axis, Vec3 hinge);
};

// Distance to the nearest of `solids` (indices into all), with smooth joins inside a group, and which one it is.
struct Nearest {
  float distance = 1e9f;
  int solid = -1;
};
Nearest nearest(const std::vector<Solid>& all, const std::vector<int>& among, Vec3f p);

}  // namespace jib::simulate
