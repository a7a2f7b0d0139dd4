// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/solid.h"

#include <algorithm>

namespace jib::simulate {
namespace {

constexpr float kJoin_m = 0.035f;  // how far skin and cloth flow into each other at a joint

float smoothUnion(float a, float b, float k) {
  const float h = std::max(k - std::abs(a - b), 0.0f) / k;
  return std::min(a, b) - h * h * k * 0.25f;
}

}  // namespace

void Solid::frame(Vec3 axis, Vec3 hinge) {
  const Vec3 along = unit(axis);
  const Vec3 other = std::abs(dot(along, hinge)) < 0.9 ? hinge : Vec3{0, 0, 1};
  const Vec3 side = unit(other - along * dot(other, along));
  u = toFloat(along);
  v = toFloat(side);
  w = toFloat(cross(along, side));
}

Solid Solid::roundCone(Material m, int group, Vec3 a, Vec3 b, double ra, double rb, Vec3 hinge) {
  Solid s;
  s.kind = Kind::RoundCone;
  s.material = m;
  s.group = static_cast<std::uint8_t>(group);
  s.a = toFloat(a);
  s.b = toFloat(b);
  s.r1 = static_cast<float>(ra);
  s.r2 = static_cast<float>(rb);
  s.frame(b - a, hinge);
  s.bound = toFloat(between(a, b, 0.5));
  s.bound_r = static_cast<float>(length(b - a) / 2 + std::max(ra, rb));
  return s;
}

Solid Solid::ellipsoid(Material m, int group, Vec3 centre, Vec3 u, Vec3 v, double ru, double rv, double rw) {
  Solid s;
  s.kind = Kind::Ellipsoid;
  s.material = m;
  s.group = static_cast<std::uint8_t>(group);
  s.a = s.b = toFloat(centre);
  s.u = toFloat(unit(u));
  s.v = toFloat(unit(v - unit(u) * dot(v, unit(u))));
  s.w = toFloat(cross(unit(u), unit(v - unit(u) * dot(v, unit(u)))));
  s.r1 = static_cast<float>(ru);
  s.r2 = static_cast<float>(rv);
  s.r3 = static_cast<float>(rw);
  s.bound = s.a;
  s.bound_r = std::max({s.r1, s.r2, s.r3});
  return s;
}

Solid Solid::disc(Material m, int group, Vec3 a, Vec3 b, double r, double edge) {
  Solid s = roundCone(m, group, a, b, r, edge);
  s.kind = Kind::Disc;
  s.bound_r = static_cast<float>(std::hypot(length(b - a) / 2, r));
  return s;
}

float Solid::distance(Vec3f p) const {
  const Vec3f d = p - a;
  switch (kind) {
    case Kind::Ellipsoid: {
      const Vec3f q{dot(d, u), dot(d, v), dot(d, w)};
      const Vec3f k1{q.x / r1, q.y / r2, q.z / r3};
      const Vec3f k2{q.x / (r1 * r1), q.y / (r2 * r2), q.z / (r3 * r3)};
      const float l = length(k1), m = length(k2);
      return m > 0 ? l * (l - 1) / m : -std::min({r1, r2, r3});
    }
    case Kind::Disc: {
      const float half = length(b - a) / 2;
      const float along = dot(d, u) - half;
      const Vec3f radial = d - u * (along + half);
      const float dx = length(radial) - (r1 - r2), dy = std::abs(along) - (half - r2);
      const float ox = std::max(dx, 0.0f), oy = std::max(dy, 0.0f);
      return std::min(std::max(dx, dy), 0.0f) + std::sqrt(ox * ox + oy * oy) - r2;
    }
    case Kind::RoundCone:
      break;
  }
  const Vec3f axis = b - a;
  const float l2 = dot(axis, axis);
  const float rr = r1 - r2, a2 = l2 - rr * rr, il2 = 1.0f / l2;
  const float y = dot(d, axis), z = y - l2;
  const Vec3f x = d * l2 - axis * y;
  const float x2 = dot(x, x), y2 = y * y * l2, z2 = z * z * l2;
  const float k = (rr > 0 ? 1.0f : -1.0f) * rr * rr * x2;
  if ((z > 0 ? 1.0f : -1.0f) * a2 * z2 > k) return std::sqrt(x2 + z2) * il2 - r2;
  if ((y > 0 ? 1.0f : -1.0f) * a2 * y2 < k) return std::sqrt(x2 + y2) * il2 - r1;
  return (std::sqrt(x2 * a2 * il2) + y * rr) * il2 - r1;
}

Nearest nearest(const std::vector<Solid>& all, const std::vector<int>& among, Vec3f p) {
  Nearest best;
  constexpr int kGroups = 8;
  float joined[kGroups];
  std::fill(joined, joined + kGroups, 1e9f);
  float closest = 1e9f;
  for (int i : among) {
    const Solid& s = all[static_cast<std::size_t>(i)];
    // A solid far outside its bounding sphere cannot be nearest, nor join in.
    const Vec3f away = p - s.bound;
    const float reach = closest + kJoin_m + s.bound_r;
    if (dot(away, away) > reach * reach) continue;
    const float d = s.distance(p);
    float& g = joined[s.group];
    g = s.group == 0 ? std::min(g, d) : smoothUnion(g, d, kJoin_m);
    if (d < closest) {
      closest = d;
      best.solid = i;
    }
  }
  for (float g : joined) best.distance = std::min(best.distance, g);
  return best;
}

}  // namespace jib::simulate
