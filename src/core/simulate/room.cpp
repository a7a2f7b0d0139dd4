// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/room.h"

#include <algorithm>

#include "core/lifts/lift.h"
#include "core/simulate/bench_script.h"

namespace jib::simulate {
namespace {

float lattice(int x, int y, int z) {
  std::uint32_t h = static_cast<std::uint32_t>(x) * 374761393u + static_cast<std::uint32_t>(y) * 668265263u +
                    static_cast<std::uint32_t>(z) * 2147483647u;
  h = (h ^ (h >> 13)) * 1274126177u;
  return static_cast<float>((h ^ (h >> 16)) & 0xffff) / 65535.0f;
}

Paint paint(const Colour& c) {
  return {static_cast<float>(c[0]) / 255, static_cast<float>(c[1]) / 255, static_cast<float>(c[2]) / 255};
}

}  // namespace

float noise(Vec3f p) {
  const float fx = std::floor(p.x), fy = std::floor(p.y), fz = std::floor(p.z);
  const int x = static_cast<int>(fx), y = static_cast<int>(fy), z = static_cast<int>(fz);
  const auto ease = [](float t) { return t * t * (3 - 2 * t); };
  const float tx = ease(p.x - fx), ty = ease(p.y - fy), tz = ease(p.z - fz);
  float sum = 0;
  for (int i = 0; i < 8; ++i) {
    const int dx = i & 1, dy = (i >> 1) & 1, dz = i >> 2;
    const float w = (dx ? tx : 1 - tx) * (dy ? ty : 1 - ty) * (dz ? tz : 1 - tz);
    sum += w * lattice(x + dx, y + dy, z + dz);
  }
  return sum;
}

Room::Room(const ClipSpec& spec) : spec_(spec) {
  // The far wall is behind the lifter as the camera sees it.
  const float away = spec.camera.side == "left" ? -1.0f : 1.0f;
  wall_y_ = 2.6f * away;
  const Paint steel{0.20f, 0.21f, 0.23f};
  const auto box = [&](float x0, float x1, float y0, float y1, float z0, float z1, int pattern) {
    boxes_.push_back({{x0, std::min(y0, y1), z0}, {x1, std::max(y0, y1), z1}, steel, pattern});
  };
  const lifts::LiftDefinition& lift = *lifts::liftNamed(spec.lift);
  if (lift.body.lying) {
    bench(spec);
    return;
  }
  if (lift.pattern == motion::RepPattern::UpFirst) return;  // a platform and nothing on it
  for (float side : {-1.0f, 1.0f}) {
    box(0.62f, 0.69f, side * 0.54f, side * 0.61f, 0, 2.3f, 1);
    box(1.45f, 1.52f, side * 0.54f, side * 0.61f, 0, 2.3f, 1);
    box(0.62f, 1.52f, side * 0.55f, side * 0.60f, 2.22f, 2.3f, 0);
    box(0.62f, 1.52f, side * 0.55f, side * 0.60f, 0.0f, 0.07f, 0);
    if (spec.look.safeties) box(-0.25f, 0.62f, side * 0.56f, side * 0.60f, 0.36f, 0.42f, 0);
  }
  box(1.45f, 1.52f, -0.6f, 0.6f, 1.6f, 1.66f, 0);
}

// Pad and legs, and a pair of uprights just under where the bar hangs.
void Room::bench(const ClipSpec& spec) {
  const Build build(spec.lifter, spec.set.variant);
  const MetrePoint hooks = BenchScript::hooks(build);
  const Paint steel{0.20f, 0.21f, 0.23f}, leather{0.10f, 0.10f, 0.11f};
  const auto top = static_cast<float>(kBenchTop_m), head = static_cast<float>(hooks.x),
             hang = static_cast<float>(hooks.z) - 0.02f;
  boxes_.push_back({{head - 0.05f, -0.14f, top - 0.07f}, {head + 1.15f, 0.14f, top}, leather, 0});
  for (float x : {head + 0.10f, head + 1.0f})
    boxes_.push_back({{x, -0.04f, 0}, {x + 0.06f, 0.04f, top - 0.07f}, steel, 0});
  for (float side : {-0.52f, 0.52f})
    boxes_.push_back({{head - 0.04f, side - 0.03f, 0}, {head + 0.03f, side + 0.03f, hang}, steel, 1});
}

Paint Room::wallColour(float x, float z) const {
  Paint c = paint(spec_.look.wall);
  c = c * (0.92f + 0.10f * noise({x * 3, z * 3, 7}) + 0.05f * noise({x * 25, z * 25, 3}));
  // A darker panel below, a skirting, posters and a window, so that the background has edges of its own.
  if (z < 1.05f) c = c * 0.72f;
  if (std::abs(z - 1.05f) < 0.02f || z < 0.12f) c = c * 0.6f;
  const auto within = [&](float x0, float x1, float z0, float z1) { return x > x0 && x < x1 && z > z0 && z < z1; };
  if (within(-2.6f, -1.7f, 1.4f, 2.1f)) c = Paint{0.75f, 0.82f, 0.88f} * (0.9f + 0.1f * noise({x * 6, z * 2, 1}));
  if (within(-0.75f, -0.25f, 1.35f, 2.0f)) c = Paint{0.48f, 0.20f, 0.16f} * (0.8f + 0.5f * noise({x * 14, z * 9, 5}));
  if (within(0.9f, 1.3f, 1.3f, 1.75f)) c = Paint{0.20f, 0.34f, 0.40f} * (0.7f + 0.6f * noise({x * 10, z * 14, 9}));
  if (spec_.look.stored_plates) {
    for (int i = 0; i < 4; ++i) {
      const float px = -1.9f + 0.62f * static_cast<float>(i), radius = i % 2 ? 0.225f : 0.17f;
      const float d = std::hypot(x - px, z - 0.62f);
      if (d < radius)
        c = d < 0.03f ? Paint{0.6f, 0.6f, 0.6f}
                      : (d > radius * 0.8f ? Paint{0.13f, 0.13f, 0.14f} : Paint{0.17f, 0.17f, 0.18f});
    }
  }
  return c;
}

// The three walls a side view does not see: bare, with the same panel and skirting, and a few tall windows so that they
// have edges of their own.
Paint Room::plainWallColour(float along, float z) const {
  Paint c = paint(spec_.look.wall) * (0.90f + 0.10f * noise({along * 3, z * 3, 11}));
  if (z < 1.05f) c = c * 0.72f;
  if (std::abs(z - 1.05f) < 0.02f || z < 0.12f) c = c * 0.6f;
  const float bay = std::fmod(std::abs(along) + 0.9f, 2.4f);
  if (bay < 0.7f && z > 1.5f && z < 2.6f) c = Paint{0.62f, 0.70f, 0.76f} * (0.9f + 0.1f * noise({along * 6, z * 2, 1}));
  return c;
}

// The far wall is where it is for every side view; the others stand well outside of what such a view shows.
void Room::lookAtWalls(Vec3f from, Vec3f ray, Hit& hit) const {
  constexpr float kEnds_m = 6, kBehind_m = 7, kCeiling_m = 3.3f, kLit_m = 3;
  const float light = static_cast<float>(spec_.look.light);
  const auto reach = [&](float plane, float at, float along) {
    const float t = std::abs(along) > 1e-6f ? (plane - at) / along : -1;
    return t > 0 && t < hit.distance ? t : -1;
  };
  const auto lit = [&](float z) { return light * (0.62f + 0.14f * std::min(z, kLit_m)); };
  if (const float t = reach(wall_y_, from.y, ray.y); t > 0) {
    const Vec3f p = from + ray * t;
    hit = {t, wallColour(p.x, p.z) * lit(p.z), false, p};
  }
  const float behind = wall_y_ > 0 ? -kBehind_m : kBehind_m;
  if (const float t = reach(behind, from.y, ray.y); t > 0) {
    const Vec3f p = from + ray * t;
    hit = {t, plainWallColour(p.x, p.z) * lit(p.z), false, p};
  }
  for (float end : {-kEnds_m, kEnds_m})
    if (const float t = reach(end, from.x, ray.x); t > 0) {
      const Vec3f p = from + ray * t;
      hit = {t, plainWallColour(p.y, p.z) * (0.92f * lit(p.z)), false, p};
    }
  if (const float t = reach(kCeiling_m, from.z, ray.z); t > 0) {
    const Vec3f p = from + ray * t;
    const float seam = std::abs(std::fmod(std::abs(p.x) + 0.6f, 1.2f) - 0.6f) < 0.01f ? 0.85f : 1.0f;
    hit = {t, paint(spec_.look.wall) * (0.78f * light * seam), false, p};
  }
}

Paint Room::floorColour(float x, float y) const {
  Paint c = paint(spec_.look.floor);
  const float speck = noise({x * 90, y * 90, 2});
  c = c * (0.9f + 0.14f * noise({x * 4, y * 4, 0}));
  if (speck > 0.80f) c = c + Paint{0.10f, 0.10f, 0.11f};
  // A wooden strip of platform under the lifter.
  if (std::abs(y) < 0.62f && x > -1.2f && x < 1.3f) {
    const float grain = noise({x * 2.0f, y * 45, 4});
    c = Paint{0.50f, 0.40f, 0.28f} * (0.75f + 0.4f * grain);
    if (std::abs(std::fmod(std::abs(y) + 0.31f, 0.31f)) < 0.006f) c = c * 0.6f;
  }
  if (std::abs(std::fmod(std::abs(x) + 0.5f, 1.0f) - 0.5f) < 0.004f) c = c * 0.75f;
  return c;
}

Room::Hit Room::look(Vec3f from, Vec3f ray) const {
  Hit hit;
  const float light = static_cast<float>(spec_.look.light);
  if (ray.z < -1e-5f) {
    const float t = -from.z / ray.z;
    const Vec3f p = from + ray * t;
    hit = {t, floorColour(p.x, p.y) * (light * std::max(0.45f, 1.05f - 0.06f * length(Vec3f{p.x, p.y, 0}))), true, p};
  }
  lookAtWalls(from, ray, hit);
  for (const Box& box : boxes_) {
    float enter = 0, leave = 1e9f;
    int face = 0;
    const float o[3] = {from.x, from.y, from.z}, d[3] = {ray.x, ray.y, ray.z};
    const float lo[3] = {box.low.x, box.low.y, box.low.z}, hi[3] = {box.high.x, box.high.y, box.high.z};
    for (int k = 0; k < 3; ++k) {
      const float inverse = 1.0f / (std::abs(d[k]) > 1e-9f ? d[k] : 1e-9f);
      float near = (lo[k] - o[k]) * inverse, far = (hi[k] - o[k]) * inverse;
      if (near > far) std::swap(near, far);
      if (near > enter) {
        enter = near;
        face = k;
      }
      leave = std::min(leave, far);
    }
    if (enter <= 0 || enter >= leave || enter >= hit.distance) continue;
    const Vec3f p = from + ray * enter;
    Paint c = box.colour * (light * (face == 1 ? 1.0f : face == 0 ? 0.7f : 1.25f));
    if (box.pattern == 1 && face == 1) {
      const float mid = (box.low.x + box.high.x) / 2;
      const float hole = std::fmod(p.z, 0.1f) - 0.05f;
      if (std::hypot(p.x - mid, hole) < 0.011f) c = c * 0.25f;
    }
    hit = {enter, c, false, p};
  }
  return hit;
}

}  // namespace jib::simulate
